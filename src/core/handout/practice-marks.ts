import * as v from 'valibot'
import { parseJson } from '../formats/decode-json'
import { LIMITS } from '../routine'
import { id, instant, name } from '../routine/document/text-schema'
import { NotOpened } from './routine-file'

export const MARKS_FILE_VERSION = 1
const second = v.pipe(v.number(), v.minValue(-600), v.maxValue(36_000))

/** One judgement of a learner's own: so much of the dance sits, or does not yet. */
export const LearnerMarkSchema = v.pipe(
  v.object({
    /** In seconds of the instructor's copy of the song, which counts may be laid out anew on. */
    from: second,
    to: second,
    sits: v.boolean(),
    /** When it was said. */
    at: instant,
  }),
  v.check((m) => m.to > m.from, 'a mark ends after it begins'),
)
export type LearnerMark = v.InferOutput<typeof LearnerMarkSchema>

/** What comes back from a practice page: what sits and what does not yet, of one learner. */
export const MarksFileSchema = v.object({
  azalea: v.literal('marks'),
  version: v.literal(MARKS_FILE_VERSION),
  made: instant,
  /** The routine it is of. */
  id,
  learner: name(80, 'nobody’s name is in it'),
  marks: v.pipe(v.array(LearnerMarkSchema), v.maxLength(LIMITS.learnerMarks)),
})
export type MarksFile = v.InferOutput<typeof MarksFileSchema>

/**
 * Reads what a learner sent back.
 * @param id the routine it is brought to
 * @throws NotOpened for what is none, is broken, of a newer version, or of another dance
 */
export function readMarksFile(text: string, id: string): MarksFile {
  let data: unknown
  try {
    data = parseJson(text)
  } catch {
    throw new NotOpened('This is nothing a practice page saved: it cannot be read.')
  }
  const kind = v.safeParse(v.object({ azalea: v.literal('marks'), version: v.number() }), data)
  if (!kind.success) throw new NotOpened('This is nothing a practice page saved.')
  if (kind.output.version > MARKS_FILE_VERSION)
    throw new NotOpened('A newer practice page saved this: it is read by a newer version of Azalea.')
  const file = v.safeParse(MarksFileSchema, data)
  if (!file.success) throw new NotOpened(`What the practice page saved is broken: ${file.issues[0].message}`)
  if (file.output.id !== id) throw new NotOpened('This was saved by the practice page of another dance.')
  return file.output
}
