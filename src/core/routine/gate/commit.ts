import * as v from 'valibot'
import { TICKS_PER_COUNT, type Ticks } from '../../time'
import { placePhrases, sectionTitle, totalCounts } from '../counts/layout'
import { alike } from '../document/alike'
import type { Cue } from '../document/cue-schema'
import { documentBytes } from '../document/document-size'
import { FIELDS, LIST_NAMES, SINGLE_NAMES } from '../document/fields'
import { LIMITS } from '../document/limits'
import { disagreement, type Routine } from '../document/schema'
import type { Border, Section } from '../document/song-schema'
import { circleIn } from '../repeats/repeat-ways'
import { type Edited, namesInWords, Refused } from './refused'

/** A plain function from a routine to a routine, or one that says what it had to change beside what was asked. */
export type Edit = (routine: Routine) => Routine | Edited<Routine>

/** What came of an edit: a routine that is valid, with what had to be changed or taken away in words; or why not. */
export type Committed =
  | { done: true; routine: Routine; said: readonly string[] }
  | { done: false; why: string }

/**
 * The one gate for edits: applies an edit, brings what it made into its legal form, and checks it as the border would.
 * There is no third way: what comes out can be saved.
 */
export function commit(routine: Routine, edit: Edit): Committed {
  let result: Routine | Edited<Routine>
  try {
    result = edit(routine)
  } catch (error) {
    if (error instanceof Refused) return { done: false, why: `${error.message} Nothing was changed.` }
    throw error
  }
  const edited: Edited<Routine> = 'said' in result ? result : { routine: result, said: [] }
  if (edited.routine === routine) return { done: true, routine, said: edited.said }
  const said = [...edited.said]
  const next = asRead(routine, legal(routine, edited.routine, said))
  const why = typeof next === 'string' ? next : contradictionIn(routine, next)
  if (typeof next === 'string' || why) return { done: false, why: `${why} Nothing was changed.` }
  return { done: true, routine: next, said }
}

/** Lengths, places and times within their limits, sections where phrases begin, everything in order. */
function legal(before: Routine, r: Routine, said: string[]): Routine {
  const next = { ...r }
  if (next.cues !== before.cues) next.cues = withinReach(next.cues, said)
  if (next.sections !== before.sections || next.phrases !== before.phrases)
    next.sections = onPhrases(next, said)
  if (next.borders !== before.borders || next.phrases !== before.phrases)
    next.borders = betweenPhrases(next, said)
  if (next.parts !== before.parts) {
    const sorted = [...next.parts].sort((a, b) => a.at - b.at)
    next.parts = sorted.filter((p, i) => p.at !== sorted[i + 1]?.at)
    const gone = sorted.filter((p) => !next.parts.includes(p)).map((p) => `“${p.name}”`)
    if (gone.length)
      said.push(`${gone.join(', ')} would begin where another part begins, and was joined to it.`)
  }
  return next
}

function withinReach(cues: readonly Cue[], said: string[]): Cue[] {
  const shortened: string[] = []
  const kept: string[] = []
  const out = cues.map((c) => {
    const at = Math.max(LIMITS.place.min, Math.min(LIMITS.place.max, c.at))
    const length = Math.max(1, Math.min(LIMITS.cueLength, c.length))
    if (at === c.at && length === c.length) return c
    if (length < c.length) shortened.push(`“${c.move}”`)
    if (at !== c.at) kept.push(`“${c.move}”`)
    return { ...c, at, length }
  })
  if (shortened.length)
    said.push(
      `${namesInWords(shortened)} would last more than ${LIMITS.cueLength / TICKS_PER_COUNT} counts, and was cut to that.`,
    )
  if (kept.length) said.push(`${namesInWords(kept)} would lie beyond the end of the counts, and stays at it.`)
  return out
}

/** Sections at the beginnings of phrases, nearest to where they began; of two on one phrase the first stays. */
function onPhrases(r: Routine, said: string[]): Section[] {
  const starts = placePhrases(r).map((p) => p.start)
  const end = totalCounts(r.phrases) * TICKS_PER_COUNT
  const out: Section[] = []
  const gone: string[] = []
  for (const s of [...r.sections].sort((a, b) => a.at - b.at)) {
    const at = s.at < end || s.at === 0 ? nearest(starts, s.at) : null
    if (at === null || out.some((o) => o.at === at)) gone.push(sectionTitle(s))
    else out.push(at === s.at ? s : { ...s, at })
  }
  if (gone.length)
    said.push(
      `${gone.length > 1 ? 'The sections' : 'The section'} ${namesInWords(gone.map((g) => `“${g}”`))} ${gone.length > 1 ? 'have' : 'has'} no phrase of ${gone.length > 1 ? 'their' : 'its'} own any more, and went.`,
    )
  const same = out.length === r.sections.length && out.every((s, i) => s === r.sections[i])
  return same ? r.sections : out
}

/** Borders where one phrase ends and another begins, one each; what was said of others goes. */
function betweenPhrases(r: Routine, said: string[]): Border[] {
  const starts = new Set(placePhrases(r).flatMap((p) => (p.index ? [p.start] : [])))
  const out = r.borders.filter((b, i) => starts.has(b.at) && r.borders.findIndex((o) => o.at === b.at) === i)
  const gone = r.borders.length - out.length
  if (!gone) return r.borders
  said.push(
    `What belongs together was said at ${gone === 1 ? 'a border that is' : `${gone} borders that are`} none any more, and went with ${gone === 1 ? 'it' : 'them'}.`,
  )
  return out
}

function nearest(starts: readonly Ticks[], at: Ticks): Ticks | null {
  return starts.reduce<Ticks | null>(
    (best, s) => (best === null || Math.abs(s - at) < Math.abs(best - at) ? s : best),
    null,
  )
}

/** What the border would refuse, in words; null for nothing. Checked only where the edit changed something. */
export function problemOf(before: Routine, r: Routine): string | null {
  const read = asRead(before, r)
  return typeof read === 'string' ? read : contradictionIn(before, read)
}

/** What of a routine whose parts are legal by themselves is not; null where nothing is. */
function contradictionIn(before: Routine, r: Routine): string | null {
  if (r.repeats !== before.repeats && circleIn(r.repeats) !== null)
    return 'Repeats would lead in a circle: what is repeated is itself danced as this.'
  const bytes = documentBytes(r)
  // One that is too large already may be made smaller, step by step.
  if (bytes > LIMITS.bytes && bytes >= documentBytes(before))
    return `The routine would be larger than can be saved (${megabytes(bytes)}; ${megabytes(LIMITS.bytes)} is the most).`
  return disagreement(r)
}

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`

/**
 * A routine as the border reads it, where an edit changed it: names in one line, without spaces around them, and nothing the
 * document does not know. So the window has what is stored.
 * @returns it, the same where nothing is read otherwise; or why the border would refuse it
 */
function asRead(before: Routine, r: Routine): Routine | string {
  const next: Record<string, unknown> = { ...r }
  let same = true
  const take = (key: string, value: unknown) => {
    next[key] = value
    same = false
  }
  for (const key of LIST_NAMES) {
    const { of: item, most, name } = FIELDS[key].list
    const [now, was]: [readonly unknown[], readonly unknown[]] = [r[key], before[key]]
    if (now === was) continue
    if (now.length > most)
      return `There would be ${now.length.toLocaleString('en')} ${name}; ${most.toLocaleString('en')} is the most.`
    const old = new Set(was)
    const read: unknown[] = []
    for (const one of now) {
      const checked = old.has(one) ? null : v.safeParse(item, one)
      if (checked && !checked.success) return wordsOf(checked.issues, name)
      read.push(checked && !alike(one, checked.output) ? checked.output : one)
    }
    if (read.some((one, i) => one !== now[i])) take(key, read)
  }
  for (const key of SINGLE_NAMES) {
    if (r[key] === before[key]) continue
    const checked = v.safeParse(FIELDS[key].schema as v.GenericSchema, r[key])
    if (!checked.success) return wordsOf(checked.issues, key)
    if (!alike(r[key], checked.output)) take(key, checked.output)
  }
  return same ? r : (next as Routine)
}

function wordsOf([issue]: readonly v.BaseIssue<unknown>[], name: string): string {
  if (!issue) return 'That cannot be kept.'
  const where = v.getDotPath(issue as v.BaseIssue<unknown>)
  if (issue.type === 'max_length')
    return `Something is longer than can be kept (${name}${where ? `, ${where}` : ''}: ${issue.requirement} at most).`
  return `That cannot be kept (${name}${where ? `, ${where}` : ''}): ${issue.message}.`.replace(/\.\.$/, '.')
}
