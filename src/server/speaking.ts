import { execFile } from 'node:child_process'
import { mkdir, readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import { promisify } from 'node:util'
import type { AppVoice, SpokenWord } from '@/core/drill'
import { readWav } from '@/core/formats/wav'
import { boundedRun, LONGEST_MS } from './bounded'
import { passingFile } from './leftovers'
import { Problem } from './problem'

/*
 * The voice's program dies now and then, and must not take the server along: it runs in a process of its own. Starting
 * one costs as much as five words, so the words that wait go into the next one together.
 */

const run = promisify(execFile)
/** Processes at one time. */
const AT_ONCE = 2
/** Words of one process: what is asked for first is heard soon, and one that dies takes few along. */
const TOGETHER = 16
/** Words that may wait. */
const MOST = 300
const TRIES = 3
/** Seconds of a processor: to begin, and for a word, which takes 0.06. What uses more will never be said. */
const [START, WORD] = [6, 1]
const MEGABYTES = 600

interface Waiting {
  text: string
  tries: number
  done: (word: SpokenWord) => void
  failed: (why: unknown) => void
}

/**
 * Speaks texts by a script that writes them as 0.wav, 1.wav ... into a folder.
 * @param voice the script's name of it
 * @returns speaks one text; rejects with Problem 503 where too many wait already, or with what the script failed of,
 *   after three tries
 */
export function speaker(script: string, most = MOST, voice = 'slt'): (text: string) => Promise<SpokenWord> {
  const waiting: Waiting[] = []
  let running = 0

  const next = () => {
    if (running >= AT_ONCE || !waiting.length) return
    // Shared out between the processes. A word that was with one that died goes alone: it may be the one it died of.
    const alone = (waiting[0] as Waiting).tries > 0
    const many = alone ? 1 : Math.min(TOGETHER, Math.ceil(waiting.length / (AT_ONCE - running)))
    const words = waiting.splice(0, many)
    running++
    together(script, voice, words).then((left) => {
      waiting.push(...left)
      running--
      next()
    })
    next()
  }

  return (text) => {
    if (waiting.length >= most)
      return Promise.reject(
        new Problem(503, 'Too many words wait to be spoken. Try again in a moment.', 'busy'),
      )
    return new Promise((done, failed) => {
      waiting.push({ text, tries: 0, done, failed })
      // Those that are asked for in the same breath are taken together.
      setImmediate(next)
    })
  }
}

/** Speaks with the flite voices that come with the app. */
const SCRIPT = path.resolve(/* turbopackIgnore: true */ 'scripts/speak.mjs')
const VOICES: Record<AppVoice, ReturnType<typeof speaker>> = {
  clear: speaker(SCRIPT, MOST, 'slt'),
  warm: speaker(SCRIPT, MOST, 'rms'),
}
export const speak = (text: string, voice: AppVoice = 'clear') => VOICES[voice](text)

/** @returns the words it did not come to, to be tried again. Never rejects. */
async function together(script: string, voice: string, words: readonly Waiting[]): Promise<Waiting[]> {
  const dir = passingFile('voice')
  let why: unknown = new Error('the voice said nothing')
  const left: Waiting[] = []
  try {
    await mkdir(dir, { mode: 0o700 })
    const bounds = { seconds: START + WORD * words.length, megabytes: MEGABYTES }
    const { command, args, env } = boundedRun(script, [dir, ...words.map((w) => w.text)], bounds)
    await run(command, args, { timeout: LONGEST_MS, env: { ...env, FLITE_VOICE: voice } })
  } catch (error) {
    why = error
  }
  for (const [k, word] of words.entries())
    try {
      const { sampleRate, channels } = readWav(await readFile(path.join(dir, `${k}.wav`)))
      word.done({ rate: sampleRate, samples: channels[0] as Float32Array })
    } catch {
      if (++word.tries < TRIES) left.push(word)
      else word.failed(why)
    }
  await rm(dir, { recursive: true, force: true }).catch(() => undefined)
  return left
}
