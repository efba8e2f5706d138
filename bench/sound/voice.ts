/* How well numbers and words are understood over the loudest of songs: npx tsx bench/sound/voice.ts FOLDER [warm], of WAV files. */
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { readWav, toMono } from '@/core/formats/wav'
import {
  energyPieces,
  factorsOf,
  joinSaid,
  levelAlong,
  levelSaid,
  loudnessOf,
  PIECE,
  stepBackLevel,
  stepsBack,
  USUAL_VOLUMES,
} from '@/core/loudness'
import { stoi } from './stoi'

const RATE = 44_100
const VOICE = process.argv[3] ? `public/voice/${process.argv[3]}` : 'public/voice'
const SECONDS = 12
const BEAT = 0.5

/** A count of the shipped voice at 44.1 kHz, and where its stress is. */
function spoken(call: string): { sound: Float32Array; stress: number } {
  const index = JSON.parse(readFileSync(`${VOICE}/index.json`, 'utf8'))
  const pcm = readWav(new Uint8Array(readFileSync(`${VOICE}/${index[call].file}`)))
  const mono = toMono(pcm)
  const length = Math.floor((mono.length * RATE) / pcm.sampleRate)
  const sound = Float32Array.from({ length }, (_, i) => {
    const t = (i * pcm.sampleRate) / RATE
    const [a, b] = [mono[Math.floor(t)] ?? 0, mono[Math.floor(t) + 1] ?? 0]
    return a + (b - a) * (t % 1)
  })
  return { sound, stress: index[call].stress }
}

/** The loudest part of a song: its chorus, most likely. */
function loudestOf(song: Float32Array): Float32Array {
  const pieces = energyPieces([song], RATE)
  const count = SECONDS / PIECE
  let [best, most] = [0, 0]
  for (let k = 0; k + count <= pieces.length; k++) {
    const sum = pieces.subarray(k, k + count).reduce((a, b) => a + b)
    if (sum > most) [best, most] = [k, sum]
  }
  return song.slice(best * PIECE * RATE, (best * PIECE + SECONDS) * RATE)
}

/** Words on every count. */
const CALLS = ['1', '2', '3', '4', '5', '6', '7', '8']
const places = Array.from({ length: SECONDS / BEAT - 2 }, (_, k) => 0.6 + k * BEAT)

/** All that is said, each word made to be heard with a factor. */
function said(words: readonly { sound: Float32Array; stress: number }[], by: number): Float32Array {
  const out = new Float32Array(SECONDS * RATE)
  places.forEach((t, k) => {
    const { sound, stress } = words[k % words.length] as (typeof words)[number]
    const at = Math.round((t - stress) * RATE)
    sound.forEach((x, i) => {
      out[at + i] = (out[at + i] ?? 0) + by * x
    })
  })
  return out
}

const raw = CALLS.map(spoken)
const even = raw.map(({ sound, stress }) => {
  const copy = sound.slice()
  levelSaid(copy, RATE)
  return { sound: copy, stress }
})
const plus = (a: Float32Array, b: Float32Array) => a.map((x, i) => x + (b[i] as number))

console.log('| song | loudness, LUFS | before | song stays | 3 dB softer | 6 dB | 9 dB | 12 dB |')
console.log('| --- | --- | --- | --- | --- | --- | --- | --- |')
const folder = process.argv[2] ?? '.'
for (const file of readdirSync(folder)
  .filter((f) => f.endsWith('.wav'))
  .sort()) {
  const whole = toMono(readWav(new Uint8Array(readFileSync(path.join(folder, file)))))
  const loudness = loudnessOf([whole], RATE)
  // As a record of these years is: as loud as it can be.
  const mastered = whole.map((x) => Math.tanh(x * 10 ** ((-8 - (loudness ?? -8)) / 20)))
  const song = loudestOf(mastered)
  const known = loudnessOf([mastered], RATE)
  const before = stoi(
    said(raw, 0.9),
    plus(
      said(raw, 0.9),
      song.map((x) => 0.7 * x),
    ),
    RATE,
  )
  const factors = factorsOf(USUAL_VOLUMES, known)
  const spans = places.map((t, k) => {
    const { sound, stress } = even[k % even.length] as (typeof even)[number]
    return { from: t - stress, to: t - stress + sound.length / RATE }
  })
  const after = [0, 3, 6, 9, 12].map((decibels) => {
    const back = stepsBack(joinSaid(spans), stepBackLevel(decibels))
    const level = levelAlong(back)
    const voice = said(even, factors.voice)
    const mix = plus(
      voice,
      song.map((x, i) => x * factors.music * level(i / RATE)),
    )
    return stoi(voice, mix, RATE)
  })
  console.log(
    `| ${path.basename(file, '.wav')} | ${known?.toFixed(1)} | ${[before, ...after].map((x) => x.toFixed(2)).join(' | ')} |`,
  )
}
