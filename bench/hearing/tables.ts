/* Tables of what was heard against what is true. */
import type { Score } from './scores'

/** Modules are a part of their own: no rule was fitted on them when they were first heard. */
export type Half = 'dev' | 'report' | 'modules'

export interface Row {
  id: string
  group: string
  half: Half
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

export interface PhraseSure {
  beats: number
  one: number
  beatsRight: boolean
  oneRight: boolean | null
}

export const mean = (xs: readonly number[]) => {
  const known = xs.filter((x) => !Number.isNaN(x))
  return known.length ? known.reduce((a, b) => a + b, 0) / known.length : Number.NaN
}
export const show = (x: number, digits = 2) => (Number.isNaN(x) ? '–' : x.toFixed(digits))

const COLUMNS: [string, (rows: readonly Row[]) => string][] = [
  ['n', (r) => String(r.length)],
  ['beat F', (r) => show(mean(r.map((x) => x.score.f)))],
  ['CMLt', (r) => show(mean(r.map((x) => x.score.cmlt)))],
  ['AMLt', (r) => show(mean(r.map((x) => x.score.amlt)))],
  ['tempo 1', (r) => show(mean(r.map((x) => x.score.acc1)))],
  ['tempo 2', (r) => show(mean(r.map((x) => x.score.acc2)))],
  ['downbeat F', (r) => show(mean(r.map((x) => x.score.down)))],
  ['eight F', (r) => show(mean(r.map((x) => x.score.eight)))],
  ['first eight', (r) => show(mean(r.map((x) => x.score.first)))],
  ['either pair', (r) => show(mean(r.map((x) => x.score.eightBest)))],
  ['late ms', (r) => show(mean(r.map((x) => x.score.bias)), 1)],
  ['off ms', (r) => show(mean(r.map((x) => x.score.error)), 1)],
  ...[0, 1, 2].map((n): [string, (rows: readonly Row[]) => string] => [
    n === 0 ? 'no move' : `≤ ${n}`,
    (r) => `${Math.round(100 * mean(r.map((x) => Number(x.corrections <= n))))} %`,
  ]),
]

export function table(title: string, rows: readonly Row[], by: (r: Row) => string): string {
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
export function calibration(rows: readonly Row[]): string {
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
export function phraseCalibration(rows: readonly Row[]): string {
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
export const tempoBin = ({ bpm }: Row) => {
  const i = TEMPI.findIndex((high) => bpm <= high)
  return i === TEMPI.length - 1 ? `over ${TEMPI[i - 1]} BPM` : `${TEMPI[i - 1]} to ${TEMPI[i]} BPM`
}
