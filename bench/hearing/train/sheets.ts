/* Chord sheets by chance for mma's styles, turned into MIDI by mma. */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { readSong, type Song } from '../midi'
import { chance } from '../spoil'
import { type Groove, partsOf } from './grooves'

const KEYS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B']
/** Semitones over the key, then the kind of chord; bars apart by spaces, `-` goes on with the chord before, `+` halves a bar. */
const TURNS = [
  '0 9m 5 7',
  '0 5 7 5',
  '9m 5 0 7',
  '0 7 9m 5',
  '2m7 7 0 -',
  '0 - 5 7',
  '0 4m 5 5m',
  '0M7 9m7 2m7 7',
  '0 - 5 -',
  '0+7 9m+4m 5+0 2m+7',
  '2m7+7 0M7 2m7+7 0M7',
  '0 10 5 0',
  '9m 7 5 4',
  '5 0 7 9m',
  '0m 8 10 0m',
  '0m 5m 8 7',
  '0m - - 7m',
  '0 0 0 0 5 5 0 0 7 5 0 7',
]

const pick = <T>(xs: readonly T[], key: string) => xs[Math.floor(xs.length * chance(key))] as T

function bars(id: string, n: number, key: number, beats: number): string[] {
  const turn = pick(TURNS, `${id} turn`).split(' ')
  const chord = (x: string) => {
    const [, steps, kind] = /^(\d+)(.*)$/.exec(x) as unknown as [string, string, string]
    return `${KEYS[(key + Number(steps)) % 12]}${kind}`
  }
  let last = chord('0')
  return Array.from({ length: n }, (_, i) => {
    const bar = turn[i % turn.length] as string
    if (bar === '-') return last
    const chords = bar.split('+').map(chord)
    last = chords.at(-1) as string
    return chords.length === 2 ? `${chords[0]} / ${chords[1]}${beats === 4 ? ' /' : ''}` : last
  })
}

/** A song of 45 to 62 s in a style: sections of eight or sixteen bars, its fills, sometimes its intro and ending. */
function sheet(id: string, groove: Groove, bpm: number): string {
  const parts = partsOf(groove.file)
  const total = ((45 + 17 * chance(`${id} long`)) * bpm) / (60 * groove.beats)
  const key = Math.floor(12 * chance(`${id} key`))
  const lines = [
    `RndSeed ${Math.floor(1e6 * chance(`${id} seed`))}`,
    `Tempo ${bpm}`,
    `Timesig ${groove.beats} 4`,
  ]
  let n = 1
  const put = (name: string, chords: readonly string[]) => {
    lines.push(`Groove ${groove.file}:${name}`)
    for (const c of chords) lines.push(`${n++} ${c}`)
  }
  if (parts.intro.length && chance(`${id} intro?`) < 0.5)
    put(pick(parts.intro, `${id} intro`), bars(`${id} intro`, 4, key, groove.beats))
  const sections = [
    bars(`${id} A`, 8, key, groove.beats),
    bars(`${id} B`, 8, (key + pick([0, 0, 5, 9], `${id} up`)) % 12, groove.beats),
  ]
  for (let k = 0; n <= total - 4; k++) {
    const body = pick(parts.body, `${id} body ${k % 3}`)
    const once = sections[k % 3 === 2 ? 1 : 0] as string[]
    const long = chance(`${id} twice ${k}`) < 0.25 ? [...once, ...once] : once
    if (parts.fill.length && chance(`${id} fill ${k}`) < 0.7) {
      put(body, long.slice(0, -1))
      put(pick(parts.fill, `${id} which ${k}`), long.slice(-1))
    } else put(body, long)
  }
  if (parts.end.length && chance(`${id} end?`) < 0.5)
    put(pick(parts.end, `${id} end`), [KEYS[key] as string, KEYS[key] as string])
  return `${lines.join('\n')}\n`
}

/** The song of a style at a tempo, or null where mma cannot play it. */
export function played(id: string, groove: Groove, bpm: number, dir: string): Song | null {
  const file = path.join(dir, `${id}.mid`)
  if (!existsSync(file)) {
    if (partsOf(groove.file).body.length === 0) return null
    mkdirSync(dir, { recursive: true })
    writeFileSync(path.join(dir, `${id}.mma`), sheet(id, groove, bpm))
    spawnSync('mma', ['-f', file, path.join(dir, `${id}.mma`)], { stdio: 'ignore' })
    if (!existsSync(file)) return null
  }
  const song = readSong(readFileSync(file), {
    id,
    half: 'dev',
    kind: 'clean',
    origin: 0,
    anew: [],
    bars: true,
    spoiled: false,
    lag: 0,
  })
  // Some styles set another metre or tempo themselves.
  const inBars = Math.abs(song.beats.length / song.downbeats.length / groove.beats - 1) < 0.1
  return inBars && (groove.beats !== 4 || song.eights) && Math.abs(song.tempo / bpm - 1) < 0.01 ? song : null
}
