import * as v from 'valibot'
import { common, type Stretch, TICKS_PER_COUNT, type Ticks } from '../../time'
import { RepeatSchema } from './cue-schema'
import { LearnerSchema } from './learner-schema'
import { LIMITS } from './limits'
import { StretchSchema } from './place-schema'
import { type Routine, RoutineSchema } from './schema'
import { dayAndHour } from './text-schema'
import { fromVersion2 } from './version-2'

const ticks = v.pipe(v.number(), v.integer())
const looseStep = v.looseObject({ id: v.string(), first: v.string(), last: v.string() })

/** As much of a document of version 1 as pointed at phrases. */
const Version1 = v.looseObject({
  version: v.literal(1),
  phrases: v.array(
    v.looseObject({
      id: v.string(),
      length: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(32)),
    }),
  ),
  sections: v.array(v.looseObject({ phrase: v.string() })),
  excerpt: v.nullable(v.object({ start: ticks, end: ticks })),
  parts: v.optional(v.array(v.looseObject({ at: ticks })), []),
  repeats: v.optional(
    v.array(
      v.object({
        id: v.string(),
        phrase: v.string(),
        at: ticks,
        length: ticks,
        source: v.string(),
        from: ticks,
        mirrored: v.boolean(),
      }),
    ),
    [],
  ),
  plans: v.optional(v.array(v.looseObject({ steps: v.array(looseStep), gone: v.array(v.string()) })), []),
})

/** A document read from anywhere, and where its phrases lay while they had ids. */
export interface ReadRoutine {
  routine: Routine
  /** Of documents of version 1: the stretch of each phrase by its id. Rows of the log named phrases then. */
  phrases: ReadonlyMap<string, Stretch> | null
}

/**
 * Reads a routine of this version or an older one: of version 2 (version-2.ts), or of version 1, in which repeats, sections and lessons named phrases. What named a
 * phrase that was gone was danced nowhere, and is left out.
 * @throws ValiError where the document cannot be read
 */
export function readRoutine(data: unknown): ReadRoutine {
  const old = v.safeParse(v.looseObject({ version: v.literal(1) }), data)
  if (!old.success)
    return { routine: v.parse(RoutineSchema, withoutBadDates(fromVersion2(data))), phrases: null }
  const doc = v.parse(Version1, data)
  const phrases = new Map<string, Stretch>()
  let at: Ticks = 0
  for (const p of doc.phrases) {
    phrases.set(p.id, { from: at, to: at + p.length * TICKS_PER_COUNT })
    at += p.length * TICKS_PER_COUNT
  }
  const excerpt = doc.excerpt && { from: doc.excerpt.start, to: doc.excerpt.end }
  const place = (tick: number) => Math.max(LIMITS.place.min, Math.min(LIMITS.place.max, tick))
  const stretch = (first: string, last: string): Stretch | null => {
    const [a, b] = [phrases.get(first), phrases.get(last)]
    if (!a || !b || b.to <= a.from) return null
    const whole = { from: a.from, to: b.to }
    return (excerpt && common(whole, excerpt)) ?? whole
  }
  const stepId = (id: string) =>
    id
      .split(' ')
      .map((word) => (phrases.has(word) ? `@${phrases.get(word)?.from}` : word))
      .join(' ')
  const sections = doc.sections
    .flatMap(({ phrase, ...s }) => {
      const begun = phrases.get(phrase)
      return begun ? [{ ...s, at: begun.from }] : []
    })
    .sort((a, b) => a.at - b.at)
  const second = {
    ...doc,
    version: 2,
    excerpt: excerpt && v.is(StretchSchema, excerpt) ? excerpt : null,
    sections: sections.filter((s, i) => s.at !== sections[i - 1]?.at),
    parts: doc.parts.map((p) => ({ ...p, at: place(p.at) })),
    repeats: apart(
      doc.repeats.flatMap((r) => {
        const [target, source] = [phrases.get(r.phrase), phrases.get(r.source)]
        if (!target || !source) return []
        const [from, to] = [target.from + r.at, Math.min(target.to, target.from + r.at + r.length)]
        // As it was danced: never beyond the end of the phrase it comes from.
        const begin = source.from + r.from
        const length = Math.min(to - from, source.to - begin)
        const next = { id: r.id, to: { from, to: from + length }, from: begin, mirrored: r.mirrored }
        return length > 0 && v.is(RepeatSchema, next) ? [next] : []
      }),
    ),
    plans: doc.plans.map((plan) => ({
      ...plan,
      gone: plan.gone.map(stepId),
      steps: plan.steps.flatMap(({ first, last, layer, ...step }) => {
        const danced = first ? stretch(first, last) : null
        if (first && !danced) return []
        return [{ ...step, id: stepId(step.id), stretch: danced, pass: layer ?? 'all' }]
      }),
    })),
  }
  return { routine: v.parse(RoutineSchema, fromVersion2(second)), phrases }
}

/**
 * A document without what learners said at no time, and lessons on no day: earlier versions took them in, and one such row must
 * not make a dance unreadable.
 */
function withoutBadDates(data: unknown): unknown {
  const doc = v.safeParse(
    v.looseObject({ learners: v.optional(v.array(v.unknown())), courses: v.optional(v.array(v.unknown())) }),
    data,
  )
  if (!doc.success) return data
  const { learners, courses } = doc.output
  const dated = (c: unknown) => {
    const course = v.safeParse(v.looseObject({ dates: v.array(v.unknown()) }), c)
    if (!course.success) return [c]
    const dates = course.output.dates.filter((d) => v.is(dayAndHour, d))
    return dates.length ? [{ ...course.output, dates }] : []
  }
  return {
    ...doc.output,
    ...(learners ? { learners: learners.filter((x) => v.is(LearnerSchema, x)) } : {}),
    ...(courses ? { courses: courses.flatMap(dated) } : {}),
  }
}

/** Repeats that lay over one another: the earlier one ends where the next begins. */
function apart(repeats: Routine['repeats']): Routine['repeats'] {
  const sorted = [...repeats].sort((a, b) => a.to.from - b.to.from)
  return sorted.flatMap((r, i) => {
    const to = Math.min(r.to.to, sorted[i + 1]?.to.from ?? r.to.to)
    return to > r.to.from ? [{ ...r, to: { from: r.to.from, to } }] : []
  })
}

/** A routine of this version or an older one, at a border where anything may come. */
export const AnyRoutineSchema = v.pipe(
  v.unknown(),
  v.rawTransform(({ dataset, addIssue, NEVER }): Routine => {
    try {
      return readRoutine(dataset.value).routine
    } catch (error) {
      if (!(error instanceof v.ValiError)) throw error
      addIssue({ message: error.message })
      return NEVER
    }
  }),
)
