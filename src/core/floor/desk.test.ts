import { describe, expect, it } from 'vitest'
import { type DeskEvent, type DeskState, deskStep } from '.'

const still: DeskState = { playing: false, said: '' }
const played = (...events: DeskEvent[]) =>
  events.reduce(
    ({ state, effects }, e) => {
      const next = deskStep(state, e)
      return { state: next.state, effects: [...effects, ...next.effects] }
    },
    { state: still, effects: [] as ReturnType<typeof deskStep>['effects'] },
  )

describe('playing at the desk', () => {
  it('stopped, the cursor waits at the count that was heard last', () => {
    const { state, effects } = played({ kind: 'play' }, { kind: 'stop', at: 100.7 })
    expect([state, effects]).toEqual([still, [{ kind: 'silence' }, { kind: 'cursor', to: 96 }]])
  })
  it('taken away by the device, it stands still, says why, and goes on from there', () => {
    const { state, effects } = played({ kind: 'play' }, { kind: 'lost', why: 'It slept.', at: 50 })
    expect(state).toEqual({ playing: false, said: 'It slept. Play goes on from where it was.' })
    expect(effects).toContainEqual({ kind: 'cursor', to: 48 })
    expect(deskStep(state, { kind: 'play' }).state).toEqual({ playing: true, said: '' })
  })
  it('what stands still already is not lost, and before the first count the cursor stays at it', () => {
    expect(played({ kind: 'lost', why: 'x', at: 9 })).toEqual({ state: still, effects: [] })
    expect(played({ kind: 'play' }, { kind: 'stop', at: -40 }).effects).toContainEqual({
      kind: 'cursor',
      to: 0,
    })
    expect(played({ kind: 'play' }, { kind: 'stop', at: null }).effects).toEqual([{ kind: 'silence' }])
  })
})
