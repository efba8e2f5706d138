import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { start } from '@/core/edits.test-tools'
import { type Cue, emptyRoutine, putCue, type Routine } from '@/core/routine'
import type { Outbox } from './outbox'
import { memoryKeeping, newWindow } from './outbox.test-tools'
import { outboxWords } from './outbox-state'
import { closedBy, openRoutineStore } from './routine-store'
import { KeptDocument } from './save-server.test-tools'
import { useSpoken } from './spoken'

vi.mock('./outbox-window', async () => (await import('./outbox.test-tools')).windowOutbox)

let box: Outbox
/** How it stands, as the page says it. */
const saving = (store: ReturnType<typeof openRoutineStore>) =>
  outboxWords(box.state.getState()) ||
  (store.getState().pending || box.state.getState().waiting ? 'saving' : 'saved')

const AT_FIRST = { revision: 0, madeBy: { writer: '', save: 0 } }
let n = 0
/** A page that was just loaded, when it is known that nothing was left. */
async function fresh(title = 'Test') {
  const store = openRoutineStore(`store-${n++}`, emptyRoutine(title), AT_FIRST)
  await store.saves.resume(AT_FIRST)
  return store
}
const titled = (title: string) => (r: Routine) => ({ ...r, title })

/** A server that keeps a routine, or is away, or refuses, or loses its answers. */
function server() {
  const document = new KeptDocument('')
  const state = {
    ...{ away: false, refuse: false, loseAnswer: false, document },
    /** Titles that were saved. */
    get saved() {
      return document.taken
    },
  }
  vi.stubGlobal('fetch', async (_: string, init?: RequestInit) => {
    if (state.away) throw new TypeError('no connection')
    // Nothing of it can be brought together: it keeps titles alone.
    if (!init?.body) return Response.json(null)
    const { routine, ...save } = JSON.parse(String(init.body))
    if (state.refuse)
      return Response.json({ error: { code: 'invalid', message: 'too long' } }, { status: 400 })
    const answer = document.save(save, routine.title)
    if (state.loseAnswer) throw new TypeError('no answer')
    return answer
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
    const store = await fresh()
    for (const title of ['one', 'two', 'three']) store.getState().edit('rename', titled(title))
    expect(saving(store)).toBe('saving')
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['one', 'three'])
    expect(saving(store)).toBe('saved')
  })
  it('is changed by whoever may, in a version that knows all of it', () => {
    expect((['look', 'teach', 'edit', 'own'] as const).map((right) => closedBy(false, right))).toEqual([
      ...['shared', 'shared'],
      ...[null, null],
    ])
    expect(closedBy(true, 'own')).toBe('newer')
  })
  it('refuses every edit of a routine of a newer version, in words, and sends nothing', async () => {
    const s = server()
    const store = openRoutineStore(`store-${n++}`, emptyRoutine('From later'), AT_FIRST, 'newer')
    expect(store.getState().edit('rename', titled('mine'))).toBe(false)
    store.getState().laidOut(titled('heard'))
    expect(await store.saves.resume(AT_FIRST)).toBe(false)
    await vi.runAllTimersAsync()
    expect(store.getState().routine.title).toBe('From later')
    expect(store.getState().notice).toMatchObject({ kind: 'refused' })
    expect(store.getState().notice?.text).toContain('newer version of Azalea')
    expect(s.saved).toEqual([])
  })
  it('keeps the work while the server is away and sends it when it is back', async () => {
    const s = server()
    s.away = true
    const store = await fresh()
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
    const store = await fresh()
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
    const store = await fresh()
    s.document.changeElsewhere('theirs')
    store.getState().edit('rename', titled('mine'))
    await vi.runAllTimersAsync()
    store.getState().edit('rename', titled('mine again'))
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['theirs'])
    expect(saving(store)).toBe('changed in another window')
  })
  it('undoes and redoes one edit a step, and saves what that leaves', async () => {
    const s = server()
    const store = await fresh('first')
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
  it('an edit that changes nothing is no step; a hearing is no step either', async () => {
    server()
    const store = await fresh()
    store.getState().edit('nothing', (r) => r)
    store.getState().laidOut(titled('laid out'))
    expect(store.temporal.getState().pastStates).toHaveLength(0)
  })
  it('goes on from its own state when an answer was lost: no conflict', async () => {
    const s = server()
    const store = await fresh()
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
    const store = await fresh('first')
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
  it('fifty edits while the server is away are two saves when it is back: the one that may have been done, and the newest', async () => {
    const s = server()
    s.away = true
    const store = await fresh()
    for (let k = 0; k < 50; k++) {
      store.getState().edit('rename', titled(`edit ${k}`))
      await vi.advanceTimersByTimeAsync(10)
    }
    s.away = false
    await vi.runAllTimersAsync()
    expect(s.saved).toEqual(['edit 0', 'edit 49'])
  })
  describe('of which a closed window left something', () => {
    const keeping = memoryKeeping()
    const tag = (name: string) => (r: Routine) => ({ ...r, title: `${r.title} ${name}` })
    /** A window that is closed with edits nobody answered. */
    async function left(id: string, s: ReturnType<typeof server>, page = AT_FIRST, title = 'old') {
      box = newWindow(keeping)
      s.away = true
      const store = openRoutineStore(id, emptyRoutine(title), page)
      await store.saves.resume(page)
      store.getState().edit('rename', tag('left'))
      await vi.advanceTimersByTimeAsync(100)
      store.getState().edit('rename', tag('too'))
      await vi.advanceTimersByTimeAsync(100)
      // It is gone, with all it had in mind.
      vi.clearAllTimers()
    }
    /** The next window, with the page the server has. */
    async function next(id: string, page = AT_FIRST, title = 'old') {
      box = newWindow(keeping)
      await box.adopt(() => true)
      return { page, store: openRoutineStore(`${id} again`, emptyRoutine(title), page) }
    }
    // A store is known by its id in one window; windows here share a module.
    const asRoutine = (id: string) => {
      for (const e of keeping.entries.values()) e.document = `routine ${id} again`
    }

    it('goes on from it, as a window of its own', async () => {
      const s = server()
      await left('a', s)
      asRoutine('a')
      s.away = false
      const { page, store } = await next('a')
      expect(await store.saves.resume(page)).toBe(true)
      expect(store.getState().routine.title).toBe('old left too')
      store.getState().edit('rename', tag('mine'))
      await vi.runAllTimersAsync()
      expect([s.saved, saving(store)]).toEqual([['old left', 'old left too', 'old left too mine'], 'saved'])
    })
    it('does what was done to the page before it was known to that, too', async () => {
      const s = server()
      await left('b', s)
      asRoutine('b')
      s.away = false
      const { page, store } = await next('b')
      store.getState().edit('rename', tag('early'))
      expect(saving(store)).toBe('saving')
      await store.saves.resume(page)
      expect(store.getState().routine.title).toBe('old left too early')
      await vi.runAllTimersAsync()
      expect([s.saved.at(-1), saving(store)]).toEqual(['old left too early', 'saved'])
      store.temporal.getState().undo()
      expect(store.getState().routine.title).toBe('old left too')
    })
    it('knows it where it was answered before the page asked for it, or was in the page already', async () => {
      const s = server()
      await left('c', s)
      asRoutine('c')
      s.away = false
      const { page, store } = await next('c')
      await vi.runAllTimersAsync()
      // It is saved by now, and the page is older.
      await store.saves.resume(page)
      expect(store.getState().routine.title).toBe('old left too')
      store.getState().edit('rename', tag('mine'))
      await vi.runAllTimersAsync()
      expect([s.saved.at(-1), saving(store), s.document.revision]).toEqual(['old left too mine', 'saved', 3])
    })
    it('asks nothing where all but the last answer was lost and the page has it', async () => {
      const s = server()
      await left('d', s)
      // What was sent first arrived after all.
      const [first] = [...keeping.entries.values()]
      if (first?.saving) s.document.save(first.saving, JSON.parse(first.body).routine.title)
      asRoutine('d')
      s.away = false
      const { page, store } = await next('d', s.document.page, 'old left')
      await store.saves.resume(page)
      expect(store.getState().routine.title).toBe('old left too')
      store.getState().edit('rename', tag('mine'))
      await vi.runAllTimersAsync()
      expect([s.saved, saving(store)]).toEqual([['old left', 'old left too', 'old left too mine'], 'saved'])
    })
    it('asks where it was changed elsewhere since and nobody kept what it stood on, as in versions before; shows the other, and keeps what was left', async () => {
      const s = server()
      await left('e', s)
      for (const e of keeping.entries.values()) e.base = undefined
      s.document.changeElsewhere('theirs')
      asRoutine('e')
      s.away = false
      const { page, store } = await next('e', s.document.page, 'theirs')
      expect(await store.saves.resume(page)).toBe(false)
      await vi.runAllTimersAsync()
      expect([store.getState().routine.title, saving(store)]).toEqual(['theirs', 'changed in another window'])
      const document = 'routine e again'
      const { writer } = box.state.getState().conflicts.get(document) ?? { writer: '' }
      expect(box.newestOf(document, writer)?.body).toContain('old left too')
      box.giveUp(document)
      store.getState().edit('rename', tag('mine'))
      await vi.runAllTimersAsync()
      expect([s.saved.at(-1), saving(store), keeping.entries.size]).toEqual(['theirs mine', 'saved', 0])
    })
    it('a page nobody touched shows what another window took up and saved; one that was worked on does not', async () => {
      server()
      const store = await fresh('old')
      const told = (title: string, revision: number) =>
        box.learn(`routine store-${n - 1}`, {
          ...{ writer: 'somebody', revision },
          body: JSON.stringify({ routine: emptyRoutine(title) }),
        })
      told('left and saved', 1)
      expect([store.getState().routine.title, store.saves.revision]).toEqual(['left and saved', 1])
      store.getState().edit('rename', titled('mine'))
      told('another', 5)
      expect(store.getState().routine.title).toBe('mine')
    })
  })
  it('shows what another window saved while it was not known yet what closed ones left', async () => {
    server()
    const id = `store-${n++}`
    const store = openRoutineStore(id, emptyRoutine('old'), AT_FIRST)
    const told = (title: string, revision: number) =>
      box.learn(`routine ${id}`, {
        ...{ writer: 'somebody', revision },
        body: JSON.stringify({ routine: emptyRoutine(title) }),
      })
    // The later of two, in whatever order they come; nothing is shown before it is known what was left.
    told('second', 2)
    told('first', 1)
    expect(store.getState().routine.title).toBe('old')
    await store.saves.resume(AT_FIRST)
    expect([store.getState().routine.title, store.saves.revision]).toEqual(['second', 2])
  })
  it('shows what was saved after the page was made, once it is known; one that was worked on does not', async () => {
    vi.stubGlobal('fetch', async (url: string) => {
      expect(url).toMatch(/^\/api\/routines\/store-\d+\?after=0$/)
      return Response.json({ revision: 5, writer: 'somebody', routine: emptyRoutine('later') })
    })
    const store = await fresh('as it was')
    await store.saves.looked
    expect([store.getState().routine.title, store.saves.revision]).toEqual(['later', 5])
    vi.stubGlobal('fetch', async () => Response.json(null))
    const same = await fresh('as it was')
    await same.saves.looked
    expect([same.getState().routine.title, same.saves.revision]).toEqual(['as it was', 0])
  })
  it('keeps what was done meanwhile before what another window saved', async () => {
    server()
    const id = `store-${n++}`
    const store = openRoutineStore(id, emptyRoutine('old'), AT_FIRST)
    store.getState().edit('rename', titled('mine'))
    box.learn(`routine ${id}`, {
      ...{ writer: 'somebody', revision: 1 },
      body: JSON.stringify({ routine: emptyRoutine('theirs') }),
    })
    await store.saves.resume(AT_FIRST)
    expect(store.getState().routine.title).toBe('mine')
  })
  /** A store on a server that keeps its routine. */
  const storeOn = async (kept: KeptDocument<Routine>, shown = kept.content, page = kept.page) => {
    vi.stubGlobal('fetch', async (_: string, init?: RequestInit) => {
      if (!init?.body)
        return Response.json({ revision: kept.revision, writer: kept.madeBy.writer, routine: kept.content })
      const { routine, ...save } = JSON.parse(String(init.body))
      return kept.save(save, routine)
    })
    const store = openRoutineStore(`store-${n++}`, shown, page)
    await store.saves.resume(page)
    return store
  }
  it.each(['mine', 'theirs'] as const)('whoever chose %s has a way back to all they had', async (follow) => {
    const kept = new KeptDocument<Routine>(start())
    const store = await storeOn(kept)
    const words = kept.content.lyrics
    kept.changeElsewhere({ ...kept.content, title: 'theirs', gear: 'theirs' })
    store.getState().edit('rename', titled('mine'))
    store.getState().edit('note', (r) => ({ ...r, lyrics: 'mine' }))
    await vi.runAllTimersAsync()
    expect(store.getState().clashes).toHaveLength(1)
    expect(await store.saves.bringTogether(follow)).toBe('')
    await vi.runAllTimersAsync()
    const saved = () => [kept.content.title, kept.content.lyrics, kept.content.gear]
    expect(saved()).toEqual([follow, 'mine', 'theirs'])
    const undo = async () => {
      store.temporal.getState().undo()
      await vi.runAllTimersAsync()
      return saved()
    }
    if (follow === 'theirs') {
      expect(store.getState().did).toBe('take what they did')
      expect(await undo()).toEqual(['mine', 'mine', 'theirs'])
    }
    expect(store.getState().did).toBe('note')
    expect(await undo()).toEqual(['mine', words, 'theirs'])
    expect(await undo()).toEqual(['theirs', words, 'theirs'])
    expect(saving(store)).toBe('saved')
  })
  it('what this window saved after its page was made is what its edits stand on', async () => {
    const kept = new KeptDocument<Routine>(start())
    const [old, page] = [kept.content, kept.page]
    kept.changeElsewhere(titled('saved')(old))
    const id = `store-${n}`
    box.learn(`routine ${id}`, {
      ...{ writer: kept.madeBy.writer, revision: 1 },
      body: JSON.stringify({ routine: kept.content }),
    })
    const store = await storeOn(kept, old, page)
    kept.changeElsewhere(titled('theirs')(kept.content))
    store.getState().edit('note', (r) => ({ ...r, lyrics: 'mine' }))
    await vi.runAllTimersAsync()
    expect([store.getState().clashes, kept.content.title, kept.content.lyrics]).toEqual([
      ...[[], 'theirs', 'mine'],
    ])
  })
  it('takes back step by step what was done here, and keeps what somebody else did meanwhile', async () => {
    const cueAt = (id: string, at: number): Cue => ({
      ...{ id, at, length: 24, layer: 'arms', move: id, side: 'none', call: '' },
    })
    const put = (id: string, at: number) => (r: Routine) => putCue(r, cueAt(id, at))
    const kept = new KeptDocument<Routine>(start())
    const store = await storeOn(kept)
    const own = (r: Routine) => r.cues.flatMap(({ id }) => (/^(x|y)\d$/.test(id) ? [id] : [])).sort()
    const here = () => own(store.getState().routine)
    store.getState().edit('first', put('x1', 960))
    store.getState().edit('second', put('x2', 1000))
    await vi.runAllTimersAsync()
    kept.changeElsewhere(putCue(kept.content, cueAt('y1', 1200)))
    store.getState().edit('third', put('x3', 1040))
    await vi.runAllTimersAsync()
    expect([here(), own(kept.content)]).toEqual([
      ['x1', 'x2', 'x3', 'y1'],
      ['x1', 'x2', 'x3', 'y1'],
    ])
    expect([store.getState().did, saving(store)]).toEqual(['third', 'saved'])
    const undo = () => store.temporal.getState().undo()
    undo()
    expect([here(), store.getState().did]).toEqual([['x1', 'x2', 'y1'], 'second'])
    undo()
    undo()
    expect(here()).toEqual(['y1'])
    await vi.runAllTimersAsync()
    expect(own(kept.content)).toEqual(['y1'])
  })
  it('is refused in words by the gate, and told what an edit took away', async () => {
    server()
    const store = await fresh()
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
    expect(useSpoken.getState().words).toBe('Done: rename.')
    // What changes nothing takes away what was told before, and tells nothing.
    store.getState().edit('rename', titled('x'.repeat(201)))
    expect(store.getState().edit('nothing', (r) => r)).toBe(true)
    expect([store.getState().notice, store.getState().did]).toEqual([null, 'rename'])
    expect(useSpoken.getState().words).toBe('Done: rename.')
    store.getState().laidOut(titled('x'.repeat(201)))
    expect(store.getState().routine.title).toBe('next')
  })
})
