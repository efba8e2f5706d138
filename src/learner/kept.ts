import * as v from 'valibot'
import { LearnerMarkSchema, MARKS_FILE_VERSION, type MarksFile, PAGE_CALLS } from '@/core/handout'
import { LIMITS } from '@/core/routine'

/** What a learner's device keeps of one page: what sits, and how it was practised last. */
const KeptSchema = v.object({
  name: v.optional(v.pipe(v.string(), v.maxLength(80)), ''),
  /** Which of those on the plans one is. */
  mine: v.optional(v.pipe(v.string(), v.maxLength(2)), ''),
  marks: v.optional(v.pipe(v.array(LearnerMarkSchema), v.maxLength(LIMITS.learnerMarks)), []),
  speed: v.optional(v.pipe(v.number(), v.minValue(0.4), v.maxValue(1.1)), 0.75),
  calls: v.optional(v.picklist(PAGE_CALLS), 'words'),
  mirrored: v.optional(v.nullable(v.boolean()), null),
  countIn: v.optional(v.picklist([4, 8]), 8),
  again: v.optional(v.boolean(), true),
  /** What is said goes to the class by itself; and what was sent last (core/handout/class-page.ts). */
  sending: v.optional(v.boolean(), false),
  sent: v.optional(v.string(), ''),
  /** Large over the page while it plays, to be read from afar. */
  large: v.optional(v.boolean(), false),
  sound: v.optional(
    v.object({
      music: v.pipe(v.number(), v.minValue(0), v.maxValue(1)),
      clicks: v.pipe(v.number(), v.minValue(0), v.maxValue(1)),
      voice: v.pipe(v.number(), v.minValue(0), v.maxValue(1)),
    }),
    { music: 0.7, clicks: 0.45, voice: 0.9 },
  ),
})
export type Kept = v.InferOutput<typeof KeptSchema>

const keyOf = (id: string) => `azalea practice ${id}`

/** What is kept of a page; the usual where there is nothing, or nothing that can be read. */
export function readKept(id: string): Kept {
  try {
    const read = v.safeParse(KeptSchema, JSON.parse(localStorage.getItem(keyOf(id)) ?? '{}'))
    if (read.success) return read.output
  } catch {
    // A browser that keeps nothing for files begins anew each time; that it does is said when something is to be kept.
  }
  return v.parse(KeptSchema, {})
}

/** Keeps it. @returns false where this browser keeps nothing */
export function keep(id: string, kept: Kept): boolean {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(kept))
    return true
  } catch {
    return false
  }
}

/** What goes back to the instructor. */
export const marksFile = (id: string, { name, marks }: Kept, now = new Date()): MarksFile => ({
  azalea: 'marks',
  version: MARKS_FILE_VERSION,
  made: now.toISOString(),
  id,
  learner: name.trim(),
  marks,
})
