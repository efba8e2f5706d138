// @vitest-environment happy-dom
import { act, cleanup, configure, renderHook, waitFor } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { base64Of } from '@/core/formats/base64'
import { HEARING_VERSION, type Hearing, packPeaks } from '@/core/hear'
import { listen } from '@/core/hear/listen'
import { emptyRoutine, type Routine } from '@/core/routine'
import { cuesOf, page as pageOf } from '@/core/routine/hand.test-tools'
import { useCalls, useCallsFor, useDance, useSeen, useShown, useStarts } from './choreo'
import { FakeWorker } from './fake-worker.test-tools'
import { heardOf } from './hear'
import { useHearing } from './hearing'
import { sincePress, useKeys, useKeysFirst } from './keys'
import { newWindow } from './outbox.test-tools'
import { SongProvider, type SongState, usePage, useSong } from './page'
import { usePedal, usePedalKeys } from './pedal'
import { Player, PlayerProvider, usePlayer, usePlayerState } from './player'
import { openRoutineStore, RoutineProvider, type RoutineStore, useRoutine, useUndo } from './routine-store'
import { Task, useTask } from './task'
import { useClass } from './use-class'
import { useLeave } from './use-leave'
import { useLog } from './use-log'
import { isExplained, usePrompt } from './use-prompt'
import { useView } from './view'

// As long as a busy machine takes: it waits for one second otherwise.
configure({ asyncUtilTimeout: 60_000 })

vi.mock('./outbox-window', async () => {
  const { windowOutbox } = await import('./outbox.test-tools')
  const { useStore } = await import('zustand')
  return {
    ...windowOutbox,
    useOutbox: (pick: (s: never) => unknown) => useStore(windowOutbox.outbox().state, pick as never),
  }
})

const AT_FIRST = { revision: 0, madeBy: { writer: '', save: 0 } }
let n = 0
const open = (routine: Routine = emptyRoutine('Song')): RoutineStore =>
  openRoutineStore(`hooks-${n++}`, routine, AT_FIRST)

const BEATS = Array.from({ length: 33 }, (_, i) => 1 + i / 2)
const hearingOf = (version: number): Hearing =>
  ({
    ...{
      version,
      duration: 20,
      beats: BEATS,
      phrases: [0, 8, 16, 24],
      bar: 4,
      sections: [],
      tempo: 120,
      steady: true,
    },
    ...{ segments: [], sure: { beats: [], ones: [] }, confidence: { beats: 1, one: 1 }, onsets: [] },
  }) as unknown as Hearing
/** One that can be read. */
const LISTENED = listen(
  Float32Array.from({ length: 22_050 }, (_, i) => Math.sin(i / 3)),
  22_050,
).hearing
const PEAKS = { frameRate: 100, levels: [{ rate: 100, shape: Uint8Array.of(1, 2) }], onset: Uint8Array.of(3) }
const stored = (version: number) => ({ hearing: hearingOf(version), peaks: base64Of(packPeaks(PEAKS)) })

const song = (heard: SongState['heard']): SongState => ({
  ...{ id: 's', hash: 'h', fileName: 'Song.wav', heard, hearAgain: null, hearingAgain: null },
  stopHearing: () => {},
})
const around =
  (store: RoutineStore, heard: SongState['heard'] = heardOf(stored(HEARING_VERSION))) =>
  ({ children }: { children: ReactNode }) => (
    <SongProvider value={song(heard)}>
      <RoutineProvider value={store}>{children}</RoutineProvider>
    </SongProvider>
  )

beforeEach(() => {
  newWindow()
  useView.setState({ mirrored: false, role: '', option: 'base' })
  vi.stubGlobal('fetch', async () => Response.json([]))
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('what is not kept yet', () => {
  it('is kept when its owner gives way to another, and when its field goes; not while it is written', () => {
    const kept: string[] = []
    const { rerender, unmount } = renderHook(
      ({ owner, text }) => useLeave(owner, () => kept.push(`${owner}: ${text}`)),
      { initialProps: { owner: 'a', text: '1' } },
    )
    rerender({ owner: 'a', text: '12' })
    expect(kept).toEqual([])
    rerender({ owner: 'b', text: '' })
    expect(kept).toEqual(['a: 12'])
    rerender({ owner: 'b', text: '3' })
    unmount()
    expect(kept).toEqual(['a: 12', 'b: 3'])
  })
})

describe('keys of a page', () => {
  const press = (key: string, target: EventTarget = document.body, init: KeyboardEventInit = {}) => {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...init })
    target.dispatchEvent(event)
    return event.defaultPrevented
  }
  const field = (html: string): HTMLElement => {
    document.body.innerHTML = html
    return document.body.querySelector('[data-here]') as HTMLElement
  }
  it('do what they stand for now, and are taken from the page', () => {
    const done: string[] = []
    const { rerender, unmount } = renderHook(({ say }) => useKeys({ a: () => done.push(say) }), {
      initialProps: { say: 'one' },
    })
    expect([press('a'), press('z')]).toEqual([true, false])
    rerender({ say: 'two' })
    press('a')
    expect(done).toEqual(['one', 'two'])
    unmount()
    expect(press('a')).toBe(false)
  })
  it.each([
    ['<input data-here>', 'a', false],
    ['<input type="checkbox" data-here>', 'a', true],
    ['<textarea data-here></textarea>', 'a', false],
    ['<div role="dialog"><p data-here></p></div>', 'a', false],
    ['<button data-here></button>', 'a', true],
    ['<button data-here></button>', ' ', false],
    ['<a data-here></a>', 'Enter', false],
    ['<div role="slider" data-here></div>', 'ArrowLeft', false],
    ['<div role="slider" data-here></div>', 'PageUp', false],
    ['<div role="slider" data-here></div>', 'Home', false],
    ['<div role="slider" data-here></div>', ' ', true],
    ['<p data-here></p>', 'ArrowLeft', true],
  ])('in %s the key %j is the page’s: %s', (html, key, ours) => {
    const told = vi.fn()
    renderHook(() =>
      useKeys({ a: told, Space: told, Enter: told, ArrowLeft: told, PageUp: told, Home: told }),
    )
    const here = field(html)
    press(key, here, { code: key === ' ' ? 'Space' : key })
    expect(told).toHaveBeenCalledTimes(ours ? 1 : 0)
  })
  it('leave alone what somebody else took', () => {
    const told = vi.fn()
    renderHook(() => useKeys({ a: told }))
    const here = field('<p data-here></p>')
    here.addEventListener('keydown', (e) => e.preventDefault())
    press('a', here)
    expect(told).not.toHaveBeenCalled()
  })
  it('that come first are nobody else’s, but with another key held, in a field, or where they mean nothing', () => {
    const [first, later] = [vi.fn((e: KeyboardEvent) => e.key === 'a'), vi.fn()]
    const { unmount } = renderHook(() => {
      useKeysFirst(first)
      useKeys({ a: later, b: later })
    })
    expect([press('a'), later.mock.calls.length]).toEqual([true, 0])
    expect([press('b'), later.mock.calls.length]).toEqual([true, 1])
    first.mockClear()
    for (const held of ['ctrlKey', 'metaKey', 'altKey']) press('a', document.body, { [held]: true })
    press('a', field('<input data-here>'))
    press('a', field('<div role="dialog"><p data-here></p></div>'))
    expect(first).not.toHaveBeenCalled()
    unmount()
    press('a')
    expect(first).not.toHaveBeenCalled()
  })
  it('are as late as they come, up to half a second', () => {
    vi.spyOn(performance, 'now').mockReturnValue(10_000)
    const since = [9800, 10_100, 5000].map((timeStamp) => sincePress({ timeStamp }))
    vi.restoreAllMocks()
    expect(since).toEqual([0.2, 0, 0.5])
  })
  it('of a pedal come first, once a press', () => {
    const [acts, others] = [vi.fn(), vi.fn()]
    usePedal.setState({ keys: {} })
    usePedal.getState().learn('clean', 'F8')
    usePedal.getState().learn('missed', 'F8')
    expect(usePedal.getState().keys).toEqual({ missed: 'F8' })
    renderHook(() => {
      usePedalKeys(acts)
      useKeys({ F8: others })
    })
    press('F8')
    press('F8', document.body, { repeat: true })
    press('F9')
    expect([acts.mock.calls, others.mock.calls.length]).toEqual([[['missed']], 0])
    usePedal.getState().forget()
    expect(usePedal.getState().keys).toEqual({})
  })
})

describe('the page of a routine', () => {
  it('has its beats as repaired, its phrases in their places, and says when it was renumbered', () => {
    const store = open(pageOf(4))
    const { result } = renderHook(() => usePage(), { wrapper: around(store) })
    expect(result.current.times).toHaveLength(33)
    expect(result.current).toMatchObject({ tempo: 120, duration: 20, renumbered: false })
    expect(result.current.placed.map((p) => p.start)).toEqual([0, 192, 384, 576])
    expect(result.current.lines).toHaveLength(4)
    const before = result.current
    act(() => void store.getState().edit('rename', (r) => ({ ...r, title: 'Other' })))
    expect(result.current).toBe(before)
    act(() => void store.getState().edit('add', (r) => ({ ...r, repairs: [{ kind: 'double' }] }) as never))
    expect(result.current.renumbered).toBe(true)
  })
  it('is empty before the song was heard, and stands on a song', () => {
    const { result } = renderHook(() => usePage(), { wrapper: around(open(), null) })
    expect(result.current).toMatchObject({ times: [], tempo: 0, duration: 0 })
    expect(() => renderHook(() => useSong())).toThrow('no song is open here')
    expect(() => renderHook(() => useRoutine((s) => s.did))).toThrow('no routine is open here')
    expect(() => renderHook(() => usePlayer())).toThrow('no player here')
  })
  it('has its cues for those who are shown, and says what is called', () => {
    const cues = cuesOf(['1 step R; 3 touch L', ''])
    const routine = {
      ...pageOf(
        4,
        cues.map((c, i) => (i ? { ...c, role: 'lead' } : c)),
      ),
      leadWords: 'ready go',
    }
    const store = open({ ...routine, called: 'words' } as Routine)
    const { result } = renderHook(
      () => {
        const page = usePage()
        return {
          shown: useShown(routine).map((c) => c.move),
          seen: useSeen(routine).map((c) => c.move),
          starts: useStarts(),
          dance: useDance(),
          calls: useCalls(page),
          callsFor: useCallsFor(page),
        }
      },
      { wrapper: around(store) },
    )
    expect(result.current.seen).toEqual(['step', 'touch'])
    act(() => useView.setState({ role: 'follow' }))
    expect([result.current.shown, result.current.starts]).toEqual([['step'], [0]])
    expect([...result.current.calls.words.values()].map((c) => c.word)).toEqual(['step R'])
    const none = result.current.callsFor({ calls: 'none' })
    expect(none).toMatchObject({ wordsOnly: true, leadWords: ['ready', 'go'] })
    expect(none.words.size).toBe(0)
    expect(result.current.callsFor({}).words.size).toBe(1)
    expect(result.current.callsFor({ calls: 'numbers' })).toMatchObject({
      leadWords: ['ready', 'go'],
      voices: [],
    })
    // What is not danced makes no other dance.
    const { dance } = result.current
    act(() => void store.getState().edit('gear', (r) => ({ ...r, gear: 'shoes' })))
    expect(result.current.dance).toBe(dance)
    act(() => void store.getState().edit('clear', (r) => ({ ...r, cues: [] })))
    expect(result.current.dance).not.toBe(dance)
  })
  it('says what undo and redo would do, and does it', () => {
    const store = open()
    const { result } = renderHook(() => useUndo(), { wrapper: around(store) })
    expect(result.current).toEqual({ undo: null, redo: null, undoName: '', redoName: '' })
    act(() => void store.getState().edit('rename', (r) => ({ ...r, title: 'one' })))
    expect(result.current).toMatchObject({ undoName: 'rename', redo: null, redoName: '' })
    act(() => result.current.undo?.())
    expect(store.getState().routine.title).toBe('Song')
    expect(result.current).toMatchObject({ undo: null, undoName: '', redoName: 'rename' })
    act(() => result.current.redo?.())
    expect(store.getState().routine.title).toBe('one')
  })
})

describe('a step that is explained', () => {
  const step = (what: object) =>
    ({ kind: 'show', stretch: { from: 0, to: 96 }, pass: 'all', version: '', ...what }) as never
  it('is read out as it is danced; its words are seen in the mirror', () => {
    const routine = pageOf(4, cuesOf(['1 step R; 3 touch L', '']))
    const { result } = renderHook(() => usePrompt(usePage(), routine, step({})), {
      wrapper: around(open(routine)),
    })
    expect(result.current?.lines.map((l) => l.at)).toEqual([0, 24, 48, 72])
    const words = () => JSON.stringify(result.current?.lines[0])
    expect(words()).toContain('step R')
    act(() => useView.setState({ mirrored: true }))
    expect(words()).toContain('step L')
  })
  it('is one that shows or breaks down, and has counts', () => {
    expect([step({}), step({ kind: 'break down' })].map(isExplained)).toEqual([true, true])
    expect([null, step({ kind: 'drill' }), step({ stretch: null })].map(isExplained)).toEqual([
      false,
      false,
      false,
    ])
    const { result } = renderHook(() => usePrompt(usePage(), pageOf(4), null), {
      wrapper: around(open(pageOf(4))),
    })
    expect(result.current).toBeNull()
  })
})

describe('a log', () => {
  it('is read on entering, on asking, and when what waited is saved; an older answer is passed over', async () => {
    const box = newWindow()
    const answers: ((rows: string[]) => void)[] = []
    const fetch = vi.fn(() => new Promise<string[]>((answer) => answers.push(answer)))
    const { result } = renderHook(() => useLog(fetch, 'r'))
    expect(result.current).toMatchObject({ rows: [], there: false, problem: '' })
    act(() => void result.current.read())
    await act(async () => answers[1]?.(['new']))
    expect(result.current).toMatchObject({ rows: ['new'], there: true })
    await act(async () => answers[0]?.(['old']))
    expect(result.current.rows).toEqual(['new'])
    act(() => box.state.setState({ waiting: 1 }))
    act(() => box.state.setState({ waiting: 0 }))
    expect(fetch.mock.calls.length).toBeGreaterThan(2)
    expect(fetch).toHaveBeenLastCalledWith('r')
  })
  it('that edits are none of is read once all that waited is saved, and then neither read nor drawn for a save', async () => {
    const box = newWindow()
    box.state.setState({ waiting: 1 })
    const fetch = vi.fn(async () => ['row'])
    let drawn = 0
    renderHook(() => {
      drawn++
      return useLog(fetch, 'r', true)
    })
    await waitFor(() => expect(fetch).toHaveBeenCalledTimes(1))
    await act(async () => box.state.setState({ waiting: 0 }))
    expect(fetch).toHaveBeenCalledTimes(2)
    const before = drawn
    for (const waiting of [1, 0, 2, 0]) await act(async () => box.state.setState({ waiting }))
    expect([fetch.mock.calls.length, drawn]).toEqual([2, before])
  })
  it('says why it cannot be read, and no more once it can', async () => {
    let fails = true
    const fetch = () => (fails ? Promise.reject(new Error('No log')) : Promise.resolve(['row']))
    const { result } = renderHook(() => useLog(fetch, 'r'))
    await waitFor(() => expect(result.current.problem).toBe('No log.'))
    expect(result.current.there).toBe(false)
    fails = false
    await act(() => result.current.read())
    expect(result.current).toMatchObject({ rows: ['row'], problem: '' })
  })
  it('of a class has its rows alone, and every class by name', async () => {
    const row = (id: string, group: string, mark = 'clean') => ({
      ...{ id, doneAt: Number(id), kind: 'drill', from: 1, to: 5, label: 'x', pass: 'all', speed: 1 },
      ...{ sound: 'both', seconds: 4, mark, looped: false, slips: [], corrects: null, group },
    })
    const rows = [row('1', 'A'), row('2', 'A'), row('3', 'B', 'missed'), row('4', '')]
    vi.stubGlobal('fetch', async () => Response.json(rows))
    const { result, rerender } = renderHook(({ group }) => useClass('r', usePage(), group), {
      wrapper: around(open(pageOf(4))),
      initialProps: { group: 'A' },
    })
    await waitFor(() => expect(result.current.there).toBe(true))
    expect(result.current.groups).toEqual(['A', 'B'])
    expect(result.current.rows.map((r) => r.row.doneAt)).toEqual([1, 2])
    expect(result.current.ready({ from: 0, to: 192 })).toBe(1)
    rerender({ group: 'B' })
    expect(result.current.ready({ from: 0, to: 192 })).toBe(0)
    rerender({ group: '' })
    expect(result.current.rows).toHaveLength(4)
  })
})

describe('routines that are open in a window', () => {
  const at = (revision: number) => ({ ...AT_FIRST, revision })
  it('are the same until the server has something newer, or they may not be changed any more', () => {
    const first = openRoutineStore('kept', emptyRoutine('Song'), at(3))
    expect(openRoutineStore('kept', emptyRoutine('Older'), at(2))).toBe(first)
    expect(openRoutineStore('kept', emptyRoutine('Same'), at(3))).toBe(first)
    expect(openRoutineStore('kept', emptyRoutine('Closed'), at(3), 'shared')).not.toBe(first)
    const later = openRoutineStore('kept', emptyRoutine('Newer'), at(4))
    expect(later.getState().routine.title).toBe('Newer')
    expect(later).not.toBe(first)
  })
  it('are six at most beside the one that is shown; of those that are saved, the one opened longest ago goes', async () => {
    // A window of its own: others above opened routines as well.
    vi.resetModules()
    const anew = await import('./routine-store')
    const opened = (id: string) => anew.openRoutineStore(`many-${id}`, emptyRoutine(id), AT_FIRST)
    const first = opened('first')
    const busy = opened('busy')
    busy.getState().edit('rename', (r) => ({ ...r, title: 'not saved' }))
    for (const id of ['1', '2', '3', '4', '5']) opened(id)
    expect([opened('first') === first, opened('busy') === busy]).toEqual([true, true])
    for (const id of ['6', '7', '8', '9', '10', '11']) opened(id)
    expect([opened('busy') === busy, opened('first') === first]).toEqual([true, false])
  })
  it('keep what undo knows when the page goes', () => {
    const store = open()
    store.getState().edit('rename', (r) => ({ ...r, title: 'Renamed' }))
    window.dispatchEvent(new Event('pagehide'))
    expect(sessionStorage.getItem(`azalea-past ${store.getState().id}`)).toContain('rename')
  })
})

describe('calls in one’s own voice', () => {
  it('sound where the routine or the drill asks for them, seen as the view is', () => {
    const voice = {
      ...{ id: 'v', stretch: { from: 0, to: 192 }, recording: 'rec-0001', exact: false },
      pieces: [{ at: 0, from: 0, stress: 0.1, to: 0.4 }],
    }
    const routine = { ...pageOf(4, cuesOf(['1 step R'])), voices: [voice] }
    const calls = (called: 'own' | 'words') => {
      const store = open({ ...routine, called })
      const hook = () => {
        const page = usePage()
        return { calls: useCalls(page), callsFor: useCallsFor(page) }
      }
      return renderHook(hook, { wrapper: around(store) }).result
    }
    const own = calls('own')
    expect(own.current.calls.voices).toMatchObject([{ recording: 'rec-0001', stretch: voice.stretch }])
    expect(own.current.callsFor({}).voices).toHaveLength(1)
    const words = calls('words')
    expect(words.current.calls.voices).toEqual([])
    expect(words.current.callsFor({}).voices).toEqual([])
    expect(words.current.callsFor({ calls: 'own' }).voices).toHaveLength(1)
    const word = () => [...words.current.calls.words.values()].map((c) => c.word)
    expect(word()).toEqual(['step R'])
    act(() => useView.setState({ mirrored: true }))
    expect(word()).toEqual(['step L'])
  })
})

describe('a task of a part of the page', () => {
  it('is the same from drawing to drawing, and shows how far it is', async () => {
    const { result } = renderHook(() => useTask())
    const { task } = result.current
    expect(task).toBeInstanceOf(Task)
    let end = (_: string) => {}
    act(() => {
      task.begin('Making', (tell) => {
        tell(0.5)
        return new Promise((done) => {
          end = done
        })
      })
    })
    expect(result.current.state).toEqual({ kind: 'making', what: 'Making', share: 0.5 })
    await act(async () => end('Made'))
    expect([result.current.task, result.current.state]).toEqual([task, { kind: 'done', told: 'Made' }])
  })
})

describe('hearing the open song', () => {
  const audio = { sampleRate: 8000, numberOfChannels: 1, length: 4, copyFromChannel: () => {} }
  const hooked = (store: RoutineStore, version: number | null, served = false) => {
    const player = new Player('/song')
    vi.spyOn(player, 'audio').mockResolvedValue(audio as never)
    const first = version === null ? null : stored(version)
    return {
      player,
      ...renderHook(() => useHearing({ id: 's', own: true, served }, store, player, first), {
        wrapper: ({ children }) => <PlayerProvider value={player}>{children}</PlayerProvider>,
      }),
    }
  }
  beforeEach(() => {
    FakeWorker.all = []
    vi.stubGlobal('Worker', FakeWorker)
  })
  it('lays a page out as it was heard, once; what was stored is not heard again', () => {
    const store = open()
    const { result } = hooked(store, HEARING_VERSION)
    expect(store.getState().routine.phrases.map((p) => p.length)).toEqual([8, 8, 8, 8, 1])
    expect(result.current).toMatchObject({ hearAgain: null, hearingAgain: null, listening: { kind: 'idle' } })
    expect(result.current.heard?.hearing.version).toBe(HEARING_VERSION)
    const laid = open(pageOf(2))
    hooked(laid, HEARING_VERSION)
    expect(laid.getState().routine.phrases).toHaveLength(2)
  })
  it('hears for the first time, says how far it is, and can be stopped', async () => {
    const store = open()
    const { result } = hooked(store, null)
    expect(result.current.heard).toBeNull()
    act(() => void result.current.listen())
    await waitFor(() => expect(FakeWorker.all).toHaveLength(1))
    expect(result.current.listening).toMatchObject({ what: 'Listening for the beat', share: 0 })
    act(() => result.current.stopListening())
    expect(result.current.listening.kind).toBe('stopped')
    act(() => void result.current.listen())
    await waitFor(() => expect(FakeWorker.all).toHaveLength(2))
    act(() => FakeWorker.last.answers({ kind: 'progress', share: 0.5 }))
    expect(result.current.listening).toMatchObject({ share: 0.5 })
    act(() => FakeWorker.last.answers({ kind: 'failed', message: 'No sound in it.' }))
    await waitFor(() => expect(result.current.listening).toEqual({ kind: 'failed', why: 'No sound in it.' }))
  })
  it('stands on what another window kept first; where the server does not answer, on its own', async () => {
    const heard = (bpm: number) => ({ ...LISTENED, tempo: bpm })
    const answers = async (kept: unknown) => {
      const asked: string[] = []
      vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
        asked.push(`${init?.method ?? 'GET'} ${url}`)
        if (kept === null) throw new TypeError('no answer')
        return Response.json(kept)
      })
      const { result } = hooked(open(), null)
      FakeWorker.all = []
      act(() => void result.current.listen())
      await waitFor(() => expect(FakeWorker.all).toHaveLength(1))
      act(() => FakeWorker.last.answers({ kind: 'heard', hearing: heard(120), peaks: PEAKS }))
      await waitFor(() => expect(result.current.heard).not.toBeNull())
      return [result.current.heard?.hearing.tempo, asked]
    }
    const another = { hearing: heard(119), peaks: stored(HEARING_VERSION).peaks }
    expect(await answers({ heard: another })).toEqual([119, ['GET /api/songs/s/hearing']])
    const older = { ...another, hearing: { ...another.hearing, version: HEARING_VERSION - 1 } }
    for (const kept of [{ heard: older }, { heard: null }, null]) expect((await answers(kept))[0]).toBe(120)
  })
  it('has a school’s server hear it on a phone; what that cannot, and what is said so, the device does', async () => {
    const asked: string[] = []
    let answer: object = { state: { kind: 'done' }, heard: stored(HEARING_VERSION) }
    vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
      if (url.endsWith('/hear')) asked.push(init?.method ?? 'GET')
      return Response.json(url.endsWith('/hear') ? answer : [])
    })
    vi.stubGlobal('matchMedia', () => ({ matches: true }))
    const store = open()
    const first = hooked(store, null, true)
    await act(() => first.result.current.listen())
    expect(asked).toEqual(['POST'])
    expect(FakeWorker.all).toHaveLength(0)
    expect(store.getState().routine.phrases).toHaveLength(5)
    answer = { state: { kind: 'failed', why: 'Not of this kind.' }, heard: null }
    const second = hooked(open(), null, true)
    act(() => void second.result.current.listen())
    await waitFor(() => expect(FakeWorker.all).toHaveLength(1))
    expect(second.result.current.hearer).toMatchObject({ now: 'device', why: 'Not of this kind.' })
    // By hand the server again, which waits now; then this device.
    answer = { state: { kind: 'waiting', before: 3 }, heard: null }
    act(() => void second.result.current.hearer?.change())
    await waitFor(() =>
      expect(second.result.current.listening).toMatchObject({
        what: 'The server listens soon: 3 before this one',
      }),
    )
    act(() => void second.result.current.hearer?.change())
    await waitFor(() => expect(FakeWorker.all).toHaveLength(2))
    expect(asked.at(-1)).toBe('DELETE')
    // Leaving the page takes nothing back.
    act(() => void second.result.current.hearer?.change())
    await waitFor(() => expect(asked.at(-1)).toBe('POST'))
    act(() => second.result.current.leave())
    expect(asked.at(-1)).toBe('POST')
  })
  it('hears again what an older version heard, and tells the player where it cannot', async () => {
    const { result, player } = hooked(open(), HEARING_VERSION - 1)
    expect(result.current.hearAgain).not.toBeNull()
    act(() => void result.current.hearAgain?.())
    await waitFor(() => expect(FakeWorker.all).toHaveLength(1))
    expect(result.current.hearingAgain).toBe(0)
    act(() => FakeWorker.last.answers({ kind: 'failed', message: 'Broken.' }))
    await waitFor(() => expect(player.state.getState().problem).toBe('Broken.'))
    expect(result.current.hearingAgain).toBeNull()
    act(() => void result.current.hearAgain?.())
    await waitFor(() => expect(FakeWorker.all).toHaveLength(2))
    act(() => result.current.stopHearing())
    expect(result.current.hearingAgain).toBeNull()
  })
  it('shows what the page stands on: heard again, the new; once that is undone, the old', async () => {
    const store = open()
    const { result } = hooked(store, HEARING_VERSION - 1)
    const version = () => result.current.heard?.hearing.version
    act(() => void result.current.hearAgain?.())
    await waitFor(() => expect(FakeWorker.all).toHaveLength(1))
    const now = { ...hearingOf(HEARING_VERSION), beats: BEATS.map((t) => t + 0.01) }
    act(() => FakeWorker.last.answers({ kind: 'heard', hearing: now, peaks: PEAKS }))
    await waitFor(() => expect(version()).toBe(HEARING_VERSION))
    expect([result.current.hearAgain, store.getState().routine.heardWith]).toEqual([null, HEARING_VERSION])
    act(() => store.temporal.getState().undo())
    expect(version()).toBe(HEARING_VERSION - 1)
    act(() => store.temporal.getState().redo())
    expect(version()).toBe(HEARING_VERSION)
  })
  it('is read from the player’s own state', () => {
    const player = new Player('/song')
    const { result } = renderHook(() => usePlayerState((s) => s.speed), {
      wrapper: ({ children }) => <PlayerProvider value={player}>{children}</PlayerProvider>,
    })
    act(() => player.setSpeed(0.6))
    expect([result.current, player]).toEqual([0.6, player])
  })
})
