import { type Seconds, type Stretch, type Ticks, tickOfTime } from '../../time'
import type { Learner } from '../document/learner-schema'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import { Refused } from '../gate/refused'
import type { NewId } from './phrase-edits'

/** What a learner sent back, in seconds of the song. */
export interface SentMarks {
  learner: string
  made: string
  marks: readonly { from: Seconds; to: Seconds; sits: boolean; at: string }[]
}

const DAY_MS = 24 * 3600 * 1000
const sameName = (a: string, b: string) => a.trim().toLocaleLowerCase() === b.trim().toLocaleLowerCase()
const limited = (t: Ticks) => Math.min(LIMITS.place.max, Math.max(LIMITS.place.min, t))

/**
 * Takes over what a learner sent back; what the same learner sent before gives way to it.
 * @param times when each count falls now, in seconds of the song
 * @param now what says to be of a day after this is of a clock that is wrong: it shuts nothing out
 * @throws Refused where something newer of this learner is here already
 */
export function bringMarks(
  routine: Routine,
  { learner, made, marks }: SentMarks,
  times: readonly Seconds[],
  newId: NewId,
  now: Date,
): Routine {
  if (times.length < 2)
    throw new Refused('The counts of this song are not known yet: they are laid out on Count.')
  const before = routine.learners.find((x) => sameName(x.name, learner))
  const isNotYet = (x: string) => Date.parse(x) > now.getTime() + DAY_MS
  if (isNotYet(made))
    throw new Refused(
      `What ${learner.trim()} sent is of ${made.slice(0, 10)}, which is not yet: the clock of that device is wrong. Set it there, and save again.`,
    )
  if (before && !isNotYet(before.made) && Date.parse(before.made) > Date.parse(made))
    throw new Refused(`What ${before.name} saved later is here already.`)
  const placed = marks.flatMap(({ from, to, sits, at }): Learner['marks'] => {
    const [a, b] = [from, to].map((t) => limited(Math.round(tickOfTime(times, t)) + 0)) as [Ticks, Ticks]
    return b > a ? [{ stretch: { from: a, to: b }, sits, at }] : []
  })
  const next: Learner = { id: before?.id ?? newId(), name: learner.trim(), made, marks: placed }
  return { ...routine, learners: [...routine.learners.filter((x) => x !== before), next] }
}

/**
 * The same from a device that sends again and again: whoever called themselves otherwise on it before is the same learner.
 * @param id by which the device's learner is known
 */
export function bringSent(
  routine: Routine,
  id: string,
  sent: SentMarks,
  times: readonly Seconds[],
  now: Date,
): Routine {
  const before = routine.learners.find((x) => x.id === id)
  if (!before || sameName(before.name, sent.learner)) return bringMarks(routine, sent, times, () => id, now)
  if (Date.parse(before.made) > Date.parse(sent.made))
    throw new Refused(`What ${before.name} saved later is here already.`)
  return bringMarks(removeLearner(routine, id), sent, times, () => id, now)
}

/** True where what a learner sent is here. */
export const hasSent = (routine: Routine, { learner, made }: SentMarks): boolean =>
  routine.learners.some((x) => x.made === made && sameName(x.name, learner))

/** With what learners said elsewhere of the same dance: of each the later. */
export function withLearnersOf(routine: Routine, others: readonly Learner[]): Routine {
  const newer = others.filter((o) => {
    const here = routine.learners.find((x) => sameName(x.name, o.name))
    return !here || Date.parse(here.made) < Date.parse(o.made)
  })
  if (!newer.length) return routine
  const kept = routine.learners.filter((x) => !newer.some((o) => sameName(x.name, o.name) || x.id === o.id))
  return { ...routine, learners: [...kept, ...newer].slice(0, LIMITS.learners) }
}

/** Takes what one learner said out again. */
export const removeLearner = (routine: Routine, id: string): Routine => ({
  ...routine,
  learners: routine.learners.filter((x) => x.id !== id),
})

/** What some learners say of one stretch. */
export interface LearnersOn {
  stretch: Stretch
  notYet: string[]
  sits: string[]
}

/** What learners said of each stretch; what does not sit with the most of them first, then by place. */
export function learnersOn(learners: readonly Learner[]): LearnersOn[] {
  const found = new Map<string, LearnersOn>()
  for (const { name, marks } of learners)
    for (const { stretch, sits } of marks) {
      const key = `${stretch.from} ${stretch.to}`
      const on = found.get(key) ?? { stretch, notYet: [], sits: [] }
      found.set(key, on)
      const names = sits ? on.sits : on.notYet
      if (!names.includes(name)) names.push(name)
    }
  return [...found.values()].sort(
    (a, b) => b.notYet.length - a.notYet.length || a.stretch.from - b.stretch.from,
  )
}
