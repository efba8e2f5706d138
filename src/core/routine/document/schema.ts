import * as v from 'valibot'
import { dancedCount } from '../repeats/repeat-ways'
import { FIELD_NAMES, FIELDS, type FieldName } from './fields'
import { LIMITS } from './limits'

/** Version of the document this program writes. */
export const ROUTINE_VERSION = 3

type Fields = typeof FIELDS
/** Field by field as it is read: one that a document may be without is what is usual there. */
type Entries = {
  [K in FieldName]: Fields[K]['needed'] extends true
    ? Fields[K]['schema']
    : v.OptionalSchema<Fields[K]['schema'], Fields[K]['usual']>
}

const entries = Object.fromEntries(
  FIELD_NAMES.map((name) => {
    const { schema, needed, usual } = FIELDS[name]
    return [name, needed ? schema : v.optional(schema as v.GenericSchema, usual)]
  }),
) as Entries

/** One choreography on one song, its fields as `fields.ts` describes them. Positions are ticks on the count line; count 0 is the first repaired beat. */
export const RoutineSchema = v.pipe(
  v.object({ version: v.literal(ROUTINE_VERSION), ...entries }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return
    const why = disagreement(dataset.value)
    if (why) addIssue({ message: why })
  }),
)

export type Routine = v.InferOutput<typeof RoutineSchema>

const twice = (items: readonly { id: string }[]) => new Set(items.map((i) => i.id)).size !== items.length

/** How many names there are of something that cues say. */
const named = (r: Pick<Routine, 'cues'>, of: 'role' | 'option') =>
  new Set(r.cues.flatMap((c) => c[of] ?? [])).size

/** What of a routine, each part legal by itself, is more than can be danced; null where nothing is. */
function tooMuch(r: Pick<Routine, 'cues' | 'repeats'>): string | null {
  if (named(r, 'role') > LIMITS.roles) return `There are more than ${LIMITS.roles} roles.`
  if (named(r, 'option') > LIMITS.versions) return `There are more than ${LIMITS.versions} versions.`
  const counts = new Map<number, number>()
  for (const c of r.cues) {
    const count = Math.floor(c.at / 24)
    const many = (counts.get(count) ?? 0) + 1
    if (many > LIMITS.onOneCount) return `More than ${LIMITS.onOneCount} cues would stand on one count.`
    counts.set(count, many)
  }
  if (dancedCount(r) > LIMITS.danced)
    return `With its repeats there would be more than ${LIMITS.danced.toLocaleString('en')} cues to dance.`
  return null
}

/** In what dancers and where they stand contradict one another; null where they agree. */
function placesDisagree({ dancers, formations }: Pick<Routine, 'dancers' | 'formations'>): string | null {
  if (twice(dancers)) return 'Two dancers share an id.'
  if (twice(formations)) return 'Two formations share an id.'
  if (new Set(formations.map((f) => f.at)).size !== formations.length)
    return 'Two formations stand at one place.'
  const known = new Set(dancers.map((d) => d.id))
  if (dancers.some((d) => d.partner !== null && (d.partner === d.id || !known.has(d.partner))))
    return 'A partner is not among the dancers.'
  for (const { spots } of formations) {
    if (new Set(spots.map((s) => s.dancer)).size !== spots.length) return 'A dancer stands at two spots.'
    if (spots.some((s) => !known.has(s.dancer))) return 'A spot is of nobody.'
  }
  return null
}

/** In what the parts of a routine, each legal by itself, contradict one another; null where they agree. */
export function disagreement(r: Omit<Routine, 'version'>): string | null {
  if (twice(r.cues)) return 'Two cues share an id.'
  if (twice(r.marks)) return 'Two marks share an id.'
  if (twice(r.sections)) return 'Two sections share an id.'
  if (twice(r.repeats)) return 'Two repeats share an id.'
  if (twice(r.courses)) return 'Two courses share an id.'
  if (twice(r.voices)) return 'Two recordings share an id.'
  if (twice(r.films)) return 'Two films share an id.'
  if (r.films.some((f) => f.takes.some((t, i) => t.from < (f.takes[i - 1]?.to ?? 0) - 1e-6)))
    return 'Two takes of a film lie over one another.'
  const why = placesDisagree(r)
  if (why) return why
  if (twice(r.learners)) return 'Two learners share an id.'
  if (twice(r.plans)) return 'Two plans share an id.'
  if (new Set(r.positions.map((p) => p.at)).size !== r.positions.length)
    return 'Two positions are written at one place.'
  const starts = new Set<number>()
  let tick = 0
  for (const p of r.phrases) {
    starts.add(tick)
    tick += 24 * p.length
  }
  let before = Number.NEGATIVE_INFINITY
  for (const s of r.sections) {
    if (!starts.has(s.at)) return 'A section begins where no phrase does.'
    if (s.at <= before) return 'Sections are not in order.'
    before = s.at
  }
  const repeats = [...r.repeats].sort((a, b) => a.to.from - b.to.from)
  for (const [i, x] of repeats.entries())
    if (i > 0 && x.to.from < (repeats[i - 1] as typeof x).to.to) return 'Two repeats lie over one another.'
  return tooMuch(r)
}

/** A routine with nothing in it yet. */
export function emptyRoutine(title: string, credit = ''): Routine {
  const usual = Object.fromEntries(FIELD_NAMES.map((name) => [name, structuredClone(FIELDS[name].usual)]))
  return { version: ROUTINE_VERSION, ...(usual as Omit<Routine, 'version'>), title, credit }
}
