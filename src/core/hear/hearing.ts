import * as v from 'valibot'

/** Raised with every change of method, so that an old hearing is known as such. */
export const HEARING_VERSION = 13

/** Beats in a bar that are told apart; bars of two are taken in pairs, six eighths felt in two as pairs of bars of two. */
export const BARS = [3, 4, 5, 7] as const
export type Bar = (typeof BARS)[number]

const seconds = v.pipe(v.number(), v.finite(), v.minValue(-10), v.maxValue(36_000))
const share = v.pipe(v.number(), v.minValue(0), v.maxValue(1))
const index = v.pipe(v.number(), v.integer(), v.minValue(0))
const curve = v.pipe(
  v.array(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(255))),
  v.maxLength(40_000),
)

/** What a stretch of a song may be guessed to be. */
export const HEARD_KINDS = [
  'intro',
  'verse',
  'pre-chorus',
  'chorus',
  'bridge',
  'break',
  'outro',
  'part',
] as const
export type HeardKind = (typeof HEARD_KINDS)[number]

/** Everything that was heard in a song; stored with its version and never changed by a person's repairs. */
export const HearingSchema = v.object({
  version: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1_000_000)),
  duration: v.pipe(v.number(), v.minValue(0), v.maxValue(36_000)),
  /** Beats per minute; 0 when no beat was found. */
  tempo: v.pipe(v.number(), v.minValue(0), v.maxValue(1000)),
  /** True when one exact tempo fits the whole song. */
  steady: v.boolean(),
  beats: v.pipe(v.array(seconds), v.maxLength(40_000)),
  /** Index of the beat where each phrase begins: its 1. Beats before the first are a pick-up. */
  phrases: v.pipe(v.array(index), v.maxLength(5000)),
  /** Beats in most of its bars; phrases are two bars. */
  bar: v.optional(v.picklist(BARS), 4),
  /** Where the metre changes: from which beat on bars are of what size, the first from beat 0; none where it does not change. */
  metres: v.optional(v.pipe(v.array(v.object({ beat: index, bar: v.picklist(BARS) })), v.maxLength(500)), []),
  /** Per phrase, how sure: of its beats, and that it begins there. */
  sure: v.optional(v.object({ beats: v.array(share), ones: v.array(share) }), { beats: [], ones: [] }),
  /** Per phrase, the index of the earlier phrase it repeats, or -1. */
  same: v.optional(v.array(v.pipe(v.number(), v.integer(), v.minValue(-1))), []),
  /** Stretches that sound alike, each with a guess at what it is and why. */
  sections: v.pipe(
    v.array(
      v.object({
        beat: index,
        letter: v.pipe(v.string(), v.maxLength(3)),
        kind: v.optional(v.picklist(HEARD_KINDS), 'part'),
        why: v.optional(v.pipe(v.string(), v.maxLength(200)), ''),
      }),
    ),
    v.maxLength(500),
  ),
  /** How sure, 0..1: of the tempo and where its beat falls, and of the 1. Fitted on songs of known beat. */
  confidence: v.object({ beats: share, one: share }),
  /**
   * Other ways to hear the beat, the likeliest first: counts per beat as heard, how much later its beat falls, and where
   * its first 1 would be, -1 where an older version did not say; beats in its bars.
   */
  tempi: v.optional(
    v.pipe(
      v.array(
        v.object({
          bpm: v.number(),
          factor: v.number(),
          shift: v.number(),
          weight: share,
          one: v.optional(seconds, -1),
          bar: v.optional(v.picklist(BARS), 4),
        }),
      ),
      v.maxLength(10),
    ),
    [],
  ),
  /** Bars of other sizes under the same beats, the likeliest first, and where their first 1 would be. */
  bars: v.optional(
    v.pipe(
      v.array(v.object({ bar: v.picklist(BARS), weight: share, one: seconds })),
      v.maxLength(BARS.length),
    ),
    [],
  ),
  /** Other places for the 1, the likeliest first: how many beats later every phrase would begin. */
  ones: v.optional(
    v.pipe(
      v.array(
        v.object({ shift: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(13)), weight: share }),
      ),
      v.maxLength(13),
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

/** Beats in the bar a beat lies in. */
export const barAt = ({ bar, metres }: Pick<Hearing, 'bar' | 'metres'>, beat: number): Bar =>
  metres.findLast((m) => m.beat <= beat)?.bar ?? bar

/** Pictures of a song, in bytes, 255 being the most. */
export interface Peaks {
  /** What is drawn of the sound, between its peak and its loudness, the finest level first; frames a second. */
  levels: { rate: number; shape: Uint8Array }[]
  /** Frames a second of the onsets. */
  frameRate: number
  /** How much new sound begins, as the square root of onset strength; see `onsetOf`. */
  onset: Uint8Array
}

/** Onset strength is kept as its square root times this. */
const ONSET_SCALE = 50

/** The byte an onset strength is kept as. */
export const onsetByte = (strength: number) => Math.min(255, Math.round(ONSET_SCALE * Math.sqrt(strength)))
/** The strength a byte stands for. */
export const onsetOf = (byte: number) => (byte / ONSET_SCALE) ** 2
