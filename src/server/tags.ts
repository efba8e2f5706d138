import { execFile } from 'node:child_process'
import path from 'node:path'
import * as v from 'valibot'
import { cutText, LIMITS } from '@/core/routine'
import { oneLine } from '@/core/routine/text-schema'
import { LONGEST_TAG } from './first-bytes'
import { Problem } from './problem'
import { LONGEST_SONG, SOUND_RATES } from './settings'
import { turns, yielding } from './turns'

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

/** A reader that takes longer will not come to an end: twenty minutes of sound take one second. */
const MOST_MS = 8000
const MEMORY_MB = 160

const inTurn = turns(
  2,
  200,
  'Too many songs are being taken in. Try this one again in a moment. Nothing was kept.',
)

/** What the reader's process says of a file; null where it said nothing, was broken, or was ended. */
function said(file: string): Promise<v.InferOutput<typeof Said>> {
  const script = path.resolve(/* turbopackIgnore: true */ '.made/tags.mjs')
  return new Promise((resolve) => {
    const child = execFile(
      process.execPath,
      ['--no-warnings', `--max-old-space-size=${MEMORY_MB}`, script, file],
      { timeout: MOST_MS, killSignal: 'SIGKILL', maxBuffer: 4 * 1024 ** 2 },
      (error, out) => {
        if (error) return resolve(null)
        try {
          resolve(v.parse(Said, JSON.parse(out)))
        } catch {
          resolve(null)
        }
      },
    )
    yielding(child)
  })
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
 * @throws Problem when it is no sound file, holds no sound, or is too long
 */
export async function readTags(file: string, fileName: string): Promise<Tags> {
  const meta = await inTurn(() => said(file))
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
