/* Music made on the spot, of which every beat and bar is known: what hearing is tried on where its answers are kept. */

/** One beat: when it begins, its place in its bar (0 is the 1), and which bar of the piece it lies in. */
export interface MadeBeat {
  t: number
  place: number
  bar: number
}

/** How the band plays. */
export interface Playing {
  /** Where the hats lie between two beats: two thirds is swing. */
  half: number
  /** Hats on all four quarters of a beat instead of on its half. */
  busy: boolean
  /** Bars that are silent. */
  silent: (bar: number) => boolean
  /** Bars that are played full: louder, brighter, with other chords. */
  full: (bar: number) => boolean
}

const PLAIN: Playing = { half: 0.5, busy: false, silent: () => false, full: (bar) => bar % 16 >= 8 }

const CHORDS = [
  [220, 261.6, 329.6],
  [174.6, 220, 261.6],
  [261.6, 329.6, 392],
  [196, 246.9, 293.7],
] as const

/**
 * Beats of bars of these sizes, one after another.
 * @param sizes beats in each bar
 * @param seconds how long the beat that begins at some time is
 * @param from when the first begins
 */
export function beatsOf(sizes: readonly number[], seconds: (t: number) => number, from: number): MadeBeat[] {
  const out: MadeBeat[] = []
  let t = from
  for (const [bar, size] of sizes.entries())
    for (let place = 0; place < size; place++) {
      out.push({ t, place, bar })
      t += seconds(t)
    }
  return out
}

/** Noise that is the same each time, -1..1. */
export function noiseFrom(seed: number): () => number {
  let state = seed
  return () => {
    state = (state * 16_807) % 2_147_483_647
    return (state / 2_147_483_647) * 2 - 1
  }
}

/** Drums, a bass, chords and a tune on some beats. @returns samples -1..1 */
export function bandOn(
  beats: readonly MadeBeat[],
  seconds: number,
  rate: number,
  how: Partial<Playing> = {},
): Float32Array {
  const { half, busy, silent, full } = { ...PLAIN, ...how }
  const out = new Float32Array(Math.round(seconds * rate))
  const hiss = noiseFrom(7)
  const add = (t: number, length: number, voice: (s: number) => number) => {
    const at = Math.round(t * rate)
    for (let i = 0; i < length * rate && at + i < out.length; i++)
      out[at + i] = (out[at + i] as number) + voice(i / rate)
  }
  const tone = (t: number, length: number, gain: number, hz: number) =>
    add(t, length, (s) => gain * Math.sin(2 * Math.PI * hz * s) * Math.min(1, s / 0.005, (length - s) / 0.02))
  const drum = (t: number, length: number, gain: number, fall: number) =>
    add(t, length, (s) => gain * hiss() * Math.exp(-s * fall))
  for (const [k, { t, place, bar }] of beats.entries()) {
    if (silent(bar)) continue
    const beat = (beats[k + 1]?.t ?? t + 0.5) - t
    const loud = full(bar) ? 1 : 0.6
    const chord = CHORDS[(bar + (full(bar) ? 2 : 0)) % CHORDS.length] as readonly number[]
    if (place === 0 || place === 2)
      add(
        t,
        0.15,
        (s) => 0.45 * Math.sin(2 * Math.PI * (52 * s + 2 * (1 - Math.exp(-40 * s)))) * Math.exp(-s * 22),
      )
    if (place % 2 === 1) drum(t, 0.12, 0.3 * loud, 30)
    for (const at of busy ? [0, 0.25, 0.5, 0.75] : [half]) drum(t + at * beat, 0.04, 0.09 * loud, 90)
    tone(t, 0.9 * beat, 0.16, (chord[0] as number) / (place === 3 ? 1.5 : 2))
    if (place === 0) for (const hz of chord) tone(t, 2.8 * beat, 0.05 * loud, hz)
    if (full(bar))
      tone(t + (place % 3 === 1 ? beat / 2 : 0), beat / 2, 0.06, 2 * (chord[(place + bar) % 3] as number))
  }
  return out
}
