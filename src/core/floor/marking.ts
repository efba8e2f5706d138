import type { Mark } from '../drill'
import type { Stretch, Ticks } from '../time'
import { lastDanced, marked, markedRepetition, slipped } from './drill'
import { leadOn } from './leading'
import { logged } from './settling'
import { type FloorRow, type FloorState, type Heard, just, type Stepped, stepOf } from './state'

/* What a mark means, and what follows from it. */

/** Which repetition is meant by what is pressed now. */
function meant(state: FloorState, heard: Heard | null): { k: number } | { said: string } {
  const { drill } = state
  if (!drill) return { said: '' }
  const k = heard ? markedRepetition(drill.offset + heard.k, heard.into, heard.body) : lastDanced(drill)
  if (k === null || !drill.repetitions[k]) return { said: 'Nothing danced yet to mark' }
  if (!drill.repetitions[k]?.whole) return { said: 'That was a part only; mark the next whole one' }
  return { k }
}

export function mark(state: FloorState, event: { mark: Mark; heard: Heard | null; now: number }): Stepped {
  const { drill } = state
  if (!drill) return just(state)
  const which = meant(state, event.heard)
  const waits = state.phase.kind === 'ended' && stepOf(state) !== null
  if ('said' in which) return waits ? leadOn(state, event.now) : just({ ...state, said: which.said })
  const said = drill.plan.kind === 'run' ? `Run: ${event.mark}` : `Repetition ${which.k + 1}: ${event.mark}`
  const done = logged({ ...state, drill: marked(drill, which.k, event.mark), said }, which.k, event.now)
  // A run of a lesson that was waiting for its mark leads on.
  if (!waits) return done
  const on = leadOn(done.state, event.now)
  return { state: on.state, effects: [...done.effects, ...on.effects] }
}

export function slip(state: FloorState, event: { tick: Ticks; heard: Heard | null; now: number }): Stepped {
  const { drill } = state
  if (!drill) return just(state)
  const which = meant(state, event.heard)
  if ('said' in which) return just({ ...state, said: which.said })
  const next = { ...state, drill: slipped(drill, which.k, event.tick), said: 'Marked where it slipped' }
  // Before it was marked, its row comes with its mark.
  return drill.repetitions[which.k]?.rows ? logged(next, which.k, event.now) : just(next)
}

/** One phrase of a run, marked by itself at its end. */
export function markApart(state: FloorState, event: { stretch: Stretch; mark: Mark; now: number }): Stepped {
  const { drill } = state
  if (drill?.plan.kind !== 'run') return just(state)
  const { from } = event.stretch
  const n = drill.apart.get(from) ?? 0
  const name = (k: number) => `${drill.id}-s${from}${k ? `-${k}` : ''}`
  const row: FloorRow = {
    id: name(n),
    corrects: n ? name(n - 1) : null,
    // Right after the run, whose own mark is not to be the later word on it.
    doneAt: (drill.repetitions.at(-1)?.endedAt ?? event.now) + 1,
    plan: { ...drill.plan, kind: 'drill' },
    stretch: event.stretch,
    speed: drill.plan.speed,
    // Its time is in the run's own row.
    seconds: 0,
    mark: event.mark,
    looped: false,
    slips: [],
  }
  return just(
    { ...state, drill: { ...drill, apart: new Map(drill.apart).set(from, n + 1) } },
    { kind: 'log', row },
  )
}
