/* npm run bench:hearing: songs of known beat, heard by Azalea and by reference trackers in the same run. */
import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { readWav, toMono } from '../../src/core/formats/wav'
import type { Hearing } from '../../src/core/hear'
import { downbeats, eights, listen } from '../../src/core/hear/listen'
import { corrections } from './corrections'
import { MODULE_PACKAGES, MODULES, type Module, type PlayedModule, played } from './modules'
import { CACHE, fetchReferences, fetchSongs, type Rendered, rendered } from './render'
import { type HeardBeats, nearest, score, type Truth, WINDOW } from './scores'
import { PACKAGES, SONGS } from './songs'
import { SPOILS } from './spoil'
import {
  calibration,
  type Half,
  mean,
  type PhraseSure,
  phraseCalibration,
  type Row,
  show,
  table,
  tempoBin,
} from './tables'

const REFERENCES = ['essentia-multifeature', 'essentia-degara', 'music-tempo'] as const

/** A sound to be heard, and every way to count it that is right. */
interface Sound {
  id: string
  group: string
  half: Half
  /** A WAV file. */
  file: string
  truths: Truth[]
  /** Seconds. */
  end: number
}

const soundOf = (r: Rendered): Sound => ({
  id: r.id,
  group: r.spoil ?? r.song.kind,
  half: r.song.half,
  file: r.file,
  truths: [
    {
      tempo: r.truth.tempo,
      beats: r.truth.beats,
      downbeats: r.song.bars ? r.truth.downbeats : null,
      eights: r.truth.eights,
    },
  ],
  end: r.truth.end,
})

async function moduleSound(module: Module, version: 'plain' | 'mp3'): Promise<Sound> {
  const ways: PlayedModule[] = []
  // One after the other: the first makes the file that all of them are heard from.
  for (const rows of module.rows) ways.push(await played(module, version, rows))
  const [first] = ways
  if (!first) throw new Error(`${module.id} has no beat`)
  return {
    id: version === 'plain' ? module.id : `${module.id}.${version}`,
    group: version === 'plain' ? 'module' : `module, ${version}`,
    half: 'modules',
    file: first.file,
    truths: ways.map(({ tempo, beats, downbeats, eights }) => ({ tempo, beats, downbeats, eights })),
    end: first.end,
  }
}

/** What the hearing says of each of its phrases, against the truth where there is one. */
function phrasesOf(hearing: Hearing, truth: Truth): PhraseSure[] {
  const near = (xs: readonly number[], t: number) => Math.abs((xs[nearest(xs, t)] ?? 99) - t) <= WINDOW
  const [first, last] = [truth.beats[0] ?? 0, truth.beats.at(-1) ?? 0]
  return hearing.phrases.flatMap((start, i) => {
    const beats = hearing.beats.slice(start, hearing.phrases[i + 1])
    if (beats.length < 4 || (beats[0] as number) < Math.max(5, first) || (beats.at(-1) as number) > last)
      return []
    const right = beats.filter((t) => near(truth.beats, t)).length
    const dense = truth.beats.filter(
      (t) => t >= (beats[0] as number) - 0.07 && t <= (beats.at(-1) as number) + 0.07,
    )
    return [
      {
        beats: hearing.sure.beats[i] ?? 0,
        one: hearing.sure.ones[i] ?? 0,
        beatsRight: right === beats.length && Math.abs(dense.length - beats.length) <= 1,
        oneRight: truth.eights ? near(truth.eights, beats[0] as number) : null,
      },
    ]
  })
}

/** The truth that fits best: where people may step at either of two tempi, either is right. */
const fitting = (truths: readonly Truth[], heard: HeardBeats): Truth =>
  truths.reduce((best, t) => (score(t, heard).f > score(best, heard).f ? t : best))

function azalea(file: string): { hearing: Hearing; heard: HeardBeats; pace: number } {
  const pcm = readWav(readFileSync(file))
  const mono = toMono(pcm)
  const from = process.hrtime.bigint()
  const { hearing } = listen(mono, pcm.sampleRate)
  const seconds = Number(process.hrtime.bigint() - from) / 1e9
  const heard = {
    tempo: hearing.tempo,
    beats: hearing.beats,
    downbeats: downbeats(hearing),
    eights: eights(hearing),
  }
  return { hearing, heard, pace: seconds / hearing.duration }
}

function reference(name: string, r: Sound): Promise<{ heard: HeardBeats; pace: number }> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, ['bench/hearing/trackers.mjs', name, r.file], {
      stdio: ['ignore', 'pipe', 'ignore'],
    })
    let out = ''
    child.stdout.on('data', (b) => {
      out += b
    })
    child.on('exit', () => {
      try {
        const heard = JSON.parse(out)
        resolve({ heard, pace: heard.seconds / r.end })
      } catch {
        resolve({ heard: { tempo: 0, beats: [], downbeats: [], eights: [] }, pace: Number.NaN })
      }
    })
  })
}

async function measure(r: Sound, references: readonly string[]): Promise<Row[]> {
  const row = (tracker: string, heard: HeardBeats, pace: number): Row => {
    const truth = fitting(r.truths, heard)
    return {
      ...{ id: r.id, group: r.group, half: r.half, tracker },
      score: score(truth, heard),
      corrections: corrections(truth, heard),
      sure: Number.NaN,
      sureOne: Number.NaN,
      phrases: [],
      bpm: truth.tempo,
      pace,
    }
  }
  const { hearing, heard, pace } = azalea(r.file)
  const own = {
    ...row('azalea', heard, pace),
    sure: hearing.confidence.beats,
    sureOne: hearing.confidence.one,
    phrases: phrasesOf(hearing, fitting(r.truths, heard)),
  }
  const others: Row[] = []
  for (const name of references) {
    const theirs = await reference(name, r)
    others.push(row(name, theirs.heard, theirs.pace))
  }
  return [own, ...others]
}

async function main() {
  const half = process.argv.includes('--dev') ? 'dev' : process.argv.includes('--report') ? 'report' : null
  const modulesAlone = process.argv.includes('--modules')
  const references = !process.argv.includes('--alone')
  if (references || !half) fetchReferences()
  fetchSongs(half ? PACKAGES : [...PACKAGES, ...MODULE_PACKAGES])
  const songs = SONGS.filter((s) => !modulesAlone && (!half || s.half === half))
  const jobs = songs.flatMap((song) => {
    const spoils =
      song.kind === 'clean' ? SPOILS.filter((s) => s === 'crop' || s === 'begin' || song.spoiled) : []
    return [null, ...spoils].map((spoil) => ({ song, spoil }))
  })
  const rows: Row[] = []
  for (const { song, spoil } of jobs) {
    const r = await rendered(song, spoil)
    if (!r) continue
    const plain = spoil === null || spoil === 'crop'
    // The slowest reference takes half a minute a song: it hears the clean and cropped ones only.
    const others = !references || song.kind === 'odd' ? [] : plain ? REFERENCES : REFERENCES.slice(1)
    rows.push(...(await measure(soundOf(r), others)))
    process.stderr.write(`\r${rows.length} measured, last ${r.id}            `)
  }
  for (const module of half ? [] : MODULES)
    for (const version of ['plain', 'mp3'] as const) {
      rows.push(...(await measure(await moduleSound(module, version), references ? REFERENCES : [])))
      process.stderr.write(`\r${rows.length} measured, last ${module.id}            `)
    }
  process.stderr.write('\n')
  const own = rows.filter((r) => r.tracker === 'azalea')
  const plain = (r: Row) => r.group === 'clean' || r.group === 'crop'
  const spoiled = (r: Row) => !plain(r) && r.group !== 'odd'
  const at = (h: Half, test: (r: Row) => boolean) => rows.filter((r) => r.half === h && test(r))
  const parts = [
    table('Songs nothing was fitted on: clean and cropped', at('report', plain), (r) => r.tracker),
    table('Songs nothing was fitted on: spoiled', at('report', spoiled), (r) => r.tracker),
    table(
      'Tracker modules, and mp3s of them',
      rows.filter((r) => r.half === 'modules'),
      (r) => `${r.tracker}, ${r.group}`,
    ),
    table('Songs bars and phrases were fitted on: clean and cropped', at('dev', plain), (r) => r.tracker),
    table('Songs bars and phrases were fitted on: spoiled', at('dev', spoiled), (r) => r.tracker),
    table('Azalea by kind, both halves', own, (r) => r.group),
    table(
      'Azalea by tempo, clean and cropped, both halves',
      own.filter(plain).sort((x, y) => x.bpm - y.bpm),
      tempoBin,
    ),
    calibration(own.filter((r) => r.group !== 'odd')),
    phraseCalibration(own.filter((r) => r.group !== 'odd')),
    `Pace: ${show(100 * mean(own.map((r) => r.pace)), 1)} % of the song's length for Azalea${references ? `, ${REFERENCES.map((n) => `${show(100 * mean(rows.filter((r) => r.tracker === n).map((r) => r.pace)), 1)} % ${n}`).join(', ')}` : ''}.`,
    '',
  ]
  const text = parts.join('\n')
  console.log(text)
  for (const r of own)
    if (r.score.cmlt <= 0.8 || r.score.eight < 0.7)
      console.log(
        `${r.id.padEnd(32)} F ${show(r.score.f)} CMLt ${show(r.score.cmlt)} AMLt ${show(r.score.amlt)} down ${show(r.score.down)} eight ${show(r.score.eight)} moves ${r.corrections} sure ${show(r.sure)} ${show(r.sureOne)}`,
      )
  mkdirSync(CACHE, { recursive: true })
  writeFileSync(path.join(CACHE, 'rows.json'), JSON.stringify(rows))
  if (!half && !modulesAlone && references) record(text)
}

/** Puts the tables into docs/benchmarks.md between their marks. */
function record(text: string) {
  const file = 'docs/benchmarks.md'
  const [open, close] = ['<!-- hearing -->', '<!-- /hearing -->']
  const whole = readFileSync(file, 'utf8')
  const [a, b] = [whole.indexOf(open), whole.indexOf(close)]
  if (a < 0 || b < 0) throw new Error(`${file} has no place marked for the hearing tables`)
  const when = `Measured ${new Date().toISOString().slice(0, 10)} on ${os.cpus().length} cores (${os.cpus()[0]?.model.trim()}), Node ${process.version}.`
  writeFileSync(file, `${whole.slice(0, a + open.length)}\n\n${when}\n\n${text}\n${whole.slice(b)}`)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
