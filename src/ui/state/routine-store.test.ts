import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { emptyRoutine, type Routine } from '@/core/routine'
import { openRoutineStore } from './routine-store'

let n = 0
const fresh = (title = 'Test') => openRoutineStore(`store-${n++}`, emptyRoutine(title), 0)
const titled = (title: string) => (r: Routine) => ({ ...r, title })

/** A server that keeps a revision, or is away, or has been written to by somebody else. */
function server() {
  const state = { away: false, revision: 0, saved: [] as string[] }
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    if (state.away) throw new TypeError('no connection')
    const { revision, routine } = JSON.parse(String(init.body))
    if (revision !== state.revision)
      return Response.json(
        { error: { code: 'conflict', message: 'changed in another window' } },
        { status: 409 },
      )
    state.saved.push(routine.title)
    state.revision++
    return Response.json({ revision: state.revision })
  })
  return state
}

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('the open routine', () => {
  it('saves each edit; those made while one is on its way go together after it', async () => {
    const s = server()
    const store = fresh()
    for (const title of ['one', 'two', 'three']) store.getState().edit('rename', titled(title))
    expect(store.getState().saving.kind).toBe('saving')
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['one', 'three'])
    expect(store.getState().saving.kind).toBe('saved')
  })
  it('keeps the work while the server is away and sends it when it is back', async () => {
    const s = server()
    s.away = true
    const store = fresh()
    store.getState().edit('rename', titled('kept'))
    await vi.advanceTimersByTimeAsync(100)
    expect(store.getState().saving.kind).toBe('failed')
    s.away = false
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['kept'])
    expect(store.getState().saving.kind).toBe('saved')
  })
  it('in a window saves after the paint; what was undone before is not written, a hidden page waits for nothing', async () => {
    const s = server()
    const page = { hidden: false, addEventListener: (_: string, go: () => void) => heard.push(go) }
    const heard: (() => void)[] = []
    const frames: (() => void)[] = []
    vi.stubGlobal('document', page)
    vi.stubGlobal('requestAnimationFrame', (frame: () => void) => frames.push(frame))
    const store = fresh()
    const painted = () => {
      for (const frame of frames.splice(0)) frame()
      return vi.runAllTimersAsync()
    }
    store.getState().edit('rename', titled('one'))
    expect(store.getState().saving.kind).toBe('saving')
    store.temporal.getState().undo()
    await painted()
    expect([s.saved, store.getState().saving.kind]).toEqual([[], 'saved'])
    store.getState().edit('rename', titled('two'))
    page.hidden = true
    for (const go of heard) go()
    await vi.runAllTimersAsync()
    expect([s.saved, store.getState().saving.kind]).toEqual([['two'], 'saved'])
    await painted()
    expect(s.saved).toEqual(['two'])
  })
  it('never writes over somebody else', async () => {
    const s = server()
    s.revision = 5
    const store = fresh()
    store.getState().edit('rename', titled('mine'))
    await vi.runAllTimersAsync()
    store.getState().edit('rename', titled('mine again'))
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual([])
    expect(store.getState().saving.kind).toBe('conflict')
  })
  it('undoes and redoes one edit a step, and saves what that leaves', async () => {
    const s = server()
    const store = fresh('first')
    store.getState().edit('rename', titled('second'))
    store.getState().edit('rename', titled('third'))
    store.temporal.getState().undo()
    expect(store.getState().routine.title).toBe('second')
    store.temporal.getState().undo()
    expect(store.getState().routine.title).toBe('first')
    store.temporal.getState().redo()
    await vi.runAllTimersAsync()
    expect(s.saved.at(-1)).toBe('second')
  })
  it('an edit that changes nothing is no step; a hearing is no step either', () => {
    server()
    const store = fresh()
    store.getState().edit('nothing', (r) => r)
    store.getState().laidOut(titled('laid out'))
    expect(store.temporal.getState().pastStates).toHaveLength(0)
  })
})
