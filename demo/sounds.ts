/* Small synthesised instruments: every one adds samples into two channels. */

export const DEMO_RATE = 44_100

const hertz = (midi: number) => 440 * 2 ** ((midi - 69) / 12)

/** A repeatable noise source (Park & Miller 1988, "Random number generators: good ones are hard to find"). */
function noise(seed: number): () => number {
  let state = seed
  return () => {
    state = (state * 16_807) % 2_147_483_647
    return (state / 2_147_483_647) * 2 - 1
  }
}

/** The instruments of the demo song; times and lengths in seconds, gains 0..1, notes as MIDI numbers. */
export interface Kit {
  kick(t: number, gain: number): void
  snare(t: number, gain: number): void
  clap(t: number, gain: number): void
  hat(t: number, gain: number): void
  crash(t: number, gain: number): void
  bass(t: number, length: number, note: number, gain: number): void
  pad(t: number, length: number, notes: readonly number[], gain: number): void
  lead(t: number, length: number, note: number, gain: number): void
  mixdown(): { left: Float32Array; right: Float32Array }
}

/** Makes an empty stage of `samples` samples. */
export function makeKit(samples: number): Kit {
  const left = new Float32Array(samples)
  const right = new Float32Array(samples)

  function add(t: number, length: number, pan: number, voice: (s: number) => number) {
    const from = Math.round(t * DEMO_RATE)
    const n = Math.min(Math.round(length * DEMO_RATE), samples - from)
    for (let i = 0; i < n; i++) {
      const s = voice(i / DEMO_RATE)
      left[from + i] = (left[from + i] as number) + s * (1 - pan)
      right[from + i] = (right[from + i] as number) + s * (1 + pan)
    }
  }

  function hiss(t: number, length: number, gain: number, decay: number, pan: number, seed: number) {
    const rand = noise(seed)
    let old = 0
    add(t, length, pan, (s) => {
      const now = rand()
      // A first difference keeps the bright part only.
      const high = now - old
      old = now
      return high * gain * Math.exp(-s * decay)
    })
  }

  const saw = (phase: number) => 2 * (phase - Math.floor(phase + 0.5))
  const gate = (s: number, length: number) => Math.min(1, s / 0.005, Math.max(0, (length - s) / 0.02))

  return {
    kick: (t, gain) =>
      add(t, 0.28, 0, (s) => {
        const phase = 2 * Math.PI * (48 * s + (110 / 30) * (1 - Math.exp(-30 * s)))
        return gain * 0.75 * Math.sin(phase) * Math.exp(-s * 11) * Math.min(1, s / 0.001)
      }),
    snare: (t, gain) => {
      hiss(t, 0.18, gain * 0.3, 24, 0.05, 77)
      add(t, 0.12, 0, (s) => gain * 0.3 * Math.sin(2 * Math.PI * 190 * s) * Math.exp(-s * 30))
    },
    clap: (t, gain) => {
      for (const d of [0, 0.011, 0.023]) hiss(t + d, 0.09, gain * 0.3, 45, -0.1, 31)
    },
    hat: (t, gain) => hiss(t, 0.06, gain * 0.22, 70, 0.25, 11),
    crash: (t, gain) => hiss(t, 1.6, gain * 0.4, 2.6, -0.2, 5),
    bass: (t, length, note, gain) => {
      const f = hertz(note + 12)
      add(
        t,
        length,
        0,
        (s) =>
          gain *
          0.5 *
          (Math.sin(2 * Math.PI * f * s) + 0.4 * Math.sin(4 * Math.PI * f * s)) *
          gate(s, length),
      )
    },
    pad: (t, length, notes, gain) => {
      for (const [k, note] of notes.entries()) {
        const f = hertz(note + 12)
        add(t, length, (k - 1) * 0.3, (s) => {
          const body = Math.sin(2 * Math.PI * f * s) + 0.3 * Math.sin(2 * Math.PI * 2.003 * f * s)
          return gain * 0.45 * body * Math.min(1, s / 0.04, Math.max(0, (length - s) / 0.15))
        })
      }
    },
    lead: (t, length, note, gain) => {
      const f = hertz(note)
      add(t, length, 0.12, (s) => gain * 0.5 * saw(f * s) * gate(s, length) * Math.exp(-s * 3))
    },
    mixdown: () => {
      let peak = 1e-9
      for (let i = 0; i < samples; i++)
        peak = Math.max(peak, Math.abs(left[i] as number), Math.abs(right[i] as number))
      const k = 0.89 / peak
      for (let i = 0; i < samples; i++) {
        left[i] = (left[i] as number) * k
        right[i] = (right[i] as number) * k
      }
      return { left, right }
    },
  }
}
