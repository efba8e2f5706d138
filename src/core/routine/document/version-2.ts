import * as v from 'valibot'
import { FINDING_KINDS } from './references'

const Step = v.looseObject({ id: v.string() })
const Version2 = v.looseObject({
  version: v.literal(2),
  dismissed: v.optional(v.array(v.looseObject({ key: v.string() }))),
  plans: v.optional(v.array(v.looseObject({ steps: v.array(Step), gone: v.array(v.string()) }))),
})

/** "rung @192 75" was what a step was made as, and where. */
function madeOf(id: string): { what: string; about: number[] } {
  const words = id.split(' ')
  const isPlace = (word: string) => /^@-?\d+$/.test(word)
  return {
    what: words.filter((w) => !isPlace(w)).join(' ') || 'step',
    about: words.filter(isPlace).map((w) => Number(w.slice(1))),
  }
}

/** "weight|192,24,feet,…|216,24,feet,…" was what a finding was about; null for what no finding was ever called. */
function aboutOf(key: string): unknown {
  const empty = /^empty\|(-?\d+)\|(-?\d+)$/.exec(key)
  if (empty) {
    const [from, to] = [Number(empty[1]), Number(empty[2])]
    return { kind: 'empty', places: [{ at: from, length: Math.max(1, to - from), says: '' }] }
  }
  const [kind, rest] = [key.slice(0, key.indexOf('|')), key.slice(key.indexOf('|'))]
  const fast = kind === 'fast' ? /\|(\d+(?:\.\d+)?)$/.exec(rest) : null
  const cues = fast ? rest.slice(0, fast.index) : rest
  const places = cues.split(/(?=\|-?\d+,\d+,)/).flatMap((cue) => {
    const m = /^\|(-?\d+),(\d+),(.*)$/s.exec(cue)
    return m ? [{ at: Number(m[1]), length: Math.max(1, Number(m[2])), says: m[3] }] : []
  })
  if (!FINDING_KINDS.some((k) => k === kind) || !places.length || places.length > 4) return null
  return { kind, places, ...(fast ? { limit: Number(fast[1]) } : {}) }
}

/**
 * A document of version 2 as one of version 3: steps and findings were named by texts with places in them. What else is no document
 * of version 2 is given back as it is.
 */
export function fromVersion2(data: unknown): unknown {
  const doc = v.safeParse(Version2, data)
  if (!doc.success) return data
  const { dismissed, plans, ...rest } = doc.output
  return {
    ...rest,
    version: 3,
    ...(dismissed && {
      dismissed: dismissed.flatMap(({ key, ...d }) => {
        const about = aboutOf(key)
        return about ? [{ ...d, about }] : []
      }),
    }),
    ...(plans && {
      plans: plans.map((plan) => ({
        ...plan,
        gone: plan.gone.map(madeOf),
        steps: plan.steps.map(({ id, ...step }) => ({ ...step, made: madeOf(id) })),
      })),
    }),
  }
}
