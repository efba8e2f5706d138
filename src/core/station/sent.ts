/* What an instructor's window does with what learners sent by the link of a class. */
import { bringSent, hasSent, Refused, type Routine, type SentMarks } from '../routine'
import type { Seconds } from '../time'

/** Something a learner sent, as it waits on the server. */
export interface Came {
  /** Of the learner's device: what it sends again waits under the same. */
  id: string
  receivedAt: string
  /** `null`: a film, which is taken in by hand. */
  sent: SentMarks | null
}

/** What a window knows when it looks at it. */
export interface SentSeen {
  routine: Routine
  times: readonly Seconds[]
  /** Nothing may be changed here. */
  closed: boolean
  /** What this window took in before, by `cameKey`. */
  taken: ReadonlySet<string>
  now: Date
}

export type SentDecision =
  /** It is taken in by this edit, and waits on until that is saved. */
  | { act: 'take'; learner: string; edit: (routine: Routine) => Routine }
  /** It is in, or was and was taken out again by whoever undid it: it need not wait. */
  | { act: 'let go' }
  /** It waits. @property why it cannot be taken in; '' where a person is to do it, or may not here */
  | { act: 'wait'; why: string }

export const cameKey = ({ id, receivedAt }: Came) => `${id} ${receivedAt}`

export function decideSent(came: Came, { routine, times, closed, taken, now }: SentSeen): SentDecision {
  const { id, sent } = came
  if (!sent || closed) return { act: 'wait', why: '' }
  if (hasSent(routine, sent) || taken.has(cameKey(came))) return { act: 'let go' }
  const edit = (r: Routine) => bringSent(r, id, sent, times, now)
  try {
    edit(routine)
    return { act: 'take', learner: sent.learner, edit }
  } catch (error) {
    if (!(error instanceof Refused)) throw error
    return { act: 'wait', why: error.message }
  }
}
