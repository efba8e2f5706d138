import * as v from 'valibot'
import { LIMITS } from './limits'
import { StretchSchema } from './place-schema'
import { id } from './text-schema'

/** Longest recording of calls, in seconds. */
export const LONGEST_RECORDING = 90

const second = v.pipe(v.number(), v.minValue(0), v.maxValue(LONGEST_RECORDING + 5))

/** A piece of a recording, in its seconds, and where in the dance its stress falls: a place between ticks, as it was said. */
export const VoicePieceSchema = v.pipe(
  v.object({
    at: v.pipe(v.number(), v.finite(), v.minValue(LIMITS.place.min), v.maxValue(LIMITS.place.max)),
    from: second,
    stress: second,
    to: second,
  }),
  v.check((p) => p.from <= p.stress && p.stress < p.to, 'A piece of a recording ends after its stress.'),
)

/** Calls over a stretch in the instructor's own voice. The sound itself is kept beside the routine, under its id. */
export const VoiceSchema = v.object({
  id,
  stretch: StretchSchema,
  recording: v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{8,40}$/)),
  pieces: v.pipe(v.array(VoicePieceSchema), v.minLength(1, 'Nothing was said.'), v.maxLength(LIMITS.pieces)),
  /** Every piece sounds where it was said; else what was meant on a count or a half is drawn onto it. */
  exact: v.boolean(),
})

export type VoicePiece = v.InferOutput<typeof VoicePieceSchema>
export type Voice = v.InferOutput<typeof VoiceSchema>
