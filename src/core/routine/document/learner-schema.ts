import * as v from 'valibot'
import { LIMITS } from './limits'
import { StretchSchema } from './place-schema'
import { id, instant, name } from './text-schema'

/** What one learner says of the dance: the latest that came back from their practice page, apart from the instructor's own log. */
export const LearnerSchema = v.object({
  id,
  name: name(80, 'A learner needs a name.'),
  /** When the learner saved it. */
  made: instant,
  marks: v.pipe(
    v.array(v.object({ stretch: StretchSchema, sits: v.boolean(), at: instant })),
    v.maxLength(LIMITS.learnerMarks),
  ),
})

export type Learner = v.InferOutput<typeof LearnerSchema>
