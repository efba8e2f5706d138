import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { renderDemoSong } from '../../../demo/song'
import { toMono } from '../formats/wav'
import { HEARING_VERSION, type Hearing, type Peaks } from './hearing'
import { listen } from './listen'
import { bandOn, beatsOf, noiseFrom } from './made-band.test-tools'

/*
 * A stored hearing says by which version it was heard, and is offered to be heard again by a newer one. So what hearing
 * answers may not change without its version. Where it does, on purpose: raise HEARING_VERSION, and
 * `KEEP_ANSWERS=1 npx vitest run src/core/hear/answers.test.ts` writes them down anew.
 */
const FILE = path.join(import.meta.dirname, 'answers.json')

const RATE = 44_100
const bars = (size: number, n: number): number[] => Array.from({ length: n }, () => size)
const at = (bpm: number) => () => 60 / bpm

/** Two sounds one after the other. */
function after(first: Float32Array, then: Float32Array): Float32Array {
  const out = new Float32Array(first.length + then.length)
  out.set(first)
  out.set(then, first.length)
  return out
}

function demoFrom(from: number, to: number): Float32Array {
  const { left, right, sampleRate } = renderDemoSong()
  return toMono({ sampleRate, channels: [left, right] }).subarray(from * RATE, to * RATE)
}

function hissing(seconds: number): Float32Array {
  const hiss = noiseFrom(3)
  return Float32Array.from({ length: seconds * RATE }, () => 0.1 * hiss())
}

/** Sounds that each ask another part of hearing, by name. */
const SOUNDS: Readonly<Record<string, () => Float32Array>> = {
  'four, with two bars of silence': () =>
    bandOn(beatsOf(bars(4, 20), at(112), 0.7), 44, RATE, { silent: (b) => b === 9 || b === 10 }),
  'four, from the very beginning, slow under busy hats': () =>
    bandOn(beatsOf(bars(4, 13), at(76), 0), 42, RATE, { busy: true }),
  'four, swung': () => bandOn(beatsOf(bars(4, 18), at(138), 0.4), 33, RATE, { half: 2 / 3 }),
  three: () => bandOn(beatsOf(bars(3, 30), at(156), 0.5), 36, RATE),
  five: () => bandOn(beatsOf(bars(5, 15), at(132), 0.5), 36, RATE),
  'four that becomes three, and four again': () =>
    bandOn(beatsOf([...bars(4, 12), ...bars(3, 24), ...bars(4, 12)], at(150), 0.5), 69, RATE),
  'a tempo that drifts': () =>
    bandOn(
      beatsOf(bars(4, 16), (t) => 0.5 * (1 + 0.03 * Math.sin(t / 9)), 0.5),
      34,
      RATE,
    ),
  'a tempo that jumps': () =>
    bandOn(
      beatsOf(bars(4, 26), (t) => 60 / (t < 28 ? 104 : 122), 0.5),
      56,
      RATE,
    ),
  'two songs cut together': () =>
    after(bandOn(beatsOf(bars(4, 9), at(96), 0.4), 22.9, RATE, { full: () => false }), demoFrom(40, 62)),
  'a song of which one bar was cut out': () =>
    bandOn(
      beatsOf(bars(4, 39), at(132), 0.5).map((b) => ({ ...b, bar: b.bar < 21 ? b.bar : b.bar + 1 })),
      72,
      RATE,
    ),
  'a song': () => demoFrom(0, 45),
  'no beat': () => hissing(8),
}

/** What is kept of an answer: all of it, but of what there is one of for each beat or frame only some sums. */
interface Answer extends Omit<Hearing, 'version' | 'pictures'> {
  sums: number[]
}

/** The sum of a list, and the sum of it with its places as weights: another value, or the same elsewhere, is another pair. */
function sumsOf(list: ArrayLike<number>): number[] {
  let [plain, placed] = [0, 0]
  for (let i = 0; i < list.length; i++) {
    plain += list[i] as number
    placed += ((list[i] as number) * (i + 1)) / list.length
  }
  return [list.length, Math.round(plain), Math.round(placed)]
}

function answerOf({ hearing, peaks }: { hearing: Hearing; peaks: Peaks }): Answer {
  const { version: _, pictures, ...rest } = hearing
  const { loudness, brightness, low } = pictures
  const lists = [loudness, brightness, low, peaks.onset, ...peaks.levels.map((l) => l.shape)]
  return { ...rest, sums: lists.flatMap(sumsOf) }
}

interface Kept {
  version: number
  answers: Record<string, Answer>
}

const kept: Kept = existsSync(FILE)
  ? (JSON.parse(readFileSync(FILE, 'utf8')) as Kept)
  : { version: 0, answers: {} }
const heard: Record<string, Answer> = {}

/** Where two answers are not the same: other machines may round the last digit of a time or a share otherwise. */
function differences(a: unknown, b: unknown, where = ''): string[] {
  if (typeof a === 'number' && typeof b === 'number') {
    const within =
      Number.isInteger(a) && Number.isInteger(b) && Math.abs(a) < 1000 ? 0 : 0.0015 + 1e-5 * Math.abs(a)
    return Math.abs(a - b) <= within ? [] : [`${where}: ${a} was ${b}`]
  }
  if (typeof a !== 'object' || typeof b !== 'object' || !a || !b)
    return a === b ? [] : [`${where}: ${a} was ${b}`]
  const keys = new Set([...Object.keys(a), ...Object.keys(b)])
  const of = (x: object, key: string) => (x as Record<string, unknown>)[key]
  return [...keys].flatMap((key) => differences(of(a, key), of(b, key), where ? `${where}.${key}` : key))
}

describe('the answers of this version', () => {
  it.each(Object.entries(SOUNDS))('to %s are as they were', (name, sound) => {
    const answer = answerOf(listen(sound(), RATE))
    heard[name] = answer
    if (!process.env.KEEP_ANSWERS) expect(differences(answer, kept.answers[name])).toEqual([])
  })
  it('are those of the version that is said', () => {
    if (!process.env.KEEP_ANSWERS) expect(kept.version).toBe(HEARING_VERSION)
  })
  afterAll(() => {
    if (!process.env.KEEP_ANSWERS) return
    // A line a sound: what changed is seen at a glance.
    const lines = Object.entries(heard).map(([name, a]) => `${JSON.stringify(name)}: ${JSON.stringify(a)}`)
    writeFileSync(FILE, `{"version": ${HEARING_VERSION}, "answers": {\n${lines.join(',\n')}\n}}\n`)
  })
})
