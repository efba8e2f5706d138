import path from 'node:path'
import * as v from 'valibot'
import { cutText, LIMITS } from '@/core/routine'
import { oneLine } from '@/core/routine/document/text-schema'
import type { End } from './bounded'
import { LONGEST_TAG } from './first-bytes'
import { Problem } from './problem'
import { readBounded } from './read-bounded'
import { LONGEST_SONG, SOUND_RATES } from './settings'
import { turns } from './turns'

/** What a song file says of itself. */
export interface Tags {
  title: string
  credit: string
  mime: string
}

const MIMES: readonly [RegExp, string][] = [
  [/wave/i, 'audio/wav'],
  [/mpeg|mp3/i, 'audio/mpeg'],
  [/flac/i, 'audio/flac'],
  [/ogg/i, 'audio/ogg'],
  [/adts|aac/i, 'audio/aac'],
  [/m4a|mp4|isom|quicktime/i, 'audio/mp4'],
  [/webm|matroska|ebml/i, 'audio/webm'],
]

const text = v.optional(v.string())
const number = v.nullish(v.number())
const Said = v.nullable(
  v.object({ container: text, sampleRate: number, codec: text, duration: number, title: text, artist: text }),
)

/** A reader that uses more will not come to an end: twenty minutes of sound take one second of a processor. */
const BOUNDS = { seconds: 10, megabytes: 420 }
/** Of the sounds' own objects, in MB. */
const HEAP_MB = 160

const inTurn = turns(
  2,
  200,
  'Too many songs are being taken in. This one is tried again in a moment. Nothing was kept yet.',
)

const READER = '.made/tags.mjs'

/** Why a file is not taken although it may be a sound: the reader ended of it, twice, or was not to be had. */
function unread(fileName: string, end: Exclude<End, 'well'>): Problem {
  if (end === 'no room')
    return new Problem(
      503,
      `The machine has no room to look at “${fileName}” now. It is tried again in a moment. Nothing was kept yet.`,
      'busy',
    )
  return new Problem(
    422,
    end === 'over'
      ? `“${fileName}” could not be looked at: it takes more time or memory than any song does. Nothing was kept. Save it anew as WAV or MP3.`
      : `“${fileName}” could not be looked at: its reader ended unexpectedly, twice. Nothing was kept. It may be damaged: save it anew as WAV or MP3.`,
    end,
  )
}

/** What a file that is none is told. */
export const notSound = (fileName: string) =>
  new Problem(
    415,
    `“${fileName}” is not a sound file Azalea can read. Nothing was kept. It takes WAV, MP3, FLAC, Ogg Vorbis, Opus and AAC/M4A.`,
  )

/** What a file is told whose sound stands behind too much. */
export const longTag = (fileName: string) => (bytes: number) =>
  new Problem(
    415,
    `“${fileName}” has ${Math.round(bytes / 1e6)} MB of pictures or padding before its sound; ${Math.round(LONGEST_TAG / 1e6)} MB are taken. Nothing was kept. Save it again without its pictures.`,
  )

/**
 * Reads the tags of a file and checks that it is sound of a length Azalea takes.
 * @param script the reader's program
 * @throws Problem 415 when it is no sound file or holds no sound, 413 when it is too long; 422 where its reader did not come to an
 *   end, 503 `busy` where there is no room for one now
 */
export async function readTags(
  file: string,
  fileName: string,
  script = path.resolve(/* turbopackIgnore: true */ READER),
  bounds = BOUNDS,
): Promise<Tags> {
  const done = await inTurn(() => readBounded(Said, { script, args: [file], bounds, heap: HEAP_MB }))
  if (done.end !== 'well') throw unread(fileName, done.end)
  const meta = done.said
  const mime = MIMES.find(([name]) => name.test(meta?.container ?? ''))?.[1]
  const seconds = meta?.duration ?? undefined
  const rate = meta?.sampleRate ?? undefined
  const [least, most] = SOUND_RATES
  // A header alone does not make a song: text named .mp3 may be taken for a broken MPEG stream.
  const sounds = (rate !== undefined ? rate >= least && rate <= most : Boolean(meta?.codec)) && seconds !== 0
  if (!meta || !mime || !sounds || (seconds !== undefined && !Number.isFinite(seconds)))
    throw notSound(fileName)
  if (seconds !== undefined && seconds > LONGEST_SONG)
    throw new Problem(
      413,
      `“${fileName}” is ${Math.round(seconds / 60)} minutes long; Azalea takes songs of up to ${LONGEST_SONG / 60} minutes. Nothing was kept. Cut out the song and try again.`,
    )
  const clean = (s: string | undefined) => cutText(oneLine(s ?? '').trim(), LIMITS.text).trim()
  return {
    title: clean(meta.title) || clean(fileName.replace(/\.[^.]*$/, '')) || 'Untitled song',
    credit: clean(meta.artist),
    mime,
  }
}
