/* Films of lessons as they come about: talk, takes at several speeds with somebody counting over them, a room, a phone. */
import { readFileSync } from 'node:fs'
import { readWav, toMono } from '../formats/wav'
import { findStrokes, monoOf, stretched, stretchFaster } from '../stretch'
import { FAST } from '../stretch/fast.test-tools'
import type { Ratio, Seconds } from '../time'
import { joined, quiet, resampled, type Sound } from './match.test-tools'

stretchFaster(FAST)

const RATE = 44_100
const spoken = new Map<string, Float32Array>()
/** A number as the voice that ships says it. */
function said(word: string): Float32Array {
  let sound = spoken.get(word)
  if (!sound) {
    const pcm = readWav(new Uint8Array(readFileSync(`public/voice/${word}.wav`)))
    sound = resampled({ rate: pcm.sampleRate, samples: toMono(pcm) }, RATE).samples
    spoken.set(word, sound)
  }
  return sound
}

/** A dice of its own: the same film each time. */
export function dice(seed: number): () => number {
  let s = seed
  return () => {
    s = (s * 1103515245 + 12345) % 2147483648
    return s / 2147483648
  }
}

const power = (x: Float32Array) => x.reduce((sum, v) => sum + v * v, 0) / Math.max(1, x.length)

/** Somebody talks: numbers said one after another at uneven times. */
export function talk(seconds: Seconds, roll: () => number, level = 0.2): Sound {
  const out = new Float32Array(Math.round(seconds * RATE))
  for (let t = 0.2; t < seconds - 1; t += 0.35 + 0.7 * roll()) {
    const word = said(String(1 + Math.floor(roll() * 32)))
    word.forEach((v, i) => {
      const k = Math.round(t * RATE) + i
      if (k < out.length) out[k] = (out[k] as number) + v * level * 4
    })
  }
  return { rate: RATE, samples: out }
}

/** Somebody counts over a sound, louder than it by so many decibels. @param period seconds between two counts */
export function countedOver(sound: Sound, period: Seconds, louder: number): Sound {
  const voice = new Float32Array(sound.samples.length)
  for (let n = 0; (n + 1) * period * RATE < voice.length; n++)
    said(String((n % 8) + 1)).forEach((v, i) => {
      const k = Math.round(n * period * RATE) + i
      if (k < voice.length) voice[k] = (voice[k] as number) + v
    })
  const gain = Math.sqrt((power(sound.samples) * 10 ** (louder / 10)) / Math.max(1e-12, power(voice)))
  return { rate: sound.rate, samples: sound.samples.map((v, i) => v + gain * (voice[i] as number)) }
}

/** In a room: echoes that die away. */
export function inRoom({ rate, samples }: Sound, roll: () => number, seconds: Seconds = 0.5): Sound {
  const echoes = Array.from({ length: 60 }, () => {
    const t = roll() * seconds
    return { at: Math.round(t * rate), gain: (roll() - 0.5) * 0.9 * 10 ** ((-3 * t) / seconds) }
  })
  const out = Float32Array.from(samples)
  for (const { at, gain } of echoes)
    for (let i = at; i < out.length; i++) out[i] = (out[i] as number) + gain * (samples[i - at] as number)
  return { rate, samples: out }
}

/** Through a phone: 300 to 3400 Hz. */
export function throughPhone({ rate, samples }: Sound): Sound {
  const out = new Float32Array(samples.length)
  const [a, b] = [Math.exp((-2 * Math.PI * 3400) / rate), Math.exp((-2 * Math.PI * 300) / rate)]
  let [low, low2, slow] = [0, 0, 0]
  samples.forEach((x, i) => {
    low = (1 - a) * x + a * low
    low2 = (1 - a) * low + a * low2
    slow = (1 - b) * low2 + b * slow
    out[i] = low2 - slow
  })
  return { rate, samples: out }
}

/** A stretch of a song at a speed, its pitch kept. */
export function slowed(song: Sound, from: Seconds, to: Seconds, speed: Ratio): Sound {
  const channels = [song.samples]
  const strokes = findStrokes(monoOf(channels), song.rate)
  const samples = Math.round(((to - from) / speed) * song.rate)
  const [out] = stretched({ channels, rate: song.rate, strokes }, { from, speed, samples })
  return { rate: song.rate, samples: out ?? new Float32Array(0) }
}

/** What a film is made of, one after another. */
export type Scene = { talk: Seconds } | { from: Seconds; to: Seconds; speed: Ratio }

/** A film's sound, and where in it the song truly is. */
export function filmed(
  song: Sound,
  scenes: readonly Scene[],
  { louder = null, beat = 0.5, seed = 1 }: { louder?: number | null; beat?: Seconds; seed?: number } = {},
) {
  const roll = dice(seed)
  const truth: { filmFrom: Seconds; filmTo: Seconds; songAt: Seconds; rate: Ratio }[] = []
  const parts: Sound[] = []
  let at = 0
  for (const scene of scenes) {
    const part = 'talk' in scene ? talk(scene.talk, roll) : slowed(song, scene.from, scene.to, scene.speed)
    const sound = 'talk' in scene || louder === null ? part : countedOver(part, beat / scene.speed, louder)
    const seconds = sound.samples.length / sound.rate
    if (!('talk' in scene))
      truth.push({ filmFrom: at, filmTo: at + seconds, songAt: scene.from, rate: scene.speed })
    parts.push(sound)
    at += seconds
  }
  return { sound: joined(...parts, quiet(RATE, 0.5)), truth, roll }
}
