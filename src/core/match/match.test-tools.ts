/* Copies of a recording as they come about: other lead-ins, levels, rates, a room, a fade, a part left out. */
import type { Seconds } from '../time'

export interface Sound {
  rate: number
  samples: Float32Array
}

/** A stretch of a sound. */
export const piece = ({ rate, samples }: Sound, from: Seconds, to: Seconds): Sound => ({
  rate,
  samples: samples.slice(Math.round(from * rate), Math.round(to * rate)),
})

/** Sounds one after another. */
export function joined(...list: readonly Sound[]): Sound {
  const rate = list[0]?.rate ?? 44_100
  const samples = new Float32Array(list.reduce((n, s) => n + s.samples.length, 0))
  let at = 0
  for (const s of list) {
    samples.set(s.samples, at)
    at += s.samples.length
  }
  return { rate, samples }
}

/** Quiet with a little noise in it. */
export function quiet(rate: number, seconds: Seconds, level = 0.001): Sound {
  let seed = 9
  const samples = Float32Array.from({ length: Math.round(seconds * rate) }, () => {
    seed = (seed * 1103515245 + 12345) % 2147483648
    return level * (seed / 1073741824 - 1)
  })
  return { rate, samples }
}

/** Played at another sampling rate, and so many times as fast; between samples by straight lines. */
export function resampled({ rate, samples }: Sound, to: number, speed = 1): Sound {
  const step = (rate / to) * speed
  const n = Math.floor(samples.length / step)
  const out = Float32Array.from({ length: n }, (_, i) => {
    const x = i * step
    const k = Math.floor(x)
    const part = x - k
    return (samples[k] ?? 0) * (1 - part) + (samples[k + 1] ?? 0) * part
  })
  return { rate: to, samples: out }
}

/** Louder or softer by a curve over its length, 0..1. */
export const shaped = ({ rate, samples }: Sound, level: (share: number) => number): Sound => ({
  rate,
  samples: samples.map((x, i) => x * level(i / samples.length)),
})

/** A narrow, coarse copy: a low-pass, a high-pass, and eight bits, as a poor encoding leaves it. */
export function poor({ rate, samples }: Sound): Sound {
  const out = new Float32Array(samples.length)
  const [a, b] = [Math.exp((-2 * Math.PI * 5000) / rate), Math.exp((-2 * Math.PI * 150) / rate)]
  let [low, slow] = [0, 0]
  samples.forEach((x, i) => {
    low = (1 - a) * x + a * low
    slow = (1 - b) * low + b * slow
    out[i] = Math.round((low - slow) * 127) / 127
  })
  return { rate, samples: out }
}
