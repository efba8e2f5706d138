/* Sounds whose strokes are known exactly, for the tests and measures of slowing. */

export const RATE = 44_100

/** Numbers from -1 to 1 that are the same each time (Park & Miller 1988). */
export function noise(seed: number): () => number {
  let x = seed
  return () => {
    x = (x * 48_271) % 2_147_483_647
    return (2 * x) / 2_147_483_647 - 1
  }
}

/** How far two sounds are from each other where they are farthest; NaN where one of them has none to say. */
export function farthest(a: Float32Array, b: Float32Array): number {
  if (a.length !== b.length) return Number.NaN
  return a.reduce((most, x, i) => Math.max(most, Math.abs(x - (b[i] as number))), 0)
}

/** A hat: noise of 6.5 to 12 kHz that is there within half a millisecond and falls to a third in 30 ms. */
export function hat(): Float32Array {
  const random = noise(7)
  const out = Float32Array.from({ length: 0.25 * RATE }, () => random())
  // Each pass takes away what is low (a difference) or high (a mean).
  let [low, before] = [0, 0]
  for (let i = 0; i < out.length; i++) {
    const x = out[i] as number
    low += 0.6 * (x - low)
    const high = low - before
    before = low
    out[i] = 0.5 * high * Math.exp(-i / RATE / 0.03) * Math.min(1, i / 22)
  }
  return out
}

/** A kick: a tone that falls from 110 to 50 Hz. */
const kick = (): Float32Array =>
  Float32Array.from({ length: 0.25 * RATE }, (_, i) => {
    const t = i / RATE
    return (
      0.6 * Math.sin(2 * Math.PI * (50 * t + 60 * 0.03 * (1 - Math.exp(-t / 0.03)))) * Math.exp(-t / 0.12)
    )
  })

/** Partials of a chord over a low tone, Hz and how loud. */
const CHORD: readonly (readonly [number, number])[] = [
  ...[110, 220, 277.18, 329.63, 440].map((hz) => [hz, hz === 110 ? 0.1 : 0.04] as const),
]

export function chord(seconds: number): Float32Array {
  return Float32Array.from({ length: seconds * RATE }, (_, i) =>
    CHORD.reduce((sum, [hz, level]) => sum + level * Math.sin((2 * Math.PI * hz * i) / RATE + hz), 0),
  )
}

/** A beat of 126 BPM over a chord: a kick on each, a hat between. @returns the sound, and where what is struck begins, in seconds */
export function beat(seconds: number): { sound: Float32Array; hats: number[]; kicks: number[] } {
  const sound = chord(seconds)
  const [hats, kicks]: [number[], number[]] = [[], []]
  const put = (t: number, struck: Float32Array) => {
    const at = Math.round(t * RATE)
    for (let i = 0; i < struck.length && at + i < sound.length; i++)
      sound[at + i] = (sound[at + i] as number) + (struck[i] as number)
  }
  const length = 60 / 126
  for (let t = 0.1; t < seconds - 0.3; t += length) {
    put(t, kick())
    put(t + length / 2, hat())
    kicks.push(t)
    hats.push(t + length / 2)
  }
  return { sound, hats, kicks }
}

/** How loud what is above 5 kHz or so is, from a sample on, in means of 1.5 ms: a twice differenced sound squared. */
export function sharpness(sound: Float32Array, from: number, length: number): Float64Array {
  const width = 64
  const square = (i: number) => ((sound[i] ?? 0) - 2 * (sound[i - 1] ?? 0) + (sound[i - 2] ?? 0)) ** 2
  const out = new Float64Array(length)
  let sum = 0
  for (let i = from - width; i < from; i++) sum += square(i)
  for (let k = 0; k < length; k++) {
    sum += square(from + k) - square(from + k - width)
    out[k] = Math.sqrt(Math.max(0, sum) / width)
  }
  return out
}

/** What is struck, on the average of several: how long it takes from a tenth to nine tenths of its loudest, and how loud it is before, dB. */
export function riseOf(sound: Float32Array, places: readonly number[]): { ms: number; before: number } {
  const half = Math.round(0.05 * RATE)
  const mean = new Float64Array(2 * half)
  for (const t of places)
    sharpness(sound, Math.round(t * RATE) - half, 2 * half).forEach((x, i) => {
      mean[i] = (mean[i] as number) + x / places.length
    })
  const loudest = mean.reduce((a, b) => Math.max(a, b))
  const nine = mean.findIndex((x) => x >= 0.9 * loudest)
  const tenth = mean.slice(0, nine).findLastIndex((x) => x < 0.1 * loudest)
  const ahead = mean.slice(Math.round(0.2 * half), Math.round(0.9 * half))
  const quiet = Math.sqrt(ahead.reduce((sum, x) => sum + x * x, 0) / ahead.length)
  return { ms: ((nine - tenth) / RATE) * 1000, before: 20 * Math.log10(quiet / loudest) }
}

/** How often something is struck: it gets a third as loud as the loudest, having been under an eighth of it before. */
export function strikesIn(sound: Float32Array): number {
  const loud = sharpness(sound, 0, sound.length)
  const most = loud.reduce((a, b) => Math.max(a, b))
  let [count, quiet] = [0, true]
  for (const x of loud) {
    if (quiet && x > most / 3) {
      count++
      quiet = false
    } else if (x < most / 8) quiet = true
  }
  return count
}
