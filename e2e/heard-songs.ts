/* Songs that were made and heard once, for all workers of a run. */
import { mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { type Pcm, readWav, toMono } from '../src/core/formats/wav'
import { type Hearing, packPeaks } from '../src/core/hear'
import { listen } from '../src/core/hear/listen'

export interface HeardSong {
  wav: Buffer
  hearing: Hearing
  peaks: Uint8Array
}

/** The demo's data, made once; each file's server gets a copy. */
export const SEEDED = path.resolve('.cache/e2e-seeded')

/** The sound of the demo's song, which is the only one there. */
export function demoSong(): Pcm {
  const sounds = path.join(SEEDED, 'audio')
  const [file, ...others] = readdirSync(sounds)
  if (!file || others.length) throw new Error('the demo has one song')
  return readWav(readFileSync(path.join(sounds, file)))
}

const KEPT = path.resolve('.cache/e2e-songs')
const known = new Map<string, HeardSong>()

/** Forgets all of them: the next run may hear otherwise. */
export const forgetHeardSongs = (): void => rmSync(KEPT, { recursive: true, force: true })

/** A song and what is heard in it. @param make its file, made where no worker made it before */
export function heardSong(name: string, make: () => Buffer): HeardSong {
  const there = known.get(name) ?? kept(name) ?? heard(name, make())
  known.set(name, there)
  return there
}

const fileOf = (name: string, kind: string) => path.join(KEPT, `${name.replaceAll(' ', '-')}.${kind}`)

function kept(name: string): HeardSong | null {
  try {
    const { hearing, peaks } = JSON.parse(readFileSync(fileOf(name, 'json'), 'utf8'))
    return { wav: readFileSync(fileOf(name, 'wav')), hearing, peaks: Buffer.from(peaks, 'base64') }
  } catch {
    return null
  }
}

function heard(name: string, wav: Buffer): HeardSong {
  const pcm = readWav(wav)
  const { hearing, peaks: high } = listen(toMono(pcm), pcm.sampleRate)
  const peaks = packPeaks(high)
  mkdirSync(KEPT, { recursive: true })
  // Whole or not there: another worker may look meanwhile. What is heard comes last, and names the song.
  for (const [kind, text] of [
    ['wav', wav],
    ['json', JSON.stringify({ hearing, peaks: Buffer.from(peaks).toString('base64') })],
  ] as const) {
    const part = fileOf(name, `${process.pid}-${kind}`)
    writeFileSync(part, text)
    renameSync(part, fileOf(name, kind))
  }
  return { wav, hearing, peaks }
}
