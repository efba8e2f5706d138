/* npm run bench:hearing: songs of known beat, heard by Azalea and by reference trackers in the same run. */
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { readWav, toMono } from '../../src/core/formats/wav'
import { downbeats, eights, type Hearing, listen } from '../../src/core/hear'
import { corrections } from './corrections'
import { CACHE, fetchSongs, type Rendered, rendered } from './render'
import { type HeardBeats, nearest, type Score, score, type Truth, WINDOW } from './scores'
import { SONGS } from './songs'
import { SPOILS } from './spoil'

const REFERENCES = ['essentia-multifeature', 'essentia-degara', 'music-tempo'] as const

interface Row {
  id: string
  group: string
  half: 'dev' | 'report'
  tracker: string
  score: Score
  corrections: number
  sure: number
  sureOne: number
  /** Of each phrase heard: how sure of its beats and of its 1, and whether they are right. */
  phrases: PhraseSure[]
  bpm: number
  /** Seconds of work a second of sound. */
  pace: number
}

interface PhraseSure {
  beats: number
  one: number
  beatsRight: boolean
  oneRight: boolean | null
}

const truthOf = (r: Rendered): Truth => ({
  tempo: r.truth.tempo,
  beats: r.truth.beats,
  downbeats: r.song.bars ? r.truth.downbeats : null,
  eights: r.truth.eights,
})

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

function azalea(
  file: string,
  truth: Truth,
): { heard: HeardBeats; pace: number; sure: number; sureOne: number; phrases: PhraseSure[] } {
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
  return {
    heard,
    pace: seconds / hearing.duration,
    sure: hearing.confidence.beats,
    sureOne: hearing.confidence.one,
    phrases: phrasesOf(hearing, truth),
  }
}

function reference(name: string, r: Rendered): Promise<{ heard: HeardBeats; pace: number }> {
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
        resolve({ heard, pace: heard.seconds / r.truth.end })
      } catch {
        resolve({ heard: { tempo: 0, beats: [], downbeats: [], eights: [] }, pace: Number.NaN })
      }
    })
  })
}

/** The reference programs have a package file of their own; they come only when they are measured. */
function fetchReferences(): void {
  if (existsSync('bench/node_modules/essentia.js')) return
  const done = spawnSync('npm', ['ci', '--prefix', 'bench', '--no-audit', '--no-fund'], { stdio: 'inherit' })
  if (done.status !== 0)
    throw new Error('The reference programs could not be fetched; -- --alone goes without.')
}

const groupOf = (r: Rendered) => r.spoil ?? r.song.kind

async function measure(r: Rendered, references: readonly string[]): Promise<Row[]> {
  const truth = truthOf(r)
  const row = (
    tracker: string,
    heard: HeardBeats,
    pace: number,
    sure = Number.NaN,
    sureOne = Number.NaN,
  ): Row => ({
    id: r.id,
    group: groupOf(r),
    half: r.song.half,
    tracker,
    score: score(truth, heard),
    corrections: corrections(truth, heard),
    sure,
    sureOne,
    phrases: [],
    bpm: truth.tempo,
    pace,
  })
  const own = azalea(r.file, truth)
  const rows = [{ ...row('azalea', own.heard, own.pace, own.sure, own.sureOne), phrases: own.phrases }]
  for (const name of references) {
    const { heard, pace } = await reference(name, r)
    rows.push(row(name, heard, pace))
  }
  return rows
}

const mean = (xs: readonly number[]) => {
  const known = xs.filter((x) => !Number.isNaN(x))
  return known.length ? known.reduce((a, b) => a + b, 0) / known.length : Number.NaN
}
const show = (x: number, digits = 2) => (Number.isNaN(x) ? '–' : x.toFixed(digits))

const COLUMNS: [string, (rows: readonly Row[]) => string][] = [
  ['n', (r) => String(r.length)],
  ['beat F', (r) => show(mean(r.map((x) => x.score.f)))],
  ['CMLt', (r) => show(mean(r.map((x) => x.score.cmlt)))],
  ['AMLt', (r) => show(mean(r.map((x) => x.score.amlt)))],
  ['tempo 1', (r) => show(mean(r.map((x) => x.score.acc1)))],
  ['tempo 2', (r) => show(mean(r.map((x) => x.score.acc2)))],
  ['downbeat F', (r) => show(mean(r.map((x) => x.score.down)))],
  ['eight F', (r) => show(mean(r.map((x) => x.score.eight)))],
  ['either pair', (r) => show(mean(r.map((x) => x.score.eightBest)))],
  ['late ms', (r) => show(mean(r.map((x) => x.score.bias)), 1)],
  ['off ms', (r) => show(mean(r.map((x) => x.score.error)), 1)],
  ...[0, 1, 2].map((n): [string, (rows: readonly Row[]) => string] => [
    n === 0 ? 'no move' : `≤ ${n}`,
    (r) => `${Math.round(100 * mean(r.map((x) => Number(x.corrections <= n))))} %`,
  ]),
]

function table(title: string, rows: readonly Row[], by: (r: Row) => string): string {
  const names = [...new Set(rows.map(by))]
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`
  return [
    `### ${title}`,
    '',
    line(['', ...COLUMNS.map(([n]) => n)]),
    line(['---', ...COLUMNS.map(() => '---')]),
    ...names.map((n) => {
      const own = rows.filter((r) => by(r) === n)
      return line([n, ...COLUMNS.map(([, f]) => f(own))])
    }),
    '',
  ].join('\n')
}

/** Of the answers called this sure, how many are right. */
function calibration(rows: readonly Row[]): string {
  const bins: [number, number][] = [
    [0, 0.5],
    [0.5, 0.7],
    [0.7, 0.85],
    [0.85, 0.95],
    [0.95, 1.01],
  ]
  const line = (name: string, sure: (r: Row) => number, right: (r: Row) => boolean) =>
    `| ${name} | ${bins
      .map(([a, b]) => {
        const own = rows.filter((r) => sure(r) >= a && sure(r) < b)
        return own.length ? `${own.filter(right).length} of ${own.length}` : '–'
      })
      .join(' | ')} |`
  return [
    '### How sure, and how often right',
    '',
    `| | ${bins.map(([a, b]) => `${Math.round(a * 100)} to ${Math.round(Math.min(1, b) * 100)} %`).join(' | ')} |`,
    `| --- | ${bins.map(() => '---').join(' | ')} |`,
    line(
      'the beat',
      (r) => r.sure,
      (r) => r.score.cmlt > 0.8,
    ),
    line(
      'the 1, where the beat is right',
      (r) => (r.score.cmlt > 0.8 && !Number.isNaN(r.score.eight) ? r.sureOne : Number.NaN),
      (r) => r.score.eight > 0.7,
    ),
    '',
  ].join('\n')
}

const SURE_BINS = [0, 0.5, 0.7, 0.8, 0.9, 1.0001]

/** Of phrases called so sure, how many are right; expected calibration error (Naeini, Cooper & Hauskrecht 2015, from memory). */
function phraseCalibration(rows: readonly Row[]): string {
  const all = rows.flatMap((r) => r.phrases)
  const line = (name: string, told: readonly { p: number; right: boolean }[]) => {
    let error = 0
    const cells = SURE_BINS.slice(1).map((high, i) => {
      const bin = told.filter((t) => t.p >= (SURE_BINS[i] as number) && t.p < high)
      if (!bin.length) return '–'
      const right = bin.filter((t) => t.right).length
      error += Math.abs(right - bin.reduce((n, t) => n + t.p, 0)) / told.length
      return `${right} of ${bin.length}`
    })
    return `| ${[name, ...cells, error.toFixed(3)].join(' | ')} |`
  }
  const heads = SURE_BINS.slice(1).map(
    (high, i) => `${Math.round(100 * (SURE_BINS[i] as number))} to ${Math.round(100 * Math.min(1, high))} %`,
  )
  return [
    `| phrase by phrase | ${heads.join(' | ')} | error |`,
    `| --- | ${heads.map(() => '---').join(' | ')} | --- |`,
    line(
      'its beats',
      all.map((p) => ({ p: p.beats, right: p.beatsRight })),
    ),
    line(
      'its 1',
      all.flatMap((p) => (p.oneRight === null ? [] : [{ p: p.one, right: p.oneRight }])),
    ),
    line(
      'both',
      all.flatMap((p) =>
        p.oneRight === null ? [] : [{ p: p.beats * p.one, right: p.oneRight && p.beatsRight }],
      ),
    ),
    '',
  ].join('\n')
}

const TEMPI = [0, 75, 100, 120, 150, 300]
const tempoBin = ({ bpm }: Row) => {
  const i = TEMPI.findIndex((high) => bpm <= high)
  return i === TEMPI.length - 1 ? `over ${TEMPI[i - 1]} BPM` : `${TEMPI[i - 1]} to ${TEMPI[i]} BPM`
}

async function main() {
  const half = process.argv.includes('--dev') ? 'dev' : process.argv.includes('--report') ? 'report' : null
  const references = !process.argv.includes('--alone')
  if (references) fetchReferences()
  fetchSongs()
  const songs = SONGS.filter((s) => !half || s.half === half)
  const jobs = songs.flatMap((song) => {
    const spoils = song.kind === 'clean' ? SPOILS.filter((s) => s === 'crop' || song.spoiled) : []
    return [null, ...spoils].map((spoil) => ({ song, spoil }))
  })
  const rows: Row[] = []
  for (const { song, spoil } of jobs) {
    const r = await rendered(song, spoil)
    if (!r) continue
    const plain = spoil === null || spoil === 'crop'
    // The slowest reference takes half a minute a song: it hears the clean and cropped ones only.
    const others = !references || song.kind === 'odd' ? [] : plain ? REFERENCES : REFERENCES.slice(1)
    rows.push(...(await measure(r, others)))
    process.stderr.write(`\r${rows.length} measured, last ${r.id}            `)
  }
  process.stderr.write('\n')
  const own = rows.filter((r) => r.tracker === 'azalea')
  const plain = (r: Row) => r.group === 'clean' || r.group === 'crop'
  const spoiled = (r: Row) => !plain(r) && r.group !== 'odd'
  const at = (h: 'dev' | 'report', test: (r: Row) => boolean) => rows.filter((r) => r.half === h && test(r))
  const parts = [
    table('Songs nothing was fitted on: clean and cropped', at('report', plain), (r) => r.tracker),
    table('Songs nothing was fitted on: spoiled', at('report', spoiled), (r) => r.tracker),
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
  if (!half && references) record(text)
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
