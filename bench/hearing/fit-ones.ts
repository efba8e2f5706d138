/*
 * npm run bench:fit-ones: fits the weights of ones.ts. Conditional logit: of all ways to count a song's beats, the true one
 * should be the likeliest; ridge penalty; every base song weighs the same, songs made by rule less. Prints the
 * weights, and how many songs are right when each is left out of its own fit. Looks at the development half only.
 */
import { readFileSync } from 'node:fs'
import { readWav, toMono } from '../../src/core/formats/wav'
import { clues } from '../../src/core/hear/clues'
import { beatFeatures } from '../../src/core/hear/features'
import { type Onsets, onsets } from '../../src/core/hear/onsets'
import { type Spectrum, spectrum } from '../../src/core/hear/spectrum'
import { fetchSongs, rendered, wavOf } from './render'
import { SONGS } from './songs'
import { STYLED, styled } from './styles'

interface Piece {
  base: string
  weight: number
  mono: Float32Array
  rate: number
  beats: readonly number[]
  /** Null where bars are not four beats, or not known. */
  downbeats: readonly number[] | null
  eights: readonly number[] | null
}

/** One choice: a row of features a way, and which ways are right. */
interface Trial {
  base: string
  weight: number
  ways: number[][]
  right: boolean[]
}

/** Versions that differ in what tells the beat; drift, silence, mp3 and jumps are other stages' business. */
const VERSIONS = [null, 'crop', 'font', 'nodrums', 'lead', 'half', 'swing'] as const
/** Written at 96, snare on every off-beat: people may well step at 192. Nothing can be learned from it. */
const DOUBTFUL = new Set(['blupi-music008'])

async function* pieces(): AsyncGenerator<Piece> {
  const read = (file: string) => {
    const pcm = readWav(readFileSync(file))
    return { mono: toMono(pcm), rate: pcm.sampleRate }
  }
  for (const song of SONGS.filter((s) => s.half === 'dev' && !DOUBTFUL.has(s.id)))
    for (const spoil of VERSIONS) {
      const r = await rendered(song, spoil)
      if (!r) continue
      const { beats, downbeats, eights } = r.truth
      yield {
        base: song.id,
        weight: 1,
        ...read(r.file),
        beats,
        downbeats: song.bars ? downbeats : null,
        eights,
      }
    }
  for (const [i, one] of STYLED.entries()) {
    const song = styled(one)
    const file = await wavOf(one.id, { song, cut: 0, font: i % 3 ? 'first' : 'second', mp3: false })
    const four = one.style.beats === 4
    yield {
      base: one.id,
      weight: 0.4,
      ...read(file),
      beats: song.beats,
      downbeats: four ? song.downbeats : null,
      eights: four ? song.eights : null,
    }
  }
}

/** Where most of some beat indices lie in rounds of n; null when under four in five agree. */
function placeOf(indices: readonly number[], n: number): number | null {
  const counts = Array.from({ length: n }, (_, r) => indices.filter((k) => k % n === r).length)
  const most = Math.max(...counts)
  return most > 0.8 * indices.length ? counts.indexOf(most) : null
}

function onesTrial(p: Piece, s: Spectrum, o: Onsets): Trial | null {
  const end = p.mono.length / p.rate
  const beats = p.beats.filter((t) => t < end)
  const indexOf = (t: number) =>
    beats.reduce((best, b, k) => (Math.abs(b - t) < Math.abs((beats[best] as number) - t) ? k : best), 0)
  const place = (xs: readonly number[] | null, n: number) =>
    xs ? placeOf(xs.filter((t) => t < end - 1).map(indexOf), n) : null
  const [bar, eight] = [place(p.downbeats, 4), place(p.eights, 8)]
  if (bar === null) return null
  const list = clues(beatFeatures(s, o, beats))
  const mean = (c: Float32Array, r: number, n: number) => {
    let sum = 0
    for (let k = r; k < c.length; k += n) sum += c[k] as number
    return (sum * n) / c.length
  }
  const eights = Array.from({ length: 8 }, (_, r) => r)
  return {
    base: p.base,
    weight: p.weight,
    ways: eights.map((r) => [...list.map((c) => mean(c, r % 4, 4)), ...list.map((c) => mean(c, r, 8))]),
    right: eights.map((r) => (eight === null ? r % 4 === bar : r === eight)),
  }
}

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((s, x, i) => s + x * (b[i] as number), 0)

/** Gradient ascent with the step of each weight by its past (Duchi, Hazan & Singer 2011, "Adaptive subgradient methods"). */
function fitted(trials: readonly Trial[], ridge: number): number[] {
  const size = trials[0]?.ways[0]?.length ?? 0
  const versions = new Map<string, number>()
  for (const t of trials) versions.set(t.base, (versions.get(t.base) ?? 0) + 1)
  const w = new Array<number>(size).fill(0.3)
  const past = new Array<number>(size).fill(1e-8)
  const total = trials.reduce((s, t) => s + t.weight / (versions.get(t.base) ?? 1), 0)
  for (let round = 0; round < 400; round++) {
    const g = new Array<number>(size).fill(0)
    for (const t of trials) {
      const scores = t.ways.map((f) => dot(f, w))
      const top = Math.max(...scores)
      const odds = scores.map((s) => Math.exp(s - top))
      const all = odds.reduce((a, b) => a + b, 0)
      const good = odds.reduce((s, x, i) => s + (t.right[i] ? x : 0), 0)
      const share = t.weight / (versions.get(t.base) ?? 1)
      t.ways.forEach((f, i) => {
        const odd = odds[i] as number
        const k = share * ((t.right[i] ? odd / good : 0) - odd / all)
        for (let d = 0; d < size; d++) g[d] = (g[d] as number) + k * (f[d] as number)
      })
    }
    for (let d = 0; d < size; d++) {
      const step = (g[d] as number) / total - ridge * (w[d] as number)
      past[d] = (past[d] as number) + step * step
      w[d] = (w[d] as number) + (0.25 * step) / Math.sqrt(past[d] as number)
    }
  }
  return w
}

const isRight = (t: Trial, w: readonly number[]) => {
  const scores = t.ways.map((f) => dot(f, w))
  return t.right[scores.indexOf(Math.max(...scores))] === true
}

function report(name: string, trials: readonly Trial[], ridge: number) {
  const w = fitted(trials, ridge)
  const songs = [...new Set(trials.filter((t) => t.weight === 1).map((t) => t.base))]
  let right = 0
  let all = 0
  for (const base of songs) {
    const without = fitted(
      trials.filter((t) => t.base !== base),
      ridge,
    )
    for (const t of trials.filter((x) => x.base === base)) {
      all++
      if (isRight(t, without)) right++
    }
  }
  console.log(`${name}: ${right} of ${all} versions right, each song left out of its own fit`)
  console.log(w.map((x) => x.toFixed(2)).join(', '))
}

fetchSongs()
const onesTrials: Trial[] = []
for await (const p of pieces()) {
  const s = spectrum(p.mono, p.rate, () => {})
  const o = onsets(s)
  const ones = onesTrial(p, s, o)
  if (ones) onesTrials.push(ones)
  process.stderr.write(`\r${p.base}            `)
}
report('ones.ts, bars then phrases', onesTrials, 0.03)
