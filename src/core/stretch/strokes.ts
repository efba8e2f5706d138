import type { Seconds } from '../time'
import { secondOrder } from './second-order'
import type { Channels } from './vocoder'

/** The sound is looked at in steps of so many samples: 0.7 ms at 44.1 kHz. */
const STEP = 32
/** Of two strokes closer than this the sharper one is kept. */
const APART: Seconds = 0.035
/** What is so much quieter than the loudest of the seconds around it is no stroke, in energy. */
const QUIET = 1e-4
/** The loudest is remembered for so long: it falls to a third in 1.5 s. */
const MEMORY: Seconds = 1.5

interface Band {
  low: number
  high: number
  /** Steps that are taken together: about a wave, and as many as chance needs. */
  together: number
  /** So many times as much energy as at any time just before is a stroke. */
  rise: number
}
/** Bands that strokes are looked for in: kicks, drums and voices, snares and consonants, hats. Hz. */
const BANDS: readonly Band[] = [
  { low: 35, high: 160, together: 4, rise: 2.2 },
  { low: 160, high: 900, together: 2, rise: 2.2 },
  { low: 900, high: 4000, together: 1, rise: 2.2 },
  { low: 5000, high: 14_000, together: 2, rise: 1.3 },
]
/** A stroke is louder than all of the time before it, this long, in steps: 26 ms, longer than a wave of a kick. */
const BEFORE = 36

/** A band-pass of second order on either side. */
const bandPass = ({ low, high }: Band, rate: number): Float64Array[] => [
  secondOrder(low, true, rate),
  secondOrder(high, false, rate),
]

/** Energy of a band of a sound, step by step. */
function energies(mono: Float32Array, band: Band, rate: number): Float64Array {
  const [one, two] = bandPass(band, rate) as [Float64Array, Float64Array]
  const [a0, a1, a2, a3, a4] = one as unknown as [number, number, number, number, number]
  const [c0, c1, c2, c3, c4] = two as unknown as [number, number, number, number, number]
  const out = new Float64Array(Math.floor(mono.length / STEP))
  let [s1, s2, t1, t2] = [0, 0, 0, 0]
  for (let k = 0; k < out.length; k++) {
    let sum = 0
    for (let i = k * STEP; i < (k + 1) * STEP; i++) {
      const x = mono[i] as number
      const y = a0 * x + s1
      s1 = a1 * x - a3 * y + s2
      s2 = a2 * x - a4 * y
      const z = c0 * y + t1
      t1 = c1 * y - c3 * z + t2
      t2 = c2 * y - c4 * z
      sum += z * z
    }
    out[k] = sum / STEP
  }
  return out
}

/** All of a sound in one channel. */
export function monoOf(channels: Channels): Float32Array {
  const [first, second] = channels
  if (!first || !second) return first ?? new Float32Array(0)
  return first.map((x, i) => (x + (second[i] as number)) / 2)
}

/**
 * Finds where strokes begin: where the energy of a band leaps above all that was in it just before.
 * @param told how far it is, 0..1; may throw to stop
 * @returns seconds, ascending
 */
export function findStrokes(
  mono: Float32Array,
  rate: number,
  told: (share: number) => void = () => {},
): Float64Array {
  const steps = Math.floor(mono.length / STEP)
  /** How sharp a leap is, over all bands, in nepers above the least that counts. */
  const leap = new Float32Array(steps)
  for (const [b, band] of BANDS.entries()) {
    told(b / BANDS.length)
    addLeaps(energies(mono, band, rate), band, rate / STEP, leap)
  }
  const apart = Math.round((APART * rate) / STEP)
  const sharpest: number[] = []
  for (let k = 0; k < steps; k++) {
    const sharp = leap[k] as number
    if (sharp <= 0) continue
    const last = sharpest.at(-1)
    if (last === undefined || k - last > apart) sharpest.push(k)
    else if (sharp > (leap[last] as number)) sharpest[sharpest.length - 1] = k
  }
  return Float64Array.from(sharpest, (k) => sampleOf(k, mono) / rate)
}

/** The sample near the begin of a step at which the sound first moves a quarter as fast as it soon will. */
function sampleOf(step: number, mono: Float32Array): number {
  const from = Math.max(1, (step - 1) * STEP)
  const speed = (i: number) => Math.abs((mono[i] ?? 0) - (mono[i - 1] ?? 0))
  let most = 0
  for (let i = from; i < from + 5 * STEP; i++) most = Math.max(most, speed(i))
  for (let i = from; i < from + 3 * STEP; i++) if (speed(i) >= most / 4) return i
  return step * STEP
}

/** Adds up the leaps of a band. @param rate steps a second */
function addLeaps(energy: Float64Array, { together, rise }: Band, rate: number, into: Float32Array): void {
  const fade = Math.exp(-1 / (MEMORY * rate))
  const loud = energy.map((_, k) => {
    let sum = 0
    for (let i = 0; i < together; i++) sum += energy[k + i] ?? 0
    return sum / together
  })
  let loudest = 0
  for (let k = 0; k < loud.length; k++) {
    const here = loud[k] as number
    loudest = Math.max(here, loudest * fade)
    if (here < QUIET * loudest || here < 1e-9) continue
    let most = 0
    for (let i = Math.max(0, k - BEFORE); i <= k - together; i++) most = Math.max(most, loud[i] as number)
    const leap = here / (most + 1e-10)
    if (leap > rise) into[k] = (into[k] as number) + Math.log(leap / rise)
  }
}
