/* A made song and a made voice whose slowed version is known: the same synthesis with slower controls. */
import { RATE } from './measures'

/** Numbers from -1 to 1 that are the same each time (Park & Miller 1988). */
function noise(seed: number): () => number {
  let x = seed
  return () => {
    x = (x * 48_271) % 2_147_483_647
    return (2 * x) / 2_147_483_647 - 1
  }
}

/** A band-pass of second order (Bristow-Johnson, Audio EQ Cookbook), in place. */
function bandPass(sound: Float32Array, hz: number, q: number): Float32Array {
  const w = (2 * Math.PI * hz) / RATE
  const alpha = Math.sin(w) / (2 * q)
  const [a1, a2] = [(-2 * Math.cos(w)) / (1 + alpha), (1 - alpha) / (1 + alpha)]
  const b = alpha / (1 + alpha)
  let [x1, x2, y1, y2] = [0, 0, 0, 0]
  return sound.map((x) => {
    const y = b * (x - x2) - a1 * y1 - a2 * y2
    ;[x2, x1, y2, y1] = [x1, x, y1, y]
    return y
  })
}

export const PARTIALS = [...[220, 277.18, 329.63, 440].flatMap((hz) => [hz, 2 * hz, 3 * hz]), 110]

/** A chord over a low tone. */
export function chord(seconds: number): Float32Array {
  const tones = [220, 277.18, 329.63, 440].flatMap((hz) => [
    [hz, 0.04],
    [2 * hz, 0.016],
    [3 * hz, 0.01],
  ]) as [number, number][]
  return Float32Array.from({ length: seconds * RATE }, (_, i) => {
    const t = i / RATE
    return [...tones, [110, 0.096] as const].reduce(
      (sum, [hz, level]) => sum + level * Math.sin(2 * Math.PI * hz * t + hz),
      0,
    )
  })
}

/**
 * A beat of 126 BPM over the chord: a kick on each, a hat between, a snare on every second.
 * @param seed of the noise the hat is made of: how its first milliseconds rise is chance
 */
export function beat(
  seconds: number,
  seed: number,
): { sound: Float32Array; hats: number[]; kicks: number[] } {
  const sound = chord(seconds)
  const length = Math.round(0.25 * RATE)
  const random = noise(seed)
  const raw = bandPass(bandPass(Float32Array.from({ length }, random), 9000, 1.6), 9000, 1.6)
  const loudest = raw.reduce((m, x) => Math.max(m, Math.abs(x)), 0)
  const hat = raw.map((x, i) => ((0.2 * x) / loudest) * Math.exp(-i / RATE / 0.03) * Math.min(1, i / 22))
  const kick = Float32Array.from({ length }, (_, i) => {
    const t = i / RATE
    return 0.48 * Math.sin(2 * Math.PI * (50 * t + 1.8 * (1 - Math.exp(-t / 0.03)))) * Math.exp(-t / 0.12)
  })
  const snare = Float32Array.from({ length }, (_, i) => 0.12 * random() * Math.exp(-i / RATE / 0.06))
  const put = (t: number, struck: Float32Array) => {
    const at = Math.round(t * RATE)
    for (let i = 0; i < length && at + i < sound.length; i++)
      sound[at + i] = (sound[at + i] as number) + (struck[i] as number)
  }
  const [hats, kicks]: [number[], number[]] = [[], []]
  for (let k = 0; (k * 60) / 126 < seconds - 0.6; k++) {
    const t = (k * 60) / 126
    put(t, kick)
    put(t + 30 / 126, hat)
    if (k % 2) put(t, snare)
    kicks.push(t)
    hats.push(t + 30 / 126)
  }
  return { sound, hats, kicks }
}

/** A voice with consonants, vibrato and steps, sung so many times as slowly. */
export function voice(seconds: number, slower: number): Float32Array {
  const n = Math.round(seconds * slower * RATE)
  const source = new Float32Array(n)
  let phase = 0
  for (let i = 0; i < n; i++) {
    const u = i / RATE / slower
    const into = u % 0.5
    const vibrato = 0.025 * Math.sin(2 * Math.PI * 5.5 * u) * Math.min(1, into / 0.15)
    const pitch = 220 * 2 ** (((Math.floor(u / 0.5) % 5) * 2) / 12) * (1 + vibrato)
    phase += pitch / RATE
    let x = 0
    for (let k = 1; k < 40 && k * pitch < 18_000; k++) x += Math.sin(2 * Math.PI * k * phase) / k
    source[i] = x
  }
  const formants = [
    [700, 90, 1],
    [1220, 110, 0.6],
    [2600, 160, 0.35],
    [3300, 200, 0.2],
  ] as const
  const out = new Float32Array(n)
  for (const [hz, width, level] of formants)
    bandPass(source, hz, hz / width).forEach((x, i) => {
      out[i] = (out[i] as number) + level * x
    })
  const random = noise(3)
  const hiss = bandPass(Float32Array.from({ length: n }, random), 6000, 1.2)
  return out.map((x, i) => {
    const into = (i / RATE / slower) % 0.5
    const open = Math.min(1, into / 0.03) * Math.min(1, (0.5 - into) / 0.06)
    return 0.3 * (x * open * 0.5 + 0.5 * (hiss[i] as number) * Math.exp(-into / 0.02))
  })
}
