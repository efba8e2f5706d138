/* Two teachers at one routine, each in a window of their own, on one server. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { DANCE_EDITS, dice, start } from '@/core/edits.test-tools'
import {
  type Clash,
  type Cue,
  commit,
  type Edit,
  mergeRoutines,
  putCue,
  type Routine,
  removeCue,
} from '@/core/routine'
import { memoryKeeping, newWindow } from './outbox.test-tools'
import { RoutineSaves } from './routine-saves'
import { KeptDocument } from './save-server.test-tools'

const ID = 'the-one-routine'
const BASE = start()

/** One server, which loses an answer now and then. */
function server() {
  const kept = new KeptDocument<Routine>(JSON.parse(JSON.stringify(BASE)))
  const state = { kept, loses: 0, asked: 0, network: async () => {} }
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    const { routine, ...save } = JSON.parse(String(init.body))
    const answer = kept.save(save, routine)
    if (state.loses && ++state.asked % state.loses === 0) throw new TypeError('no answer')
    return answer
  })
  return state
}

/** A window in which somebody works. */
function teacher(state: ReturnType<typeof server>) {
  const { kept } = state
  const box = newWindow(memoryKeeping())
  const here = { routine: kept.content, past: [] as Routine[], clashes: [] as readonly Clash[] }
  const saves = new RoutineSaves(
    ID,
    kept.page,
    {
      routine: () => here.routine,
      pending: () => {},
      show: (routine) => {
        here.routine = routine
      },
      together: ({ routine }, carry) => {
        here.routine = routine
        here.past = here.past.flatMap((p) => carry(p) ?? [])
      },
      clashes: (list) => {
        here.clashes = list
      },
      closed: false,
    },
    {
      box: () => box,
      ready: async () => box,
      put: (id, saving, routine) =>
        box.put({
          ...{
            id: `${saving.writer} ${saving.save}`,
            document: `routine ${id}`,
            what: 'the routine',
            method: 'PUT',
          },
          ...{ url: `/api/routines/${id}`, body: JSON.stringify({ routine }), saving },
        }),
      newer: async (_, revision) => {
        await state.network()
        return kept.revision > revision
          ? {
              revision: kept.revision,
              writer: kept.madeBy.writer,
              routine: JSON.parse(JSON.stringify(kept.content)),
            }
          : null
      },
      merge: mergeRoutines,
    },
  )
  const edit = (change: Edit): boolean => {
    const next = commit(here.routine, change)
    if (!next.done || next.routine === here.routine) return false
    here.past.push(here.routine)
    here.routine = next.routine
    saves.changed()
    return true
  }
  return { here, saves, edit, box }
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
  it('for as long as one likes, with random edits and answers that are lost: nothing is lost, nothing doubled', async () => {
    const names = Object.keys(DANCE_EDITS) as (keyof typeof DANCE_EDITS)[]
    let [done, asked, kept] = [0, 0, 0]
    for (let round = 0; round < 12; round++) {
      const { s, a, b } = await two(round % 3 === 0 ? 0 : 7)
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
      }
      const askedBefore = asked
      for (let again = 0; again < 6; again++) {
        await quiet()
        for (const x of [a, b]) {
          if (x.here.clashes.length) asked++
          if (x.here.clashes.length) await x.saves.bringTogether('mine')
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
    expect(asked).toBeLessThan(40)
    expect(kept).toBeGreaterThan(100)
  }, 120_000)
})
