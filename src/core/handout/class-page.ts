import * as v from 'valibot'
import { LIMITS } from '../routine'
import { instant } from '../routine/document/text-schema'
import { type LearnerMark, MarksFileSchema } from './practice-marks'
import { PageStillsSchema, PageVoiceSchema } from './practice-page'

/* The practice page as a page of its own, to which a class has a link: what goes between it and its server. */

/** What the link says: 144 bits by chance, in base64url. */
export const ClassTokenSchema = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{24}$/))

/** A number a device drew for itself: it is counted by it, and what it sends again takes the place of what it sent before. */
export const DeviceSchema = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{16,40}$/))

/** What a device tells when it shows the page. */
export const ClassOpenedSchema = v.object({
  device: DeviceSchema,
  /** When the page it has was made. */
  made: instant,
})
export type ClassOpened = v.InferOutput<typeof ClassOpenedSchema>

/** What it is told. */
export const ClassFactsSchema = v.object({
  /** When the newest page was made. */
  made: instant,
  group: v.string(),
  teacher: v.string(),
  /** Films may be sent. */
  films: v.boolean(),
})
export type ClassFacts = v.InferOutput<typeof ClassFactsSchema>

/** What sits and what does not, as a device sends it. */
export const ClassMarksSchema = v.object({ device: DeviceSchema, sent: MarksFileSchema })
export type ClassMarks = v.InferOutput<typeof ClassMarksSchema>

/** What an instructor hands out to a class, beside what is chosen of the dance. */
export const HandedOutSchema = v.object({
  group: v.pipe(v.string(), v.trim(), v.maxLength(80)),
  films: v.boolean(),
  voice: v.nullable(PageVoiceSchema),
  stills: v.nullable(PageStillsSchema),
})
export type HandedOut = v.InferOutput<typeof HandedOutSchema>

/** What a learner's device keeps of sending. */
export interface SendingKept {
  name: string
  marks: readonly LearnerMark[]
  /** The learner said that what they say goes to the class. */
  sending: boolean
  /** What was sent last (`saidNow`); '' before anything was. */
  sent: string
}

/** What would be sent now, as text to be told apart by. */
export const saidNow = ({ name, marks }: Pick<SendingKept, 'name' | 'marks'>): string =>
  JSON.stringify([name.trim(), marks.slice(-LIMITS.learnerMarks)])

/** True where something is to be sent: the learner agreed, has a name, and says something else than what was sent. */
export const isDue = (kept: SendingKept): boolean =>
  kept.sending && kept.name.trim() !== '' && saidNow(kept) !== kept.sent
