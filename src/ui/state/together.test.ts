/* Two teachers at one routine, each in a window of their own, on one server. */

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { DANCE_EDITS, dice, start } from '@/core/edits.test-tools'
import { type Clash, type Cue, commit, type Edit, putCue, type Routine, removeCue } from '@/core/routine'
import { ApiError } from './ask-server'
import { DocumentSaves } from './document-saves'
import type { Entry } from './entry'
import { Outbox } from './outbox'
import { memoryKeeping } from './outbox.test-tools'
import { sendEntry } from './outbox-send'
import { savedRoutine } from './routine-saves'
import { KeptDocument } from './save-server.test-tools'

const ID = 'the-one-routine'
/** Of the longest test: more are tried by hand (docs/architecture.md). */
const ROUNDS = Number(process.env.AZALEA_ROUNDS ?? 12)
const BASE = start()

/** One server, which loses an answer now and then. */
function server() {
  const kept = new KeptDocument<Routine>(JSON.parse(JSON.stringify(BASE)))
  const state = { kept, loses: 0, asked: 0, away: false, silent: false, network: async () => {} }
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    if (state.away || state.silent) throw new TypeError('no network')
    const { routine, ...save } = JSON.parse(String(init.body))
    const answer = kept.save(save, routine)
    if (state.loses && ++state.asked % state.loses === 0) throw new TypeError('no answer')
    return answer
  })
  return state
}

let windows = 0
/** An outbox that can be closed with all it had in mind: no answer reaches it any more. */
function closable(keeping = memoryKeeping()) {
  const now = { closed: false }
  const never = new Promise<never>(() => {})
  const send = async (e: Entry) => {
    if (now.closed) return never
    const done = await sendEntry(e).catch((why: unknown) => {
      if (now.closed) return never
      throw why
    })
    return now.closed ? never : done
  }
  return { now, box: new Outbox(send, keeping, `window-${windows++}`) }
}

/** A window in which somebody works. @param keeping what outlives it */
function teacher(state: ReturnType<typeof server>, keeping = memoryKeeping()) {
  const { kept } = state
  const { now, box } = closable(keeping)
  const here = { routine: kept.content, past: [] as Routine[], clashes: [] as readonly Clash[] }
  const saves = new DocumentSaves(
    {
      ...savedRoutine(ID),
      put: (saving, routine, base) =>
        box.put({
          ...{ id: `${saving.writer} ${saving.save}`, document: `routine ${ID}`, what: 'the routine' },
          ...{ method: 'PUT', url: `/api/routines/${ID}`, body: JSON.stringify({ routine }), saving },
          ...(base === undefined ? {} : { base }),
        }),
      newer: async (revision) => {
        await state.network()
        if (state.away) throw new TypeError('no network')
        const body = JSON.stringify({ routine: kept.content })
        return kept.revision > revision ? { revision: kept.revision, writer: kept.madeBy.writer, body } : null
      },
    },
    kept.page,
    {
      content: () => here.routine,
      pending: () => {},
      show: (routine) => {
        here.routine = routine
      },
      together: (routine, _, carry, own) => {
        here.routine = routine
        here.past = [...here.past.flatMap((p) => carry(p) ?? []), ...(own ? [own] : [])]
      },
      clashes: (list) => {
        here.clashes = list
      },
      closed: false,
    },
    { box: () => box, ready: async () => box },
  )
  const edit = (change: Edit): boolean => {
    const next = commit(here.routine, change)
    if (!next.done || next.routine === here.routine) return false
    here.past.push(here.routine)
    here.routine = next.routine
    saves.changed()
    return true
  }
  /** The page is loaded anew: what was not saved waits in what it kept. */
  const close = () => {
    now.closed = true
    saves.close()
  }
  const reload = async () => {
    close()
    const next = teacher(state, keeping)
    await next.box.adopt(() => true)
    await next.saves.resume(state.kept.page)
    return next
  }
  return { here, saves, edit, box, keeping, close, reload }
}

const cue = (id: string, at: number): Cue => ({
  ...{ id, at, length: 12, layer: 'arms', move: id, side: 'none', call: '' },
})
const put = (id: string, at: number) => (r: Routine) => putCue(r, cue(id, at))
const quiet = () => vi.runAllTimersAsync()

beforeEach(() => vi.useFakeTimers())
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

async function two(loses = 0) {
  const s = server()
  s.loses = loses
  const [a, b] = [teacher(s), teacher(s)]
  await a.saves.resume(s.kept.page)
  await b.saves.resume(s.kept.page)
  return { s, a, b }
}
const moves = (r: Routine) =>
  r.cues
    .map((c) => c.id)
    .filter((id) => /^[ab]\d/.test(id))
    .sort()

describe('two at one routine', () => {
  it('who saves second has what the first did too, and is not asked', async () => {
    const { s, a, b } = await two()
    a.edit(put('a1', 960))
    await quiet()
    b.edit(put('b1', 1200))
    await quiet()
    expect(moves(s.kept.content)).toEqual(['a1', 'b1'])
    expect(b.here.routine).toEqual(s.kept.content)
    expect(b.box.state.getState()).toMatchObject({ waiting: 0, conflicts: new Map() })
    await a.saves.look()
    expect(a.here.routine).toEqual(s.kept.content)
  })
  it('what the other did and then took back is not taken for one’s own, and does not come again', async () => {
    const { s, a, b } = await two()
    a.edit(put('a1', 960))
    await quiet()
    await b.saves.look()
    expect(moves(b.here.routine)).toEqual(['a1'])
    a.edit((r) => removeCue(r, 'a1', () => 'new'))
    await quiet()
    await b.saves.look()
    expect(moves(b.here.routine)).toEqual([])
    b.edit(put('b1', 1200))
    await quiet()
    expect(moves(s.kept.content)).toEqual(['b1'])
  })
  it('who only looks at what the other did saves nothing, however often both look', async () => {
    const { s, a, b } = await two()
    a.edit(put('a1', 960))
    await quiet()
    b.edit(put('b1', 1200))
    await quiet()
    const { revision } = s.kept
    for (const x of [a, b, a, b]) {
      await x.saves.look()
      await quiet()
      expect([s.kept.revision, x.saves.busy]).toEqual([revision, false])
      expect(x.here.routine).toEqual(s.kept.content)
    }
  })
  it('what goes on its way while it is asked what the other did is no conflict nobody can end', async () => {
    const { s, a, b } = await two()
    a.edit(put('a1', 960))
    await quiet()
    let answer = () => {}
    s.network = () => new Promise<void>((go) => (answer = go))
    const looking = b.saves.look()
    // While the question is on its way somebody goes on working, and that is sent on what was known.
    b.edit(put('b1', 1200))
    s.network = async () => {}
    answer()
    await looking
    await quiet()
    expect(moves(s.kept.content)).toEqual(['a1', 'b1'])
    expect(b.box.state.getState()).toMatchObject({ waiting: 0, conflicts: new Map() })
  })
  it('undo takes back what was done here alone, and nothing of what the other did', async () => {
    const { s, a, b } = await two()
    b.edit(put('b1', 1200))
    b.edit(put('b2', 1300))
    a.edit(put('a1', 960))
    await quiet()
    expect(moves(s.kept.content)).toEqual(['a1', 'b1', 'b2'])
    const second = a.here.clashes.length === 0 && b.here.past.length === 2 ? b : a
    await second.saves.look()
    const before = second.here.past.at(-1) as Routine
    expect(moves(before)).toEqual(second === b ? ['a1', 'b1'] : ['b1', 'b2'])
  })
  it('both touched the same: it waits, says what, and goes as the person says', async () => {
    for (const follow of ['mine', 'theirs'] as const) {
      const { s, a, b } = await two()
      a.edit(put('a1', 960))
      await quiet()
      b.edit(put('b1', 966))
      b.edit(put('b2', 1200))
      await quiet()
      expect(moves(s.kept.content)).toEqual(['a1'])
      expect(b.here.clashes).toMatchObject([{ field: 'cues', mine: 'b1', theirs: 'a1' }])
      await b.saves.bringTogether(follow)
      await quiet()
      expect(b.saves.busy).toBe(false)
      expect(moves(s.kept.content)).toEqual(follow === 'mine' ? ['b1', 'b2'] : ['a1', 'b2'])
      expect([b.here.clashes, b.box.state.getState().conflicts.size]).toEqual([[], 0])
    }
  })
  describe('a page that is loaded anew before it was saved, while the other saved', () => {
    /** B's edits wait while A saves. */
    async function loadedAnew(...edits: Edit[]) {
      const { s, a, b } = await two()
      s.away = true
      for (const edit of edits) {
        b.edit(edit)
        await vi.advanceTimersByTimeAsync(10)
      }
      s.away = false
      a.edit(put('a1', 960))
      await vi.advanceTimersByTimeAsync(10)
      expect(moves(s.kept.content)).toEqual(['a1'])
      const again = await b.reload()
      await quiet()
      return { s, a, b: again }
    }
    it('has both, asks nothing, and goes on from there', async () => {
      const { s, b } = await loadedAnew(put('b1', 1200), put('b2', 1300))
      expect(b.here.clashes).toEqual([])
      expect(moves(s.kept.content)).toEqual(['a1', 'b1', 'b2'])
      expect(b.here.routine).toEqual(s.kept.content)
      expect(b.box.state.getState()).toMatchObject({ waiting: 0, conflicts: new Map() })
      b.edit(put('b3', 1400))
      await quiet()
      expect(moves(s.kept.content)).toEqual(['a1', 'b1', 'b2', 'b3'])
    })
    it('is asked where both touched the same, once, and not of the rest', async () => {
      const { s, b } = await loadedAnew(put('b1', 966), put('b2', 1300))
      expect(b.here.clashes).toMatchObject([{ field: 'cues', mine: 'b1', theirs: 'a1' }])
      await b.saves.bringTogether('mine')
      await quiet()
      expect(moves(s.kept.content)).toEqual(['b1', 'b2'])
      expect([b.here.clashes, b.saves.busy, b.box.state.getState().waiting]).toEqual([[], false, 0])
    })
    it('has both where its save had arrived and only the answer was lost', async () => {
      const { s, a, b } = await two()
      s.loses = 1
      b.edit(put('b1', 1200))
      await vi.advanceTimersByTimeAsync(10)
      s.loses = 0
      await a.saves.look()
      a.edit(put('a1', 960))
      await vi.advanceTimersByTimeAsync(10)
      const again = await b.reload()
      await quiet()
      expect(moves(s.kept.content)).toEqual(['a1', 'b1'])
      expect(again.here.routine).toEqual(s.kept.content)
      expect([again.here.clashes, again.saves.revision]).toEqual([[], s.kept.revision])
      again.edit((r) => removeCue(r, 'a1', () => 'new'))
      await quiet()
      expect(moves(s.kept.content)).toEqual(['b1'])
    })
    it('has both where what was left came back before this page was opened, and where nobody answers at first', async () => {
      const { s, a, b } = await two()
      s.away = true
      b.edit(put('b1', 1200))
      await vi.advanceTimersByTimeAsync(10)
      b.close()
      s.away = false
      a.edit(put('a1', 960))
      await vi.advanceTimersByTimeAsync(10)
      // The shelf, say: its window sends what was left, and no page shows the dance.
      const next = teacher(s, b.keeping)
      await next.box.adopt(() => true)
      await vi.advanceTimersByTimeAsync(10)
      expect(next.box.state.getState().conflicts.size).toBe(1)
      let asked = 0
      s.network = () => {
        asked++
        return Promise.reject(new ApiError('No network.', 'offline'))
      }
      await next.saves.resume(s.kept.page)
      await vi.advanceTimersByTimeAsync(4500)
      expect(asked).toBe(3)
      expect(moves(s.kept.content)).toEqual(['a1'])
      s.network = async () => {}
      await quiet()
      expect(moves(s.kept.content)).toEqual(['a1', 'b1'])
      expect([next.box.state.getState().waiting, next.here.clashes]).toEqual([0, []])
    })
    it('does not ask again and again for what is not there any more', async () => {
      const { s, a, b } = await two()
      a.edit(put('a1', 960))
      await quiet()
      let asked = 0
      s.network = () => {
        asked++
        return Promise.reject(new ApiError('It is not here.', 'missing'))
      }
      b.edit(put('b1', 1200))
      await vi.advanceTimersByTimeAsync(60_000)
      expect(asked).toBe(1)
      expect(b.box.state.getState()).toMatchObject({ waiting: 1 })
      b.close()
    })
    it('does not do again what was saved and then taken away there, however its save was answered', async () => {
      for (const how of ['answered', 'lost'] as const) {
        const { s, a, b } = await two()
        s.loses = how === 'lost' ? 1 : 0
        b.edit(put('b1', 1200))
        b.edit(put('b2', 1300))
        await vi.advanceTimersByTimeAsync(0)
        s.silent = true
        s.loses = 0
        await vi.advanceTimersByTimeAsync(10)
        expect(moves(s.kept.content)).toContain('b1')
        // A page that knows by which save it was made, and can save nothing.
        const between = await b.reload()
        await vi.advanceTimersByTimeAsync(10)
        s.silent = false
        await a.saves.look()
        a.edit((r) => removeCue(r, 'b1', () => 'new'))
        await vi.advanceTimersByTimeAsync(10)
        expect(moves(s.kept.content)).not.toContain('b1')
        const again = await between.reload()
        await quiet()
        expect([how, moves(s.kept.content)]).toEqual([how, ['b2']])
        expect(again.here.routine).toEqual(s.kept.content)
      }
    })
    it('keeps what another window left while it only looks at what was saved', async () => {
      const { s, a, b } = await two()
      const keeping = memoryKeeping()
      for (const [own, theirs] of [
        ['b1', 'a1'],
        ['b2', 'a2'],
      ] as const) {
        const window = teacher(s, keeping)
        await window.saves.resume(s.kept.page)
        s.away = true
        window.edit(put(own, own === 'b1' ? 1200 : 1300))
        await vi.advanceTimersByTimeAsync(10)
        window.close()
        s.away = false
        await a.saves.look()
        a.edit(put(theirs, own === 'b1' ? 960 : 1000))
        await vi.advanceTimersByTimeAsync(10)
      }
      const next = teacher(s, keeping)
      s.silent = true
      await next.box.adopt(() => true)
      await next.saves.resume(s.kept.page)
      await next.saves.look()
      expect(moves(next.here.routine)).toEqual(['a1', 'a2', 'b1'])
      s.silent = false
      await quiet()
      expect(moves(s.kept.content)).toEqual(['a1', 'a2', 'b1', 'b2'])
      await b.saves.look()
      expect(b.here.routine).toEqual(next.here.routine)
    })
    it('has what several windows left, each on a state of its own; what clashes waits on its own', async () => {
      const { s, a } = await two()
      const keeping = memoryKeeping()
      const left = async (...edits: Edit[]) => {
        const window = teacher(s, keeping)
        await window.saves.resume(s.kept.page)
        s.away = true
        for (const edit of edits) window.edit(edit)
        await vi.advanceTimersByTimeAsync(10)
        window.close()
        s.away = false
      }
      const saved = async (edit: Edit) => {
        await a.saves.look()
        a.edit(edit)
        await vi.advanceTimersByTimeAsync(10)
      }
      await left(put('b1', 1200))
      await saved(put('a1', 960))
      await left(put('b2', 1300))
      await saved(put('a2', 1000))
      await left(put('b3', 1004), put('b4', 1400))
      await saved(put('a3', 1010))
      const b = teacher(s, keeping)
      await b.box.adopt(() => true)
      await b.saves.resume(s.kept.page)
      await quiet()
      // Nothing of the dance is sent until the person chose, and nothing is lost.
      expect(moves(b.here.routine)).toEqual(['a1', 'a2', 'a3', 'b1', 'b2'])
      const own = [...keeping.entries.values()].some(
        (e) => e.body.includes('"b1"') && e.body.includes('"b2"'),
      )
      expect(own).toBe(true)
      const [conflict] = b.box.state.getState().conflicts.values()
      const kept = b.box.newestOf(`routine ${ID}`, conflict?.writer ?? '')?.body ?? ''
      expect(b.here.clashes).toMatchObject([{ field: 'cues', mine: 'b3', theirs: 'a3' }])
      expect([kept.includes('"b4"'), b.box.state.getState().waiting]).toEqual([true, 3])
      b.edit(put('b5', 1500))
      b.box.giveUp(`routine ${ID}`)
      await quiet()
      expect(moves(s.kept.content)).toEqual(['a1', 'a2', 'a3', 'b1', 'b2', 'b5'])
      expect([b.here.routine, b.here.clashes]).toEqual([s.kept.content, []])
    })
    it('over and over: what it stands on is known after each time', async () => {
      const { s, a, b } = await two()
      let now = b
      for (let i = 0; i < 5; i++) {
        s.away = true
        now.edit(put(`b${i}`, 1200 + 24 * i))
        await vi.advanceTimersByTimeAsync(10)
        now = await now.reload()
        now.edit(put(`b${i}x`, 1500 + 24 * i))
        await vi.advanceTimersByTimeAsync(10)
        s.away = false
        a.edit(put(`a${i}`, 2000 + 24 * i))
        await vi.advanceTimersByTimeAsync(10)
        now = await now.reload()
        await quiet()
        await a.saves.look()
        expect(now.here.clashes).toEqual([])
        expect(moves(s.kept.content)).toHaveLength(3 * (i + 1))
      }
      expect(now.here.routine).toEqual(s.kept.content)
    })
  })
  it('for as long as one likes, with random edits, answers that are lost and pages that are loaded anew: nothing is lost, nothing doubled', async () => {
    const names = Object.keys(DANCE_EDITS) as (keyof typeof DANCE_EDITS)[]
    let [done, asked, kept, loads, left] = [0, 0, 0, 0, 0]
    for (let round = 0; round < ROUNDS; round++) {
      const { s, ...both } = await two(round % 3 === 0 ? 0 : 7)
      let { a, b } = both
      const d = dice(
        Array.from({ length: 211 }, (_, i) => (i * 7919 + round * 104729) % 1009),
        `r${round}`,
      )
      const written = new Set<string>()
      for (let step = 0; step < 40; step++) {
        const [who, side] = d.below(2) ? ([a, 'a'] as const) : ([b, 'b'] as const)
        // Each writes on counts of their own; now and then anything anywhere.
        const at = (side === 'a' ? 2000 : 2012) + 24 * step
        const id = `${side}${step}`
        const before = moves(who.here.routine)
        if (d.below(4)) {
          if (who.edit(put(id, at))) written.add(id)
        } else {
          const name = names[d.below(names.length)] as keyof typeof DANCE_EDITS
          if (who.edit(DANCE_EDITS[name](d) as Edit)) done++
          // What such an edit took away is meant to be gone.
          const after = moves(who.here.routine)
          for (const gone of before.filter((x) => !after.includes(x))) written.delete(gone)
        }
        if (d.below(3) === 0) await vi.advanceTimersByTimeAsync(d.below(1500))
        if (d.below(6) === 0) await who.saves.look()
        // Loaded anew, with what waits and with what is on its way.
        if (round % 2 && d.below(5) === 0) {
          if (side === 'a') a = await a.reload()
          else b = await b.reload()
          loads++
        }
      }
      const askedBefore = asked
      for (let again = 0; again < 6; again++) {
        await quiet()
        for (const x of [a, b]) {
          if (x.here.clashes.length) asked++
          if (x.here.clashes.length) await x.saves.bringTogether('mine')
          // Of more windows than one that were closed: what clashes waits for the person, who lets it go.
          else if (x.box.state.getState().conflicts.size) {
            asked++
            left++
            x.box.giveUp(`routine ${ID}`)
          }
        }
      }
      await quiet()
      for (const x of [a, b]) await x.saves.look()
      await quiet()
      for (const x of [a, b]) await x.saves.look()
      expect(a.here.routine).toEqual(s.kept.content)
      expect(b.here.routine).toEqual(s.kept.content)
      const ids = s.kept.content.cues.map((c) => c.id)
      if (asked === askedBefore) kept += [...written].filter((id) => ids.includes(id)).length
      if (asked === askedBefore) expect([...written].filter((id) => !ids.includes(id))).toEqual([])
      expect(new Set(ids).size).toBe(ids.length)
    }
    expect(done).toBeGreaterThan(50)
    expect(loads).toBeGreaterThan(20)
    expect(left).toBeLessThan(ROUNDS / 3)
    expect(asked).toBeLessThan(3.5 * ROUNDS)
    expect(kept).toBeGreaterThan(100)
  }, 600_000)
})
