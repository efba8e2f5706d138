/*
 * npm run bench:mixes: mixes as dance teams have them cut, some eights of one song after some of another, each at its own tempo. Of the
 * bench's plain songs, cut at their eights.
 */
import { readFileSync } from 'node:fs'
import { readWav, toMono } from '../../src/core/formats/wav'
import { downbeats, eights, listen } from '../../src/core/hear/listen'
import { fetchSongs, type Rendered, rendered } from './render'
import { fMeasure, type HeardBeats, score, type Truth } from './scores'
import { SONGS } from './songs'
import { chance } from './spoil'

/** Seconds over which one song goes into the next. */
const SEAM = 0.01
const RATE = 44_100

interface Part {
  of: string
  /** Seconds in the mix. */
  from: number
  to: number
  tempo: number
}

interface Mix {
  id: string
  sound: Float32Array
  truth: Truth
  parts: Part[]
}

const monoOf = (file: string) => {
  const pcm = readWav(readFileSync(file))
  if (pcm.sampleRate !== RATE) throw new Error(`${file} has ${pcm.sampleRate} Hz`)
  return toMono(pcm)
}

/** Between half a minute and a minute of a song, from one eight to another; the same every time. */
function stretchOf(r: Rendered, seed: string) {
  const starts = (r.truth.eights ?? []).filter((t) => t < r.truth.end - 0.5)
  const eight = ((starts.at(-1) ?? 0) - (starts[0] ?? 0)) / Math.max(1, starts.length - 1)
  const many = Math.min(starts.length - 2, Math.round((28 + 24 * chance(`${seed} long`)) / eight))
  const first = 1 + Math.floor((starts.length - 1 - many) * chance(`${seed} from`))
  return { from: starts[first] as number, to: starts[first + many] as number }
}

function mixOf(id: string, songs: readonly Rendered[]): Mix {
  const truth = { tempo: 0, beats: [] as number[], downbeats: [] as number[], eights: [] as number[] }
  const parts: Part[] = []
  const cuts = songs.map((r, i) => ({ r, ...stretchOf(r, `${id} ${i}`) }))
  const sound = new Float32Array(Math.ceil(cuts.reduce((n, c) => n + c.to - c.from + 2 * SEAM, 0) * RATE))
  let at = SEAM
  for (const { r, from, to } of cuts) {
    const mono = monoOf(r.file)
    const shift = at - from
    const first = Math.round((from - SEAM) * RATE)
    const many = Math.round(to * RATE) - first
    const target = Math.round((at - SEAM) * RATE)
    for (let i = 0; i < many; i++) {
      const level = Math.min(1, i / (SEAM * RATE), (many - i) / (SEAM * RATE))
      sound[target + i] = (sound[target + i] ?? 0) + level * (mono[first + i] ?? 0)
    }
    const inside = (list: readonly number[] | null) =>
      (list ?? []).filter((t) => t > from - 0.02 && t < to - 0.02).map((t) => t + shift)
    truth.beats.push(...inside(r.truth.beats))
    truth.downbeats.push(...inside(r.truth.downbeats))
    truth.eights.push(...inside(r.truth.eights))
    parts.push({ of: r.id, from: at, to: at + to - from, tempo: r.truth.tempo })
    at += to - from
  }
  return {
    id,
    sound: sound.subarray(0, Math.ceil(at * RATE)),
    truth: { ...truth, tempo: parts[0]?.tempo ?? 0 },
    parts,
  }
}

/** Beat F of one song of a mix, and how many times too fast or slow it is counted. */
function partText(part: Part, truth: Truth, heard: HeardBeats): string {
  const within = (list: readonly number[] | null) =>
    (list ?? []).filter((t) => t > part.from + 1 && t < part.to - 1)
  const [beats, got] = [within(truth.beats), within(heard.beats)]
  const f = fMeasure(beats, got).toFixed(2)
  const rate = (got.length / Math.max(1, beats.length)).toFixed(2)
  return `${part.of} ${part.tempo.toFixed(0)} f ${f} x${rate} eights ${fMeasure(within(truth.eights), within(heard.eights)).toFixed(2)}`
}

async function mixes(half: 'dev' | 'report', many: number): Promise<Mix[]> {
  const songs: Rendered[] = []
  for (const song of SONGS.filter((s) => s.half === half && s.kind === 'clean' && s.bars)) {
    const r = await rendered(song, null)
    if (r && (r.truth.eights?.length ?? 0) > 16) songs.push(r)
  }
  return Array.from({ length: many }, (_, i) => {
    const id = `${half}-mix-${i + 1}`
    const order = [...songs].sort((a, b) => chance(`${id} ${a.id}`) - chance(`${id} ${b.id}`))
    return mixOf(id, order.slice(0, 2 + (i % 3)))
  })
}

async function main() {
  fetchSongs()
  const half = process.argv.includes('--report') ? 'report' : 'dev'
  const all: { f: number; cmlt: number; down: number; eight: number }[] = []
  for (const mix of await mixes(half, 12)) {
    const { hearing } = listen(mix.sound, RATE)
    const heard = {
      ...{ tempo: hearing.tempo, beats: hearing.beats },
      ...{ downbeats: downbeats(hearing), eights: eights(hearing) },
    }
    const s = score(mix.truth, heard)
    all.push(s)
    const sure = hearing.sure.beats.map((x) => Math.round(100 * x))
    console.log(
      `${mix.id}: F ${s.f.toFixed(2)} CMLt ${s.cmlt.toFixed(2)} downbeats ${s.down.toFixed(2)} eights ${s.eight.toFixed(2)}; sure ${Math.min(...sure)}..${Math.max(...sure)}`,
    )
    for (const part of mix.parts)
      console.log(`   ${part.from.toFixed(0)}..${part.to.toFixed(0)} ${partText(part, mix.truth, heard)}`)
  }
  const mean = (f: (s: (typeof all)[number]) => number) =>
    (all.reduce((n, s) => n + f(s), 0) / all.length).toFixed(3)
  console.log(
    `${all.length} mixes: beat F ${mean((s) => s.f)}, CMLt ${mean((s) => s.cmlt)}, downbeats ${mean((s) => s.down)}, eights ${mean((s) => s.eight)}`,
  )
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
