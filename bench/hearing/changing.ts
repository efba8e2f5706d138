/*
 * npm run bench:metres: songs made by rule whose metre changes on the way, heard from sound fonts; and how often a change is
 * heard in songs that have none.
 */
import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { readWav, toMono } from '../../src/core/formats/wav'
import { downbeats, listen } from '../../src/core/hear/listen'
import { type Song, writeSong } from './midi'
import { CACHE } from './render'
import { fMeasure } from './scores'
import { chance } from './spoil'
import { styled } from './styles'
import { stylesOf } from './train/dance'
import { FIVES, SEVENS, THREES } from './train/metres'

const FOLDER = path.join(CACHE, 'changing')
const FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2'
const FOURS = stylesOf(
  [
    [
      'plain four',
      96,
      140,
      4,
      { kick: '9.......9.......', snare: '....9.......9...', hat: '7.5.7.5.7.5.7.5.' },
      '9.......8.......',
      '8...............',
    ],
    ['picked four', 90, 132, 4, {}, '8.......7.......', '7.6.6.6.7.6.6.6.'],
  ],
  4,
)

/** A song of stretches, each so many bars of a style, at one tempo. */
interface Changing {
  id: string
  bpm: number
  stretches: { style: (typeof FOURS)[number]; bars: number }[]
}

/** Four and another metre by turns, in stretches of eight to sixteen bars; the same every time. */
function changing(): Changing[] {
  const others = [...stylesOf(THREES, 3), ...stylesOf(FIVES, 5), ...stylesOf(SEVENS, 7)]
  return others.flatMap((other, i) => {
    const id = `changing-${other.name.replaceAll(' ', '_')}`
    const [low, high] = other.bpm
    const bpm = Math.round(low + (high - low) * chance(`${id} bpm`))
    if (bpm > 170) return []
    const four = FOURS[i % 2] as (typeof FOURS)[number]
    const orders = [
      [four, other, four],
      [other, four],
      [four, other],
    ] as const
    const order = orders[i % 3] as readonly (typeof FOURS)[number][]
    const stretches = order.map((style, k) => ({
      style,
      bars: 8 * (1 + Math.round(chance(`${id} ${k}`))) + 8,
    }))
    return [{ id, bpm, stretches }]
  })
}

/** The stretches one after the other. */
function played({ id, bpm, stretches }: Changing): Song {
  const parts = stretches.map(({ style, bars }, k) => {
    const song = styled({ id: `${id} ${k}`, style, bpm })
    const end = (song.downbeats[0] as number) + (bars * style.beats * 60) / bpm
    return { song, end, first: song.downbeats[0] as number }
  })
  const out: Song = {
    ...(parts[0] as (typeof parts)[0]).song,
    notes: [],
    beats: [],
    downbeats: [],
    eights: null,
  }
  let at = 0.7
  for (const { song, end, first } of parts) {
    const by = at - first
    const within = (t: number) => t >= first - 0.03 && t < end - 0.03
    out.notes.push(
      ...song.notes
        .filter((n) => within(n.on))
        .map((n) => ({ ...n, on: Math.max(0, n.on + by), off: Math.min(n.off, end) + by })),
    )
    out.beats.push(...song.beats.filter(within).map((t) => t + by))
    out.downbeats.push(...song.downbeats.filter(within).map((t) => t + by))
    at += end - first
  }
  return { ...out, notes: out.notes.sort((a, b) => a.on - b.on), end: at }
}

function soundOf(one: Changing): { mono: Float32Array; rate: number; song: Song } {
  const song = played(one)
  const file = path.join(FOLDER, `${one.id}.wav`)
  if (!existsSync(file)) {
    writeFileSync(`${file}.mid`, writeSong(song))
    execFileSync(
      'fluidsynth',
      ['-niq', '-F', file, '-T', 'wav', '-O', 's16', '-r', '44100', '-g', '0.3', FONT, `${file}.mid`],
      { stdio: 'ignore' },
    )
  }
  const pcm = readWav(readFileSync(file))
  return { mono: toMono(pcm), rate: pcm.sampleRate, song }
}

function main() {
  mkdirSync(FOLDER, { recursive: true })
  const scores: { beats: number; bars: number }[] = []
  for (const one of changing()) {
    const { mono, rate, song } = soundOf(one)
    const { hearing } = listen(mono, rate)
    const score = {
      beats: fMeasure(song.beats, hearing.beats),
      bars: fMeasure(song.downbeats, downbeats(hearing)),
    }
    scores.push(score)
    const made = one.stretches.map((s) => `${s.bars} of ${s.style.beats}`).join(', ')
    const heard =
      hearing.metres.map((m) => `${m.bar} from ${m.beat}`).join(', ') || `${hearing.bar} throughout`
    console.log(
      `${one.id.padEnd(32)} ${one.bpm} BPM, ${made}; heard ${hearing.tempo.toFixed(1)}: ${heard}; beat F ${score.beats.toFixed(2)}, bar F ${score.bars.toFixed(2)}`,
    )
  }
  const mean = (of: 'beats' | 'bars') => scores.reduce((sum, s) => sum + s[of], 0) / scores.length
  console.log(
    `${scores.length} songs: beat F ${mean('beats').toFixed(2)}, bar F ${mean('bars').toFixed(2)}, all bars right in ${scores.filter((s) => s.bars > 0.9).length}`,
  )
}

main()
