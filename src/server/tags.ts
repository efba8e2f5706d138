import { readFile, stat } from 'node:fs/promises'
import { parseFile } from 'music-metadata'
import { readWav } from '@/core/formats/wav'
import { Problem } from './problem'
import { LONGEST_SONG } from './settings'

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

/** A WAV that ends where its sound should begin, though its header promises some. */
async function isBareWav(path: string): Promise<boolean> {
  if ((await stat(path)).size > 4096) return false
  try {
    readWav(await readFile(path))
    return false
  } catch (error) {
    return /holds no sound/.test(String(error))
  }
}

/**
 * Reads the tags of a file and checks that it is sound of a length Azalea takes.
 * @throws Problem when it is no sound file, holds no sound, or is too long
 */
export async function readTags(path: string, fileName: string): Promise<Tags> {
  const meta = await parseFile(path, { duration: true, skipCovers: true }).catch(() => null)
  const container = meta?.format.container ?? ''
  const mime = MIMES.find(([name]) => name.test(container))?.[1]
  const seconds = meta?.format.duration
  // A header alone does not make a song: text named .mp3 may be taken for a broken MPEG stream.
  const sounds = (Boolean(meta?.format.sampleRate) || Boolean(meta?.format.codec)) && !(await isBareWav(path))
  if (!meta || !mime || !sounds || seconds === 0)
    throw new Problem(
      415,
      `“${fileName}” is not a sound file Azalea can read. Nothing was kept. It takes WAV, MP3, FLAC, Ogg Vorbis, Opus and AAC/M4A.`,
    )
  if (seconds !== undefined && seconds > LONGEST_SONG)
    throw new Problem(
      413,
      `“${fileName}” is ${Math.round(seconds / 60)} minutes long; Azalea takes songs of up to ${LONGEST_SONG / 60} minutes. Nothing was kept. Cut out the song and try again.`,
    )
  const clean = (s: string | undefined) => (s ?? '').trim().slice(0, 200)
  return {
    title: clean(meta.common.title) || clean(fileName.replace(/\.[^.]*$/, '')) || 'Untitled song',
    credit: clean(meta.common.artist),
    mime,
  }
}
