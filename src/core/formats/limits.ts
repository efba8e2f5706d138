import { LIMITS } from '../routine/document/limits'

/** What a file brought in may hold; far more than a song has, far less than fills a page. */
export const MOST = {
  bytes: 20_000_000,
  beats: LIMITS.beats,
  sections: LIMITS.sections,
  words: LIMITS.marks,
  seconds: LIMITS.seconds,
} as const
