import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Move, namedMove, STARTING_MOVES } from '@/core/choreo'
import { useMoves } from './moves-store'
import { type Outbox, outboxWords } from './outbox'
import { newWindow } from './outbox.test-tools'
import { MOVES_DOCUMENT } from './saved'

vi.mock('./outbox-window', async () => (await import('./outbox.test-tools')).windowOutbox)

let box: Outbox
const unsaved = () => box.state.getState().waiting > 0
const words = () => outboxWords(box.state.getState())
const overtaken = () => box.state.getState().conflicts.has(MOVES_DOCUMENT)

/** A server with a list on a revision; it may be away, and another window may write to it. */
function server() {
  const state = {
    away: false,
    revision: 0,
    writer: '',
    save: 0,
    moves: [...STARTING_MOVES] as Move[],
    saves: 0,
  }
  vi.stubGlobal('fetch', async (_: string, init?: RequestInit) => {
    if (state.away) throw new TypeError('no connection')
    if (!init) return Response.json({ revision: state.revision, moves: state.moves })
    const { revision, writer, save, moves } = JSON.parse(String(init.body))
    const own = writer === state.writer && save > state.save
    if (!own && revision !== state.revision)
      return Response.json(
        { error: { code: 'conflict', message: 'changed in another window' } },
        { status: 409 },
      )
    Object.assign(state, { moves, writer, save, revision: state.revision + 1, saves: state.saves + 1 })
    return Response.json({ revision: state.revision })
  })
  return state
}

const now = () => useMoves.getState()
const names = (moves: readonly Move[]) => moves.slice(STARTING_MOVES.length).map((m) => m.name)
const add = (name: string) => now().edit((all) => [...all, namedMove(name, name)])

beforeEach(() => {
  vi.useFakeTimers()
  box = newWindow()
  useMoves.setState(useMoves.getInitialState(), true)
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('the move list in a window', () => {
  it('is saved as it is changed; what is done while a save is on its way goes after it', async () => {
    const s = server()
    await now().load()
    for (const name of ['scoop', 'lean', 'fan']) add(name)
    expect(unsaved()).toBe(true)
    await vi.runAllTimersAsync()
    expect(names(s.moves)).toEqual(['scoop', 'lean', 'fan'])
    expect([s.saves, unsaved(), now().problem]).toEqual([2, false, ''])
  })
  it('is taken back step by step, and what is left is saved', async () => {
    const s = server()
    await now().load()
    add('scoop')
    add('lean')
    now().undo()
    await vi.runAllTimersAsync()
    expect(names(s.moves)).toEqual(['scoop'])
    now().undo()
    now().undo()
    await vi.runAllTimersAsync()
    expect([names(s.moves), unsaved()]).toEqual([[], false])
  })
  it('is asked for again until the server is there; an edit before then is refused in words', async () => {
    const s = server()
    s.away = true
    await now().load()
    add('scoop')
    expect([names(now().moves), now().loaded]).toEqual([[], false])
    expect(now().problem).toContain('not here yet')
    s.away = false
    await vi.advanceTimersByTimeAsync(2500)
    expect([now().loaded, now().problem]).toEqual([true, ''])
  })
  it('keeps what was done while the server is away and sends it afterwards', async () => {
    const s = server()
    await now().load()
    s.away = true
    add('scoop')
    await vi.advanceTimersByTimeAsync(100)
    expect([unsaved(), words()]).toEqual([
      true,
      expect.stringContaining('1 waiting: Azalea’s server does not answer'),
    ])
    s.away = false
    await vi.advanceTimersByTimeAsync(2500)
    expect([names(s.moves), unsaved(), words()]).toEqual([['scoop'], false, ''])
  })
  it('never writes over the list of another window; that one is taken on request, and undo brings the own back', async () => {
    const s = server()
    await now().load()
    Object.assign(s, {
      revision: 4,
      writer: 'theirs',
      save: 9,
      moves: [...STARTING_MOVES, namedMove('theirs', 'theirs')],
    })
    add('mine')
    await vi.runAllTimersAsync()
    add('mine too')
    await vi.runAllTimersAsync()
    expect([names(s.moves), overtaken(), unsaved()]).toEqual([['theirs'], true, true])
    s.away = true
    await now().takeNewer()
    expect(names(now().moves)).toEqual(['mine', 'mine too'])
    s.away = false
    await now().takeNewer()
    expect([names(now().moves), overtaken(), unsaved()]).toEqual([['theirs'], false, false])
    now().undo()
    await vi.runAllTimersAsync()
    expect([names(s.moves), unsaved()]).toEqual([['mine', 'mine too'], false])
  })
  it('is undone also after the page was loaded again, where it is still the same list', async () => {
    const kept = new Map<string, string>()
    const listening: (() => void)[] = []
    const hide = () => listening.at(-1)?.()
    vi.stubGlobal('sessionStorage', {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, text: string) => void kept.set(key, text),
    })
    vi.stubGlobal('window', { addEventListener: (_: string, listen: () => void) => listening.push(listen) })
    const s = server()
    const loadedAnew = async () => {
      vi.resetModules()
      const { useMoves: moves } = await import('./moves-store')
      await moves.getState().load()
      return moves.getState
    }
    const first = await loadedAnew()
    for (const name of ['scoop', 'lean']) first().edit((all) => [...all, namedMove(name, name)])
    await vi.runAllTimersAsync()
    hide()
    vi.resetModules()
    await import('./moves-store')
    hide()
    const second = await loadedAnew()
    expect(second().past).toHaveLength(2)
    second().undo()
    expect(names(second().moves)).toEqual(['scoop'])
    await vi.runAllTimersAsync()
    hide()
    s.moves = [...s.moves, namedMove('other', 'from another window')]
    expect((await loadedAnew())().past).toEqual([])
  })
})
