import type { Drill } from './drill'
import { type FloorEffect, type FloorRow, type FloorState, just, type Stepped } from './state'

/* How what was danced ends: its time is added up, its rows are logged. */

/** Time danced up to now is added up; nothing is danced from here on. */
export function pause(state: FloorState, now: number): FloorState {
  const { going } = state
  if (!going || going.begun === null) return state
  return { ...state, going: { ...going, danced: going.danced + now - going.begun, begun: null } }
}

const rowId = (drill: Drill, k: number, n: number) => `${drill.id}-${k}${n ? `-${n}` : ''}`

/** A row for the log of one repetition as it stands; one that has a row already is corrected. */
export function logged(state: FloorState, k: number, now: number): Stepped {
  const { drill } = state
  const r = drill?.repetitions[k]
  if (!drill || !r?.whole) return just(state)
  const row: FloorRow = {
    id: rowId(drill, k, r.rows),
    corrects: r.rows ? rowId(drill, k, r.rows - 1) : null,
    // When it was danced, whenever it is marked.
    doneAt: r.endedAt ?? now,
    plan: drill.plan,
    stretch: drill.plan.stretch,
    speed: r.speed,
    seconds: r.seconds,
    mark: r.mark ?? (r.slips.length ? 'missed' : 'unmarked'),
    looped: r.looped,
    slips: r.slips,
  }
  const repetitions = drill.repetitions.map((x, i) => (i === k ? { ...x, rows: x.rows + 1 } : x))
  return just({ ...state, drill: { ...drill, repetitions } }, { kind: 'log', row })
}

/** Logs what was danced to its end before a repetition and was never marked. */
export function settleBefore(state: FloorState, before: number, now: number): Stepped {
  const effects: FloorEffect[] = []
  let next = state
  for (const [k, r] of (state.drill?.repetitions ?? []).entries()) {
    if (k >= before || r.endedAt === null || r.rows) continue
    const done = logged(next, k, now)
    next = done.state
    effects.push(...done.effects)
  }
  return { state: next, effects }
}

/** Logs everything that was danced to its end. @param over the drill is over with it */
export function settle(state: FloorState, now: number, over = true): Stepped {
  const { state: next, effects } = settleBefore(state, Number.POSITIVE_INFINITY, now)
  return { state: over ? { ...next, drill: null } : next, effects }
}

export function stop(state: FloorState, now: number): Stepped {
  if (!state.drill) return just(state)
  const going = state.going && {
    ...state.going,
    reached: Math.max(state.going.reached, state.drill.reached),
  }
  const settled = settle(pause({ ...state, going }, now), now)
  return just(
    { ...settled.state, phase: { kind: 'still' }, said: '' },
    { kind: 'silence' },
    ...settled.effects,
  )
}
