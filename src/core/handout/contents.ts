import { asSeen } from '../choreo'
import { type DancedCue, danced, danceOf, ofPass, type Pass, type Routine } from '../routine'
import { holds, type Stretch } from '../time'

/** What of a dance goes into a hand-out, and how it is seen. */
export interface Contents {
  stretch: Stretch
  /** Left is said right, as in a mirror. */
  mirrored: boolean
  /** Of one role; '' for everybody. */
  role: string
  version: string
  pass: Pass
  /** Tips, usual mistakes and cautions. */
  tips: boolean
  lyric: boolean
  /** What is danced again is one line, not written out. */
  short: boolean
  /** Who stands where, where several dance. */
  plans: boolean
  /** Where the steps of one dancer have led by the end of each row. */
  path: boolean
}

/** What a hand-out begins with: the whole dance, true, for everybody, in the base. */
export const usualContents = (routine: Routine): Contents => ({
  stretch: danceOf(routine),
  mirrored: false,
  role: '',
  version: 'base',
  pass: 'all',
  tips: true,
  lyric: true,
  short: true,
  plans: true,
  path: false,
})

/** The cues of a hand-out, in order of place. */
export const cuesFor = (routine: Routine, { stretch, role, version, pass }: Contents): DancedCue[] =>
  ofPass(asSeen(danced(routine), role, version), pass).filter((c) => holds(stretch, c.at))

/** The cues of all roles and versions at once, as they are written, in order of place. */
export const everyCueFor = (routine: Routine, { stretch, pass }: Contents): DancedCue[] =>
  ofPass(danced(routine), pass).filter((c) => holds(stretch, c.at))

/** Why there is nothing to hand out, in words; '' where there is something. */
export function nothingIn(routine: Routine, times: readonly number[], contents: Contents): string {
  if (times.length < 2) return 'The counts of this song are not known yet: they are laid out on Count.'
  if (!cuesFor(routine, contents).length) return 'Nothing is written in these counts for what is chosen.'
  return ''
}
