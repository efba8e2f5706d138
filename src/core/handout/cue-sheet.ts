import { facingName, followBody, type MoveBook, START } from '../choreo'
import {
  beginsSection,
  cueText,
  type DancedCue,
  LAYERS,
  type Layer,
  labelIn,
  mirrorText,
  type Part,
  type PieceRow,
  type PlacedPhrase,
  phraseAt,
  pieceRows,
  placePhrases,
  type Routine,
  stretchName,
  whoOf,
} from '../routine'
import {
  clockText,
  common,
  contains,
  holds,
  type Seconds,
  type Stretch,
  TICKS_PER_COUNT,
  type Ticks,
  timeOfTick,
} from '../time'
import { type Contents, cuesFor } from './contents'
import { type SheetPath, sheetPaths } from './sheet-path'
import { type SheetPlan, sheetPlans } from './sheet-plans'

/** A cue on the sheet, in ticks from the beginning of its row. */
export interface SheetCue {
  at: Ticks
  length: Ticks
  text: string
}

/** Cues of one layer; those that are danced at the same time stand below one another. */
export interface SheetLane {
  layer: Layer
  lines: SheetCue[][]
}

/** One phrase of the sheet. */
export interface SheetRow {
  from: Ticks
  /** Ticks across. */
  length: Ticks
  /** Ticks left free before it, so that counts line up where some rows begin with a pick-up; and what the whole width holds. */
  indent: Ticks
  across: Ticks
  /** The section that begins here, told apart from others of its name, and own parts; '' where none begins. */
  heading: string
  /** "Eight 2", and when it is danced in the song. */
  title: string
  time: string
  counts: { at: Ticks; label: string }[]
  /** Sub-counts on which something begins: "&", "a". */
  between: { at: Ticks; label: string }[]
  /** "as Chorus, eight 1, other side; new on 7 8": what is danced again; '' where all is written. */
  again: string
  lanes: SheetLane[]
  /** Where the weight is after each count: L, R, or both; '' where it is not known or did not change. */
  feet: { at: Ticks; words: string }[]
  /** Which wall is faced at the end, where that is not the front. */
  wall: string
  lyric: string
  /** Tips, usual mistakes and cautions, each with its count. */
  notes: string[]
  /** "ends 1.2 m to the right of where you began": where the steps have led; '' where it is not asked for. */
  way: string
  /** The same drawn. */
  path: SheetPath | null
  /** Formations that begin here. */
  plans: SheetPlan[]
}

const WEIGHTS = { left: 'L', right: 'R', both: 'L R', unknown: '' } as const

/** The cue sheet of a dance, a row a phrase. @param times count times in seconds of the song */
export function cueSheet(
  routine: Routine,
  times: readonly Seconds[],
  book: MoveBook,
  contents: Contents,
): SheetRow[] {
  const placed = placePhrases(routine)
  const cues = cuesFor(routine, contents)
  const { steps } = followBody(cues, book, START, routine.positions)
  const rows = pieceRows(placed, contents.stretch)
  const plansIn = sheetPlans(routine, book, contents)
  const led = sheetPaths(routine, cues, book, contents)
  const widths = widthsOf(rows)
  const label = (tick: Ticks) => {
    const at = phraseAt(placed, tick)
    return at ? labelIn(at, tick) : ''
  }
  return rows.map(({ placed: p, core, row: here }, i): SheetRow => {
    const own = cues.filter((c) => c.at >= here.from && c.at < here.to)
    const repeat = contents.short ? againIn(routine, placed, common(core, here) ?? here) : null
    // A pick-up is written out: it stands with the row before in what is repeated.
    const shown = repeat ? own.filter((c) => c.differs || !holds(core, c.at)) : own
    const walked = steps.filter((s) => s.at >= here.from && s.at < here.to)
    const facing = walked.at(-1)?.facing
    return {
      from: here.from,
      length: here.to - here.from,
      ...(widths[i] as { indent: Ticks; across: Ticks }),
      heading: [
        ...(p.section && (beginsSection(p) || p.start < contents.stretch.from) ? [p.title] : []),
        ...partsIn(routine.parts, p, here),
      ].join(' · '),
      title: stretchName(placed, { from: p.start, to: p.end }).replace(/^.*, (?=eight|phrase|bar)/, ''),
      time: clockText(timeOfTick(times, here.from)),
      counts: countsOf(here, label),
      between: betweenOf(here, shown, label),
      again: repeat ? againWords(repeat, shown, label) : '',
      lanes: lanesOf(shown, here, contents.mirrored),
      feet: repeat && !shown.length ? [] : feetOf(walked, here, contents.mirrored),
      wall:
        facing === undefined || facing === 'unknown' || facing === 0
          ? ''
          : facingName(contents.mirrored ? (8 - facing) % 8 : facing),
      lyric: contents.lyric ? lyricIn(routine, times, here) : '',
      notes: contents.tips ? shown.flatMap((c) => noteOf(c, label(c.at), contents.mirrored)) : [],
      ...led(here),
      plans: plansIn(here),
    }
  })
}

/** A row as it is read aloud: which one, then what is danced on each count. */
export function spokenRow(row: SheetRow): string {
  const between = new Map(row.between.map((c) => [c.at, c.label]))
  const countOf = (at: Ticks) =>
    `${row.counts.findLast((c) => c.at <= at)?.label ?? ''}${between.get(at) ?? ''}`
  const lanes = row.lanes.map(({ layer, lines }) => {
    const said = lines.flat().sort((a, b) => a.at - b.at)
    return `${layer}: ${said.map((c) => `${countOf(c.at)} ${c.text}`).join(', ')}`
  })
  return [
    `${row.title}, ${row.time}`,
    row.again,
    ...lanes,
    row.wall && `ends facing the ${row.wall}`,
    row.way,
    row.lyric && `“${row.lyric}”`,
    ...row.notes,
    ...row.plans.map((p) => `${p.name || 'formation'} on ${countOf(p.at)}: ${p.says}`),
  ]
    .filter(Boolean)
    .join('. ')
}

/** Where rows begin and how wide they are drawn, so that the counts of all usual rows stand below each other. */
function widthsOf(rows: readonly PieceRow[]): Pick<SheetRow, 'indent' | 'across'>[] {
  const leads = rows.map(({ placed, row }) => Math.max(0, placed.start - row.from))
  const lead = Math.max(0, ...leads)
  const wide = rows.map(({ row }, i) => ({
    indent: lead && lead - (leads[i] as Ticks),
    length: row.to - row.from,
  }))
  const usual = rows.flatMap(({ placed }, i) => {
    const { indent, length } = wide[i] as (typeof wide)[0]
    return placed.phrase.length <= 8 ? [indent + length] : []
  })
  const across = Math.max(8 * TICKS_PER_COUNT, ...usual)
  return wide.map(({ indent, length }) => ({ indent, across: Math.max(across, indent + length) }))
}

/** The instructor's own parts that begin in a row, those within it with their count. */
function partsIn(parts: readonly Part[], p: PlacedPhrase, here: Stretch): string[] {
  return parts
    .filter((part) => part.at >= here.from && part.at < here.to)
    .map((part) => (part.at === here.from ? part.name : `${part.name}, from ${labelIn(p, part.at)}`))
}

type Label = (tick: Ticks) => string

/** Whole counts, and the sub-count a row begins on. */
function countsOf({ from, to }: Stretch, label: Label): SheetRow['counts'] {
  const out: SheetRow['counts'] = from % TICKS_PER_COUNT ? [{ at: 0, label: label(from) }] : []
  for (let t = Math.ceil(from / TICKS_PER_COUNT) * TICKS_PER_COUNT; t < to; t += TICKS_PER_COUNT)
    out.push({ at: t - from, label: label(t) })
  return out
}

/** The sub-counts on which something begins, by what they are of their count. */
function betweenOf({ from }: Stretch, cues: readonly DancedCue[], label: Label): SheetRow['between'] {
  const places = new Set(cues.map((c) => c.at).filter((t) => t % TICKS_PER_COUNT && t !== from))
  return [...places]
    .sort((a, b) => a - b)
    .map((t) => ({ at: t - from, label: label(t).replace(/^-?\d+/, '') }))
}

/** The repeat that brings all of a row, named by what it repeats. */
function againIn(routine: Routine, placed: readonly PlacedPhrase[], here: Stretch): string | null {
  const r = routine.repeats.find((x) => contains(x.to, here))
  if (!r) return null
  const away = r.from - r.to.from
  const name = stretchName(placed, { from: here.from + away, to: here.to + away })
  return `as ${name}${r.mirrored ? ', other side' : ''}`
}

function againWords(repeat: string, fresh: readonly DancedCue[], label: Label): string {
  if (!fresh.length) return repeat
  return `${repeat}; new on ${[...new Set(fresh.map((c) => label(c.at)))].join(' ')}`
}

const wordsOf = (c: DancedCue, mirrored: boolean): string => {
  const who = whoOf(c)
  return `${cueText(c, mirrored)}${who ? ` (${who})` : ''}`
}

/** Cues by layer, each line without two at a time. */
function lanesOf(cues: readonly DancedCue[], { from, to }: Stretch, mirrored: boolean): SheetLane[] {
  return LAYERS.flatMap((layer): SheetLane[] => {
    const lines: SheetCue[][] = []
    for (const c of cues.filter((x) => x.layer === layer)) {
      const cue = { at: c.at - from, length: Math.min(c.length, to - c.at), text: wordsOf(c, mirrored) }
      const line = lines.find((l) => {
        const last = l.at(-1)
        return !last || last.at + last.length <= cue.at
      })
      if (line) line.push(cue)
      else lines.push([cue])
    }
    return lines.length ? [{ layer, lines }] : []
  })
}

function feetOf(
  steps: ReturnType<typeof followBody>['steps'],
  { from, to }: Stretch,
  mirrored: boolean,
): SheetRow['feet'] {
  const out: SheetRow['feet'] = []
  for (let t = Math.floor(from / TICKS_PER_COUNT) * TICKS_PER_COUNT; t < to; t += TICKS_PER_COUNT) {
    const last = steps.findLast((s) => s.at >= t && s.at < t + TICKS_PER_COUNT)
    const words = last ? WEIGHTS[last.weight] : ''
    if (words) out.push({ at: Math.max(0, t - from), words: mirrored ? swapped(words) : words })
  }
  return out
}

const swapped = (words: string) => (words === 'L' ? 'R' : words === 'R' ? 'L' : words)

function lyricIn(routine: Routine, times: readonly Seconds[], { from, to }: Stretch): string {
  const [a, b] = [timeOfTick(times, from), timeOfTick(times, to)]
  return routine.marks
    .filter((m) => m.kind === 'lyric' && m.at >= a - 1e-6 && m.at < b - 1e-6)
    .map((m) => m.text)
    .join(' / ')
}

function noteOf(c: DancedCue, count: string, mirrored: boolean): string[] {
  const said = [
    c.tip ?? '',
    c.mistake ? `usual mistake: ${c.mistake}` : '',
    c.caution ? `mind the ${c.caution}` : '',
  ].filter(Boolean)
  const words = said.join('; ')
  return words ? [`${count} ${wordsOf(c, mirrored)}: ${mirrored ? mirrorText(words) : words}`] : []
}
