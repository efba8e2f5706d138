/* Stretches of songs one after another, and what is known of their beats. */
import { readFileSync } from 'node:fs'
import { readWav, toMono } from '../../src/core/formats/wav'
import { downbeats, eights, listen } from '../../src/core/hear/listen'
import { fetchSongs, type Rendered, rendered } from './render'
import { fMeasure, type HeardBeats, score, type Truth } from './scores'
import { SONGS } from './songs'

/** Seconds over which one goes into the next. */
const SEAM = 0.01
const RATE = 44_100

/** A stretch of a song, in its own seconds. */
export interface Stretch {
  song: Rendered
  from: number
  to: number
}

/** Where a stretch came to lie. */
interface Part {
  of: string
  from: number
  to: number
  tempo: number
}

export interface Mix {
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

/** Puts stretches of songs one after another. */
export function cutTogether(id: string, stretches: readonly Stretch[]): Mix {
  const truth = { tempo: 0, beats: [] as number[], downbeats: [] as number[], eights: [] as number[] }
  const parts: Part[] = []
  const sound = new Float32Array(
    Math.ceil(stretches.reduce((n, c) => n + c.to - c.from + 2 * SEAM, 0) * RATE),
  )
  let at = SEAM
  for (const { song, from, to } of stretches) {
    const mono = monoOf(song.file)
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
    truth.beats.push(...inside(song.truth.beats))
    truth.downbeats.push(...inside(song.truth.downbeats))
    truth.eights.push(...inside(song.truth.eights))
    parts.push({ of: song.id, from: at, to: at + to - from, tempo: song.truth.tempo })
    at += to - from
  }
  return {
    id,
    sound: sound.subarray(0, Math.ceil(at * RATE)),
    truth: { ...truth, tempo: parts[0]?.tempo ?? 0 },
    parts,
  }
}

/** The bench's plain songs of one half whose eights are known. */
export async function plainSongs(half: 'dev' | 'report'): Promise<Rendered[]> {
  fetchSongs()
  const songs: Rendered[] = []
  for (const song of SONGS.filter((s) => s.half === half && s.kind === 'clean' && s.bars)) {
    const r = await rendered(song, null)
    if (r && (r.truth.eights?.length ?? 0) > 16) songs.push(r)
  }
  return songs
}

/** Beat F of one part of a mix, and how many times too fast or slow it is counted. */
function partText(part: Part, truth: Truth, heard: HeardBeats): string {
  const within = (list: readonly number[] | null) =>
    (list ?? []).filter((t) => t > part.from + 1 && t < part.to - 1)
  const [beats, got] = [within(truth.beats), within(heard.beats)]
  const f = fMeasure(beats, got).toFixed(2)
  const rate = (got.length / Math.max(1, beats.length)).toFixed(2)
  return `${part.of} ${part.tempo.toFixed(0)} f ${f} x${rate} eights ${fMeasure(within(truth.eights), within(heard.eights)).toFixed(2)}`
}

/** Hears them, and prints how each is heard and all in the mean. */
export function printHeard(what: string, mixes: Iterable<Mix>): void {
  const all: { f: number; cmlt: number; down: number; eight: number }[] = []
  for (const mix of mixes) {
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
    `${all.length} ${what}: beat F ${mean((s) => s.f)}, CMLt ${mean((s) => s.cmlt)}, downbeats ${mean((s) => s.down)}, eights ${mean((s) => s.eight)}`,
  )
}
