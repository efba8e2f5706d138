import { createHash } from 'node:crypto'
import { mkdirSync } from 'node:fs'
import { readFile, rename, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { type AppVoice, readAloud, stressOf, trimmed } from '@/core/drill'
import { writeWav } from '@/core/formats/wav'
import { passingFile } from './leftovers'
import { Problem } from './problem'
import { dataDirectory } from './settings'
import { speak } from './speaking'

/** A spoken word as a WAV file, and where in it the stress falls. */
interface Spoken {
  wav: Buffer
  stress: number
}

/** A word trimmed to its sound, as a WAV file. */
export async function wordFile(text: string, voice: AppVoice, within?: number): Promise<Spoken> {
  const word = trimmed(await speak(text, voice))
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
export async function spoken(call: string, voice: AppVoice = 'clear'): Promise<Spoken> {
  const text = readAloud(call)
  if (!text) throw new Problem(422, `There is nothing to say in “${call}”.`)
  const dir = path.join(dataDirectory(), 'voice')
  const name = createHash('sha256')
    .update(`${CACHE_VERSION} ${voice === 'clear' ? '' : `(${voice}) `}${text.toLowerCase()}`)
    .digest('hex')
  const file = path.join(dir, `${name}.wav`)
  try {
    const [wav, stress] = await Promise.all([readFile(file), readFile(`${file}.stress`, 'utf8')])
    return { wav, stress: Number(stress) }
  } catch {
    const made = await wordFile(text, voice, FIRST_WORD)
    mkdirSync(dir, { recursive: true, mode: 0o700 })
    // The stress first, and each file under its name only when it is whole.
    for (const [to, content] of [
      [`${file}.stress`, String(made.stress)],
      [file, made.wav],
    ] as const) {
      const part = passingFile('part')
      await writeFile(part, content)
      await rename(part, to)
    }
    return made
  }
}
