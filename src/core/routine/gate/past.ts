import * as v from 'valibot'
import { textOf } from '../document/alike'
import { LIST_NAMES, SINGLE_NAMES } from '../document/fields'
import { ROUTINE_VERSION, type Routine } from '../document/schema'
import { problemOf } from './commit'

/** A document before or after some edits, and what the edit that made it did, in words. */
export interface PastStep {
  routine: Routine
  did: string
}

/** What undo and redo know. The last of each list is the next step. */
export interface Past {
  /** What the edit that made the document of now did. */
  did: string
  past: readonly PastStep[]
  future: readonly PastStep[]
}

/** Lists are told by what stands between their common beginning and end: `[from, taken out, put in]`; the rest is given whole. */
const DifferenceSchema = v.object({
  lists: v.record(v.picklist(LIST_NAMES), v.strictTuple([count(), count(), v.array(v.unknown())])),
  singles: v.record(v.picklist(SINGLE_NAMES), v.unknown()),
})
type Difference = v.InferOutput<typeof DifferenceSchema>

const WrittenSchema = v.object({
  version: v.literal(ROUTINE_VERSION),
  of: v.string(),
  did: v.string(),
  past: v.array(v.strictTuple([v.string(), DifferenceSchema])),
  future: v.array(v.strictTuple([v.string(), DifferenceSchema])),
})

function count() {
  return v.pipe(v.number(), v.integer(), v.minValue(0))
}

/** What makes `to` of `from`. Items are compared by identity: edits leave what they do not touch. */
export function differenceOf(from: Routine, to: Routine): Difference {
  const out: Difference = { lists: {}, singles: {} }
  for (const key of LIST_NAMES) {
    const [a, b]: [readonly unknown[], readonly unknown[]] = [from[key], to[key]]
    if (a === b) continue
    const most = Math.min(a.length, b.length)
    let head = 0
    while (head < most && a[head] === b[head]) head++
    let tail = 0
    while (tail < most - head && a[a.length - 1 - tail] === b[b.length - 1 - tail]) tail++
    out.lists[key] = [head, a.length - head - tail, b.slice(head, b.length - tail)]
  }
  for (const key of SINGLE_NAMES) if (from[key] !== to[key]) out.singles[key] = to[key]
  return out
}

/** The inverse: `withDifference(from, differenceOf(from, to))` is `to`; what did not change stays the same object. */
export function withDifference(from: Routine, { lists, singles }: Difference): Routine {
  const next: Record<string, unknown> = { ...from, ...singles }
  for (const key of LIST_NAMES) {
    const difference = lists[key]
    if (!difference) continue
    const [head, gone, items] = difference
    const a: readonly unknown[] = from[key]
    next[key] = [...a.slice(0, head), ...items, ...a.slice(head + gone)]
  }
  return next as Routine
}

/**
 * Writes down what undo knows, so that it outlives a load of the page: step by step away from the document of now, nearest
 * first, undo before redo.
 * @param most letters at most; steps further away are left out
 */
export function writePast(now: Routine, { did, past, future }: Past, most: number): string {
  let room = most
  const chain = (steps: readonly PastStep[]): string => {
    const out: string[] = []
    let from = now
    for (const { routine, did } of [...steps].reverse()) {
      const one = JSON.stringify([did, differenceOf(from, routine)])
      room -= one.length + 1
      if (room < 0) break
      out.push(one)
      from = routine
    }
    return `[${out.join()}]`
  }
  return `{"version":${ROUTINE_VERSION},"of":"${fingerprintOf(now)}","did":${JSON.stringify(did)},"past":${chain(past)},"future":${chain(future)}}`
}

/**
 * Reads what undo knew. It ends before the first step that could not be saved, and before another hearing of the song,
 * which may not be there any more.
 * @returns null where it is damaged, of another version, or about another document than `now`
 */
export function readPast(text: string, now: Routine): Past | null {
  const written = v.safeParse(v.pipe(v.string(), v.parseJson(), WrittenSchema), text)
  if (!written.success || written.output.of !== fingerprintOf(now)) return null
  const chain = (steps: readonly [string, Difference][]): PastStep[] => {
    const out: PastStep[] = []
    let from = now
    for (const [did, difference] of steps) {
      const routine = withDifference(from, difference)
      if (routine.heardWith !== now.heardWith || problemOf(from, routine)) break
      out.push({ routine, did })
      from = routine
    }
    return out.reverse()
  }
  const { did, past, future } = written.output
  return { did, past: chain(past), future: chain(future) }
}

/** The same for the same document, in whatever order its fields were written: 128 bits, for telling documents apart and not for secrets. */
export function fingerprintOf(routine: Routine): string {
  const text = textOf(routine)
  let [a, b, c, d] = [0x811c9dc5, 0x9e3779b9, 0x85ebca6b, 0xc2b2ae35]
  for (let i = 0; i < text.length; i++) {
    const letter = text.charCodeAt(i)
    a = Math.imul(a ^ letter, 0x01000193)
    b = Math.imul(b ^ letter, 0x5bd1e995) ^ (a >>> 15)
    c = Math.imul(c + letter, 0x27d4eb2f) ^ (b >>> 13)
    d = Math.imul(d ^ letter, 0x165667b1) + c
  }
  return [a, b, c, d].map((x) => (x >>> 0).toString(36)).join('-')
}
