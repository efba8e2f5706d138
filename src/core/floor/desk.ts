import type { Ticks } from '../time'

/** What plays at the desk: the song from the cursor. */
export interface DeskState {
  playing: boolean
  /** Why it stands still though nobody stopped it; '' where somebody did. */
  said: string
}

export type DeskEvent =
  | { kind: 'play' }
  | { kind: 'stop'; at: Ticks | null }
  /** The device is gone or asleep. @param at what was heard last */
  | { kind: 'lost'; why: string; at: Ticks | null }

export type DeskEffect = { kind: 'silence' } | { kind: 'cursor'; to: Ticks }

/** Whole counts: where somebody goes on, it is from a count. */
const COUNT: Ticks = 24

/**
 * Playing at the desk, as a machine. Whatever stops the sound, the cursor waits at the count that was heard last; where
 * the device took it away it is said why, and playing goes on from there.
 */
export function deskStep(state: DeskState, event: DeskEvent): { state: DeskState; effects: DeskEffect[] } {
  switch (event.kind) {
    case 'play':
      return { state: { playing: true, said: '' }, effects: [] }
    case 'stop':
    case 'lost': {
      if (!state.playing) return { state, effects: [] }
      const effects: DeskEffect[] = [{ kind: 'silence' }]
      if (event.at !== null)
        effects.push({ kind: 'cursor', to: Math.max(0, Math.floor(event.at / COUNT) * COUNT) })
      const said = event.kind === 'lost' ? `${event.why} Play goes on from where it was.` : ''
      return { state: { playing: false, said }, effects }
    }
  }
}
