import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Move, namedMove, STARTING_MOVES } from '@/core/choreo'
import { useMoves } from './moves-store'
import type { Outbox } from './outbox'
import { memoryKeeping, newWindow } from './outbox.test-tools'
import { outboxWords } from './outbox-state'
import { KeptDocument } from './save-server.test-tools'
import { MOVES_DOCUMENT } from './saved'

vi.mock('./outbox-window', async () => (await import('./outbox.test-tools')).windowOutbox)

let box: Outbox
const unsaved = () => box.state.getState().waiting > 0
const words = () => outboxWords(box.state.getState())
const overtaken = () => box.state.getState().conflicts.has(MOVES_DOCUMENT)

/** A server with a list; it may be away, and another window may write to it. */
function server() {
  const list = new KeptDocument<Move[]>([...STARTING_MOVES])
  const state = { away: false, silent: false, deaf: false, lost: false, asked: 0, list }
  vi.stubGlobal('fetch', async (_: string, init?: RequestInit) => {
    if (state.away) throw new TypeError('no connection')
    if (init ? state.silent : state.deaf) throw new TypeError('no connection')
    if (!init) state.asked++
    if (!init) return Response.json({ ...list.page, moves: list.content })
    const { moves, ...save } = JSON.parse(String(init.body))
    const answer = list.save(save, moves)
    if (state.lost) throw new TypeError('no answer')
    return answer
  })
  return state
}

const now = () => useMoves.getState()
const names = (moves: readonly Move[]) => moves.slice(STARTING_MOVES.length).map((m) => m.name)
const add = (name: string) => now().edit((all) => [...all, namedMove(name.replace(/ /g, '-'), name)])

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
    expect(s.asked).toBe(1)
    for (const name of ['scoop', 'lean', 'fan']) add(name)
    expect(unsaved()).toBe(true)
    await vi.runAllTimersAsync()
    expect(names(s.list.content)).toEqual(['scoop', 'lean', 'fan'])
    expect([s.list.taken.length, unsaved(), now().problem]).toEqual([2, false, ''])
  })
  it('keeps nothing that cannot be kept, says why, and goes on', async () => {
    const s = server()
    await now().load()
    add('   ')
    expect(now().problem).toMatch(/^That cannot be kept: .+ Nothing was changed\.$/)
    expect(names(now().moves)).toEqual([])
    now().edit((all) => all)
    now().edit((all) => all.map((m) => ({ ...m, name: ` ${m.name} ` })))
    add('lean')
    expect(now().problem).toBe('')
    await vi.runAllTimersAsync()
    expect(names(s.list.content)).toEqual(['lean'])
    expect(now().past).toHaveLength(1)
  })
  it('remembers a hundred steps', async () => {
    server()
    await now().load()
    for (let i = 0; i < 105; i++) add(`move ${i}`)
    expect(now().past).toHaveLength(100)
    for (let i = 0; i < 110; i++) now().undo()
    expect(names(now().moves)).toEqual(['move 0', 'move 1', 'move 2', 'move 3', 'move 4'])
    await vi.runAllTimersAsync()
  })
  it('is taken back step by step, and what is left is saved', async () => {
    const s = server()
    await now().load()
    add('scoop')
    add('lean')
    now().undo()
    await vi.runAllTimersAsync()
    expect(names(s.list.content)).toEqual(['scoop'])
    now().undo()
    now().undo()
    await vi.runAllTimersAsync()
    expect([names(s.list.content), unsaved()]).toEqual([[], false])
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
  it.each([
    ['away', 503, true],
    ['locked', 503, true],
    ['signed-out', 401, false],
  ])('refused as %s is told, and asked for again where that may pass', async (code, status, again) => {
    let asked = 0
    vi.stubGlobal('fetch', async () => {
      asked++
      return Response.json({ error: { code, message: 'Not now.' } }, { status })
    })
    await now().load()
    expect([now().problem, now().loaded]).toEqual(['Not now.', false])
    await vi.advanceTimersByTimeAsync(2500)
    expect(asked > 1).toBe(again)
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
    expect([names(s.list.content), unsaved(), words()]).toEqual([['scoop'], false, ''])
  })
  const FIRST = STARTING_MOVES[0] as Move
  /** A list in which the first move has another caution. */
  const careful = (list: readonly Move[], caution: Move['caution']): Move[] =>
    list.map((m) => (m.id === FIRST.id ? { ...m, caution } : m))
  const cautionIn = (list: readonly Move[]) => list.find((m) => m.id === FIRST.id)?.caution ?? null
  const other = (name: string) => namedMove(name.replace(/ /g, '-'), name)

  it('has what another window added meanwhile, and undo takes back one’s own alone', async () => {
    const s = server()
    await now().load()
    add('mine')
    await vi.runAllTimersAsync()
    s.list.changeElsewhere([...s.list.content, other('theirs')])
    // Asked for again where it does not come at first.
    s.deaf = true
    add('mine too')
    await vi.advanceTimersByTimeAsync(10)
    expect([names(s.list.content), overtaken()]).toEqual([['mine', 'theirs'], true])
    s.deaf = false
    await vi.runAllTimersAsync()
    expect([names(s.list.content), overtaken(), unsaved()]).toEqual([
      ['mine', 'theirs', 'mine too'],
      false,
      false,
    ])
    now().undo()
    await vi.runAllTimersAsync()
    now().undo()
    await vi.runAllTimersAsync()
    expect([names(s.list.content), names(now().moves)]).toEqual([['theirs'], ['theirs']])
    add('and more')
    await vi.runAllTimersAsync()
    expect([names(s.list.content), words()]).toEqual([['theirs', 'and more'], ''])
  })
  it('where both changed one move otherwise waits; the newer one is taken on request, and undo brings the own back', async () => {
    const s = server()
    await now().load()
    s.list.changeElsewhere([...careful(STARTING_MOVES, 'knee'), other('theirs')])
    now().edit((all) => careful(all, 'neck'))
    add('mine')
    await vi.runAllTimersAsync()
    expect([names(s.list.content), overtaken(), unsaved()]).toEqual([['theirs'], true, true])
    s.away = true
    await now().choose('theirs')
    expect([cautionIn(now().moves), now().problem]).toEqual([
      'neck',
      expect.stringContaining('does not answer'),
    ])
    s.away = false
    await now().choose('theirs')
    // What only this window did stays, and is saved.
    expect([names(now().moves), cautionIn(now().moves), now().problem]).toEqual([
      ['theirs', 'mine'],
      'knee',
      '',
    ])
    await vi.runAllTimersAsync()
    expect([overtaken(), unsaved(), names(s.list.content), cautionIn(s.list.content)]).toEqual([
      ...[false, false, ['theirs', 'mine'], 'knee'],
    ])
    now().undo()
    await vi.runAllTimersAsync()
    expect([names(s.list.content).sort(), cautionIn(s.list.content)]).toEqual([['mine', 'theirs'], 'neck'])
    now().undo()
    expect([names(now().moves).sort(), cautionIn(now().moves)]).toEqual([['theirs'], 'neck'])
    now().undo()
    await vi.runAllTimersAsync()
    expect([names(s.list.content), cautionIn(s.list.content), unsaved()]).toEqual([['theirs'], 'knee', false])
  })
  /** A page is loaded. @param alone others were open beside it */
  const opened = async (keeping: ReturnType<typeof memoryKeeping>, alone = false) => {
    box = newWindow(keeping)
    await box.adopt(() => !alone)
    useMoves.setState(useMoves.getInitialState(), true)
    await now().load()
  }
  /** Windows that were closed before anything of theirs could be saved, while somebody else saved. */
  const closed = async (s: ReturnType<typeof server>, works: readonly (readonly [() => void, string])[]) => {
    const keeping = memoryKeeping()
    for (const [work, added] of works) {
      await opened(keeping, true)
      s.silent = true
      work()
      await vi.advanceTimersByTimeAsync(10)
      vi.clearAllTimers()
      s.silent = false
      s.list.changeElsewhere([...s.list.content, other(added)])
    }
    return keeping
  }
  it('a page that was loaded anew has what was left and what was added since, of one window or of several', async () => {
    const s = server()
    const keeping = await closed(s, [
      [() => add('one'), 'theirs'],
      [() => add('two'), 'theirs too'],
    ])
    await opened(keeping)
    await vi.runAllTimersAsync()
    expect(names(s.list.content).sort()).toEqual(['one', 'theirs', 'theirs too', 'two'])
    expect([names(now().moves).sort(), unsaved(), keeping.entries.size]).toEqual([
      names(s.list.content).sort(),
      false,
      0,
    ])
  })
  it.each([
    ['mine', 'neck', 'knee'],
    ['theirs', 'knee', 'neck'],
  ] as const)(
    'what two closed windows left, each otherwise, waits for the person: one is shown, none is given up; chosen is %s',
    async (follow, taken, second) => {
      const s = server()
      const keeping = await closed(s, [
        [() => now().edit((all) => careful(all, 'neck')), 'theirs'],
        [() => now().edit((all) => careful(all, 'knee')), 'theirs too'],
      ])
      await opened(keeping)
      await vi.runAllTimersAsync()
      expect([cautionIn(now().moves), names(now().moves)]).toEqual(['neck', ['theirs', 'theirs too']])
      expect([overtaken(), unsaved(), words()]).toEqual([
        true,
        true,
        expect.stringContaining('another window'),
      ])
      const left = [...keeping.entries.values()].map((e) => cautionIn(JSON.parse(e.body).moves))
      expect(left).toEqual(expect.arrayContaining(['neck', 'knee']))
      // Which is not chosen is what undo brings.
      expect(now().clashes).toEqual([FIRST.name])
      await now().choose(follow)
      await vi.runAllTimersAsync()
      expect([cautionIn(s.list.content), overtaken(), unsaved(), keeping.entries.size]).toEqual([
        ...[taken, false, false, 0],
      ])
      now().undo()
      await vi.runAllTimersAsync()
      expect([cautionIn(s.list.content), names(s.list.content), now().clashes]).toEqual([
        ...[second, ['theirs', 'theirs too'], []],
      ])
    },
  )
  it.each(['mine', 'theirs'] as const)(
    'what a closed window left on a list nobody knows is lost by no choice, not by %s',
    async (follow) => {
      const s = server()
      const keeping = await closed(s, [
        [() => now().edit((all) => careful(all, 'neck')), 'theirs'],
        [() => now().edit((all) => careful(all, 'knee')), 'theirs too'],
      ])
      const second = [...keeping.entries.values()].at(-1)
      if (!second) throw new Error('nothing was left')
      const { base: _, ...unknown } = second
      keeping.entries.set(second.id, unknown)
      await opened(keeping)
      await vi.runAllTimersAsync()
      expect([cautionIn(now().moves), overtaken()]).toEqual(['neck', true])
      await now().choose(follow)
      await vi.runAllTimersAsync()
      const chosen = follow === 'mine' ? 'neck' : 'knee'
      expect([cautionIn(s.list.content), overtaken(), unsaved()]).toEqual([chosen, false, false])
      now().undo()
      expect(cautionIn(now().moves)).toBe(follow === 'mine' ? 'knee' : 'neck')
      await vi.runAllTimersAsync()
    },
  )
  it('that both changed alike is not saved once more', async () => {
    const s = server()
    await now().load()
    s.list.changeElsewhere([...s.list.content, other('lean')])
    add('lean')
    await vi.runAllTimersAsync()
    expect([names(s.list.content), s.list.taken.length, overtaken(), unsaved()]).toEqual([
      ['lean'],
      1,
      false,
      false,
    ])
  })
  it('of which a save was answered to nobody has what was saved on it since, and nothing again that went there', async () => {
    const s = server()
    const keeping = memoryKeeping()
    box = newWindow(keeping)
    await now().load()
    s.lost = true
    add('one')
    await vi.advanceTimersByTimeAsync(10)
    vi.clearAllTimers()
    s.lost = false
    expect(names(s.list.content)).toEqual(['one'])
    s.list.changeElsewhere([...STARTING_MOVES, other('theirs')])
    s.silent = true
    box = newWindow(keeping)
    await box.adopt(() => true)
    useMoves.setState(useMoves.getInitialState(), true)
    await now().load()
    expect(names(now().moves)).toEqual(['one'])
    s.silent = false
    await vi.runAllTimersAsync()
    expect([names(now().moves), names(s.list.content), unsaved()]).toEqual([['theirs'], ['theirs'], false])
  })
  it('goes on from what a closed window left, also while the server is away', async () => {
    const s = server()
    const keeping = memoryKeeping()
    box = newWindow(keeping)
    await now().load()
    s.away = true
    add('left behind')
    await vi.advanceTimersByTimeAsync(100)
    for (const away of [true, false]) {
      box = newWindow(keeping)
      await box.adopt(() => true)
      useMoves.setState(useMoves.getInitialState(), true)
      s.away = away
      await now().load()
      expect([names(now().moves), now().loaded]).toEqual([['left behind'], true])
    }
    add('and more')
    await vi.runAllTimersAsync()
    expect([names(s.list.content), words(), unsaved()]).toEqual([['left behind', 'and more'], '', false])
  })
  it('of which something was left has that too where the page came while the server was away and others had saved', async () => {
    const s = server()
    const keeping = await closed(s, [[() => add('left behind'), 'theirs']])
    s.away = true
    await opened(keeping)
    expect(names(now().moves)).toEqual(['left behind'])
    add('and more')
    s.away = false
    await vi.runAllTimersAsync()
    expect(names(s.list.content).sort()).toEqual(['and more', 'left behind', 'theirs'])
    expect([names(now().moves).sort(), unsaved(), words()]).toEqual([names(s.list.content).sort(), false, ''])
  })
  it('of which something was left on a list that is not known waits for the person where others had saved', async () => {
    const s = server()
    const keeping = await closed(s, [[() => add('left behind'), 'theirs']])
    for (const [id, { base: _, ...entry }] of keeping.entries) keeping.entries.set(id, entry)
    s.away = true
    await opened(keeping)
    s.away = false
    await vi.runAllTimersAsync()
    expect([names(s.list.content), names(now().moves)]).toEqual([['theirs'], ['left behind']])
    expect([overtaken(), unsaved()]).toEqual([true, true])
    await now().choose('theirs')
    await vi.runAllTimersAsync()
    expect([names(now().moves), overtaken(), unsaved()]).toEqual([['theirs'], false, false])
    now().undo()
    await vi.runAllTimersAsync()
    expect([names(s.list.content), unsaved()]).toEqual([['left behind'], false])
  })
  it('is undone also after the page was loaded again, where it is still the same list', async () => {
    const kept = new Map<string, string>()
    let hide = () => {}
    vi.stubGlobal('sessionStorage', {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, text: string) => void kept.set(key, text),
    })
    vi.stubGlobal('window', {
      addEventListener: (name: string, listen: () => void) => {
        if (name === 'pagehide') hide = listen
      },
    })
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
    s.list.changeElsewhere([...s.list.content, namedMove('other', 'from another window')])
    expect((await loadedAnew())().past).toEqual([])
  })
})
