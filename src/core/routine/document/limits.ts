import type { Ratio, Seconds, Ticks } from '../../time'

/** What a routine may hold; the border and the gate for edits read the same numbers. */
export const LIMITS = {
  /** Letters of a version's name. */
  option: 24,
  /** Letters of a name, a move, a call. */
  text: 200,
  /** Letters of what is said with a cue: a tip, a usual mistake, a quality, a look. */
  note: 1000,
  /** Places on the count line. Far before the first beat too: a grid that begins late leaves cues in front of it. */
  place: { min: -24 * 2000, max: 24 * 20_000 } satisfies Record<string, Ticks>,
  /** How long a cue may last: 64 counts. */
  cueLength: (24 * 64) as Ticks,
  /** Counts of a phrase. */
  phrase: 32,
  phrases: 4000,
  /** So much may belong over the border of a phrase: 8 counts. */
  border: (24 * 8) as Ticks,
  sections: 500,
  parts: 500,
  cues: 20_000,
  /** Cues as they are danced, what repeats bring counted each time. */
  danced: 50_000,
  /** Cues written on one count. */
  onOneCount: 400,
  /** Names of those who dance, and of versions. */
  roles: 60,
  versions: 24,
  /** A whole routine as it is saved, in bytes: a request of 8 MiB, less what is said around it. */
  bytes: 8 * 1024 * 1024 - 1024,
  positions: 4000,
  repeats: 4000,
  /** How deep repeats of repeats may lead. */
  repeatDepth: 200,
  marks: 5000,
  /** Time of a mark or a beat. */
  seconds: { min: -60, max: 36_000 } satisfies Record<string, Seconds>,
  beats: 20_000,
  /** Repairs of the beats; a longer run is folded into one. */
  repairs: 200,
  /** Beats further than this are not shifted at once. */
  shift: 5 as Seconds,
  /** Recordings of calls, and pieces one is cut into. */
  voices: 200,
  /** Learners who send back what sits, and how much one says: all of it is saved with each edit, and stays small beside the dance. */
  learners: 60,
  learnerMarks: 300,
  pieces: 1000,
  plans: 50,
  steps: 2000,
  dismissed: 2000,
  letter: 3,
  /** Films of a dance, how long one may be, and what is known of it. */
  films: 60,
  filmSeconds: (6 * 3600) as Seconds,
  filmRate: { min: 0.2, max: 2 } satisfies Record<string, Ratio>,
  filmTakes: 200,
  filmNotes: 200,
  /** Places in a room, from its middle. */
  metres: 100,
  dancers: 60,
  formations: 200,
} as const
