import * as v from 'valibot'
import { StretchSchema } from './cue-schema'
import { LIMITS } from './limits'

const instant = v.pipe(v.string(), v.isoTimestamp())

/** What one learner says of the dance: the latest that came back from their practice page, apart from the instructor's own log. */
export const LearnerSchema = v.object({
  id: v.pipe(v.string(), v.minLength(1), v.maxLength(40)),
  name: v.pipe(v.string(), v.trim(), v.minLength(1, 'A learner needs a name.'), v.maxLength(80)),
  /** When the learner saved it. */
  made: instant,
  marks: v.pipe(
    v.array(v.object({ stretch: StretchSchema, sits: v.boolean(), at: instant })),
    v.maxLength(LIMITS.learnerMarks),
  ),
})

export type Learner = v.InferOutput<typeof LearnerSchema>
