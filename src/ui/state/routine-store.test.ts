import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { emptyRoutine, type Routine } from '@/core/routine'
import { type Outbox, outboxWords } from './outbox'
import { memoryKeeping, newWindow } from './outbox.test-tools'
import { openRoutineStore } from './routine-store'

vi.mock('./outbox-window', async () => (await import('./outbox.test-tools')).windowOutbox)

let box: Outbox
/** How it stands, as the page says it. */
const saving = (store: ReturnType<typeof openRoutineStore>) =>
  outboxWords(box.state.getState()) ||
  (store.getState().pending || box.state.getState().waiting ? 'saving' : 'saved')

let n = 0
const fresh = (title = 'Test') => openRoutineStore(`store-${n++}`, emptyRoutine(title), 0)
const titled = (title: string) => (r: Routine) => ({ ...r, title })

/** A server that keeps a revision, or is away, or has been written to by somebody else. */
function server() {
  const state = {
    away: false,
    refuse: false,
    loseAnswer: false,
    revision: 0,
    writer: '',
    save: 0,
    saved: [] as string[],
  }
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    if (state.away) throw new TypeError('no connection')
    const { revision, writer, save, routine } = JSON.parse(String(init.body))
    if (state.refuse)
      return Response.json({ error: { code: 'invalid', message: 'too long' } }, { status: 400 })
    const own = writer === state.writer && save > state.save
    if (!own && revision !== state.revision)
      return Response.json(
        { error: { code: 'conflict', message: 'changed in another window' } },
        { status: 409 },
      )
    state.saved.push(routine.title)
    state.revision++
    Object.assign(state, { writer, save })
    if (state.loseAnswer) throw new TypeError('no answer')
    return Response.json({ revision: state.revision })
  })
  return state
}

beforeEach(() => {
  vi.useFakeTimers()
  box = newWindow()
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
    expect(saving(store)).toBe('saving')
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['one', 'three'])
    expect(saving(store)).toBe('saved')
  })
  it('refuses every edit of a routine of a newer version, in words, and sends nothing', async () => {
    const s = server()
    const store = openRoutineStore(`store-${n++}`, emptyRoutine('From later'), 4, true)
    expect(store.getState().edit('rename', titled('mine'))).toBe(false)
    store.getState().laidOut(titled('heard'))
    expect(await store.saves.resume()).toBe(false)
    await vi.runAllTimersAsync()
    expect(store.getState().routine.title).toBe('From later')
    expect(store.getState().notice).toMatchObject({ kind: 'refused' })
    expect(store.getState().notice?.text).toContain('newer version of Azalea')
    expect(s.saved).toEqual([])
  })
  it('keeps the work while the server is away and sends it when it is back', async () => {
    const s = server()
    s.away = true
    const store = fresh()
    store.getState().edit('rename', titled('kept'))
    await vi.advanceTimersByTimeAsync(100)
    expect(saving(store)).toContain('1 waiting: Azalea’s server does not answer')
    s.away = false
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['kept'])
    expect(saving(store)).toBe('saved')
  })
  it('in a window saves after the paint; what was undone before is not written, a hidden page waits for nothing', async () => {
    const s = server()
    const page = {
      hidden: false,
      addEventListener: (_: string, go: () => void) => heard.push(go),
      removeEventListener: () => {},
    }
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
    expect(saving(store)).toBe('saving')
    store.temporal.getState().undo()
    await painted()
    expect([s.saved, saving(store)]).toEqual([[], 'saved'])
    store.getState().edit('rename', titled('two'))
    page.hidden = true
    for (const go of heard) go()
    await vi.runAllTimersAsync()
    expect([s.saved, saving(store)]).toEqual([['two'], 'saved'])
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
    expect(saving(store)).toBe('changed in another window')
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
  it('goes on from its own state when an answer was lost: no conflict', async () => {
    const s = server()
    const store = fresh()
    s.loseAnswer = true
    store.getState().edit('rename', titled('one'))
    await vi.advanceTimersByTimeAsync(100)
    store.getState().edit('rename', titled('two'))
    s.loseAnswer = false
    await vi.runAllTimersAsync()
    expect([s.saved.at(-1), saving(store)]).toEqual(['two', 'saved'])
  })
  it('an edit after a refused one is sent; undone, nothing is left unsaved', async () => {
    const s = server()
    const store = fresh('first')
    s.refuse = true
    store.getState().edit('rename', titled('bad'))
    await vi.runAllTimersAsync()
    expect(saving(store)).toBe('One change was refused (the routine): too long')
    s.refuse = false
    store.temporal.getState().undo()
    await vi.runAllTimersAsync()
    expect([s.saved, saving(store)]).toEqual([[], 'saved'])
    store.getState().edit('rename', titled('good'))
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['good'])
  })
  it('fifty edits while the server is away are one save when it is back', async () => {
    const s = server()
    s.away = true
    const store = fresh()
    for (let k = 0; k < 50; k++) {
      store.getState().edit('rename', titled(`edit ${k}`))
      await vi.advanceTimersByTimeAsync(10)
    }
    s.away = false
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['edit 49'])
  })
  it('what a window that is gone had not saved is taken up again', async () => {
    const s = server()
    s.away = true
    const keeping = memoryKeeping()
    box = newWindow(keeping)
    openRoutineStore('left-behind', emptyRoutine('old'), 0).getState().edit('rename', titled('not saved yet'))
    await vi.advanceTimersByTimeAsync(100)
    box = newWindow(keeping)
    s.away = false
    await box.adopt(() => true)
    // The page is loaded anew: the server had the old one when it was made.
    const store = openRoutineStore('loaded-anew', emptyRoutine('old'), 0)
    expect(await store.saves.resume()).toBe(false)
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['not saved yet'])
  })
  it('is refused in words by the gate, and told what an edit took away', () => {
    server()
    const store = fresh()
    expect(store.getState().edit('rename', titled('x'.repeat(201)))).toBe(false)
    expect(store.getState().notice).toMatchObject({
      kind: 'refused',
      text: expect.stringContaining('200 at most'),
    })
    expect(store.getState().routine.title).toBe('Test')
    store.getState().edit('say', (r) => ({ routine: titled('kept')(r), said: ['The last eight went.'] }))
    expect(store.getState().notice).toEqual({ kind: 'took', text: 'The last eight went.' })
    store.getState().edit('rename', titled('next'))
    expect(store.getState().notice).toBeNull()
  })
})
