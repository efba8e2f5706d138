import type { TimedText } from '../formats'
import type { Routine } from '../routine'
import type { Seconds, Times } from '../time'
import type { Contents } from './contents'
import { type SoundWish, soundPlan } from './practice-sound'

/** A caption stays no longer than this where nothing follows. */
const LONGEST: Seconds = 4

/**
 * What is read under a practice sound, whatever it calls: the speeds, the count-ins, the moves with the counts between
 * them; each as long as nothing follows it.
 */
export function soundCaptions(
  routine: Routine,
  times: Times,
  contents: Contents,
  wish: SoundWish,
): TimedText[] {
  const plan = soundPlan(routine, times, contents, { ...wish, calls: 'words' })
  const said = plan.legs.flatMap(({ start, timeline }) =>
    [...timeline.countIn, ...timeline.counts].map((e) => ({ at: start + e.time, text: e.call })),
  )
  const list = [...plan.announced.map((a) => ({ at: a.at, text: a.words })), ...said]
    .filter((t) => t.text)
    .sort((a, b) => a.at - b.at)
  return list.map(({ at, text }, i) => ({
    start: ms(at),
    end: ms(Math.min(at + LONGEST, list[i + 1]?.at ?? plan.seconds)),
    text,
  }))
}

const ms = (s: Seconds) => Math.round(s * 1000) / 1000
