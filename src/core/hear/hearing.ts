import * as v from 'valibot'

/** Raised with every change of method, so that an old hearing is known as such. */
export const HEARING_VERSION = 2

const seconds = v.pipe(v.number(), v.finite(), v.minValue(-10), v.maxValue(36_000))
const share = v.pipe(v.number(), v.minValue(0), v.maxValue(1))
const index = v.pipe(v.number(), v.integer(), v.minValue(0))
const curve = v.pipe(
  v.array(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(255))),
  v.maxLength(40_000),
)

/** Everything that was heard in a song; stored with its version and never changed by a person's repairs. */
export const HearingSchema = v.object({
  version: v.pipe(v.number(), v.integer(), v.minValue(1)),
  duration: v.pipe(v.number(), v.minValue(0), v.maxValue(36_000)),
  /** Beats per minute; 0 when no beat was found. */
  tempo: v.pipe(v.number(), v.minValue(0), v.maxValue(1000)),
  /** True when one exact tempo fits the whole song. */
  steady: v.boolean(),
  beats: v.pipe(v.array(seconds), v.maxLength(40_000)),
  /** Index of the beat where each phrase begins: its 1. Beats before the first are a pick-up. */
  phrases: v.pipe(v.array(index), v.maxLength(5000)),
  sections: v.pipe(
    v.array(v.object({ beat: index, letter: v.pipe(v.string(), v.maxLength(3)) })),
    v.maxLength(500),
  ),
  /** How sure, 0..1: of the tempo and where its beat falls, and of the 1. Fitted on songs of known beat. */
  confidence: v.object({ beats: share, one: share }),
  /** Other ways to hear the beat, the likeliest first: counts per beat as heard, and how much later its beat falls. */
  tempi: v.optional(
    v.pipe(
      v.array(v.object({ bpm: v.number(), factor: v.number(), shift: v.number(), weight: share })),
      v.maxLength(10),
    ),
    [],
  ),
  /** Other places for the 1, the likeliest first: how many beats later every phrase would begin. */
  ones: v.optional(
    v.pipe(
      v.array(
        v.object({ shift: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(7)), weight: share }),
      ),
      v.maxLength(7),
    ),
    [],
  ),
  /** Beats that are not heard but carried on through silence: first and last index of each run. */
  inferred: v.optional(v.pipe(v.array(v.tuple([index, index])), v.maxLength(2000)), []),
  /** Per beat, 0..255: how loud, how bright, how much low end. */
  pictures: v.optional(v.object({ loudness: curve, brightness: curve, low: curve }), {
    loudness: [],
    brightness: [],
    low: [],
  }),
})

export type Hearing = v.InferOutput<typeof HearingSchema>

/** Loudness pictures of a song: one byte per 10 ms frame, 255 being full scale. */
export interface Peaks {
  frameRate: number
  peak: Uint8Array
  loudness: Uint8Array
}
