/* npm run bench:sound: how well slowed music keeps its strokes, chords and voices, beside rubberband where that program is installed. */
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { readWav, writeWav } from '../../src/core/formats/wav'
import { findStrokes, stretched, stretchFaster } from '../../src/core/stretch'
import { FAST } from '../../src/core/stretch/fast.test-tools'
import { beat, chord, PARTIALS, voice } from './made'
import {
  afterOverBefore,
  bandEnergy,
  impurity,
  melDistance,
  quantile,
  RATE,
  type Struck,
  sharpest,
  struckAt,
} from './measures'

type Way = (sound: Float32Array, speed: number) => Float32Array

if (!process.env.PLAIN && !stretchFaster(FAST)) throw new Error('The faster transform does not run here.')
const azalea: Way = (sound, speed) => {
  const song = { channels: [sound], rate: RATE, strokes: findStrokes(sound, RATE) }
  const samples = Math.floor(sound.length / speed)
  return stretched(song, { from: 0, speed, samples })[0] as Float32Array
}

const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-sound-'))
/** Debian's program, its finer engine. */
const rubberband: Way = (sound, speed) => {
  const [from, to] = [path.join(dir, 'in.wav'), path.join(dir, 'out.wav')]
  writeFileSync(from, writeWav({ sampleRate: RATE, channels: [sound] }))
  execFileSync('rubberband', ['--fine', '-q', '-t', String(1 / speed), from, to], { stdio: 'ignore' })
  return readWav(readFileSync(to)).channels[0] as Float32Array
}

const ways: [string, Way][] = [['Azalea', azalea]]
if (spawnSync('rubberband', ['--version']).status === 0) ways.push(['rubberband, fine', rubberband])

const out: string[] = []
const say = (line: string) => {
  out.push(line)
  console.log(line)
}
const x = (n: number, digits = 1) => n.toFixed(digits)

/** Hats of other noise: how one rises is chance, how much later its slowed version is not. */
const SEEDS = [7, 8, 9, 10, 11]
const AS_IT_WAS: Way = (sound) => sound

function made(): void {
  const beats = SEEDS.map((seed) => beat(12, seed))
  const steady = chord(12)
  const sung = voice(8, 1)
  say(
    '| made music | rise of a hat, ms: of five | median | spread, ms | heard before, dB | rise of a kick, ms | chord beside its partials, dB | voice, dB |',
  )
  say('| --- | --- | --- | --- | --- | --- | --- | --- |')
  const row = (name: string, way: Way, speed: number) => {
    const places = (list: number[]) => list.slice(2, -2).map((t) => t / speed)
    const slowed = beats.map((b) => ({ ...b, sound: way(b.sound, speed) }))
    const hats = slowed.map((b) => struckAt(bandEnergy(b.sound, 6500, 12_000), places(b.hats)))
    const kicks = slowed.map((b) => struckAt(bandEnergy(b.sound, 40, 200), places(b.kicks), 90))
    const of = (list: Struck[], what: keyof Struck) =>
      quantile(
        list.map((h) => h[what]),
        0.5,
      )
    const tones = impurity(way(steady, speed), PARTIALS)
    const off = way === AS_IT_WAS ? '' : x(melDistance(way(sung, speed), voice(8, 1 / speed)), 2)
    say(
      `| ${name} | ${hats.map((h) => x(h.rise, 2)).join(', ')} | ${x(of(hats, 'rise'), 2)} | ${x(of(hats, 'spread'), 2)} | ${x(of(hats, 'before'))} | ${x(of(kicks, 'rise'))} | ${x(tones)} | ${off} |`,
    )
  }
  row('as it was', AS_IT_WAS, 1)
  for (const speed of [0.5, 0.75])
    for (const [name, way] of ways) row(`${name}, ${speed * 100} %`, way, speed)
}

/** Records: 20 s from the middle of each file of a folder. */
function records(folder: string): void {
  say('')
  say(`| record | as it was | ${ways.flatMap(([name]) => [`${name}, 50 %`, '75 %']).join(' | ')} |`)
  say(`| --- | --- |${' --- |'.repeat(2 * ways.length)}`)
  for (const file of readdirSync(folder)
    .filter((f) => f.endsWith('.wav'))
    .sort()) {
    const { channels, sampleRate } = readWav(readFileSync(path.join(folder, file)))
    const [left] = channels
    if (!left || sampleRate !== RATE) continue
    const from = Math.max(0, (left.length >> 1) - 10 * RATE)
    const sound = left.slice(from, from + 20 * RATE)
    const places = sharpest(sound)
    const cells = ways.flatMap(([, way]) =>
      [0.5, 0.75].map((speed) =>
        x(
          afterOverBefore(
            way(sound, speed),
            places.map((t) => t / speed),
          ),
        ),
      ),
    )
    say(`| ${file.replace('.wav', '')} | ${x(afterOverBefore(sound, places))} | ${cells.join(' | ')} |`)
  }
}

/** A song of four minutes in two channels at two speeds. */
function speedOfIt(): void {
  const { sound } = beat(240, 7)
  const other = sound.map((y) => 0.8 * y)
  const found = performance.now()
  const strokes = findStrokes(sound, RATE)
  const begun = performance.now()
  for (const speed of [0.5, 0.75])
    stretched(
      { channels: [sound, other], rate: RATE, strokes },
      { from: 0, speed, samples: Math.floor(sound.length / speed) },
    )
  say('')
  say(
    `Four minutes: strokes found in ${x((begun - found) / 1000, 2)} s, stretched to 50 % and to 75 % in ${x((performance.now() - begun) / 1000)} s.`,
  )
}

if (!process.env.ONLY) made()
const [folder] = process.argv.slice(2)
if (folder) records(folder)
if (!process.env.ONLY) speedOfIt()
rmSync(dir, { recursive: true, force: true })
