import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { temporal } from 'zundo'
import { createStore } from 'zustand'
import { emptyRoutine, type Routine } from '@/core/routine'
import { bringPast, keepPast } from './routine-past'

/** A page of a window: undo as an open routine has it. */
function pageOf(routine: Routine) {
  const store = createStore<{ routine: Routine; did: string }>()(
    temporal(() => ({ routine, did: '' }), { partialize: ({ routine: r, did }) => ({ routine: r, did }) }),
  )
  const rename = (title: string) =>
    store.setState((s) => ({ routine: { ...s.routine, title }, did: `rename to ${title}` }))
  return Object.assign(store, { rename, title: () => store.getState().routine.title })
}

let kept: Map<string, string>
beforeEach(() => {
  kept = new Map()
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
    removeItem: (key: string) => void kept.delete(key),
  })
})
afterEach(() => vi.unstubAllGlobals())

/** What the next page of the window gets of the server. */
const sent = (page: ReturnType<typeof pageOf>) => structuredClone(page.getState().routine)

describe('undo over a load of the page', () => {
  it('goes on from where it was, both ways, with the names of the steps', () => {
    const before = pageOf(emptyRoutine('first'))
    for (const title of ['second', 'third', 'fourth']) before.rename(title)
    before.temporal.getState().undo()
    keepPast('a', before)
    const after = pageOf(sent(before))
    bringPast('b', after)
    expect(after.temporal.getState().pastStates).toEqual([])
    bringPast('a', after)
    expect(after.getState().did).toBe('rename to third')
    after.temporal.getState().redo()
    expect(after.title()).toBe('fourth')
    for (const title of ['third', 'second', 'first']) {
      after.temporal.getState().undo()
      expect(after.title()).toBe(title)
    }
    expect(after.temporal.getState().pastStates).toEqual([])
  })
  it('begins anew where the routine was changed elsewhere, or here since', () => {
    const before = pageOf(emptyRoutine('first'))
    before.rename('second')
    keepPast('a', before)
    const elsewhere = pageOf(emptyRoutine('another window'))
    bringPast('a', elsewhere)
    expect(elsewhere.temporal.getState().pastStates).toEqual([])
    const since = pageOf(sent(before))
    since.rename('third')
    bringPast('a', since)
    since.temporal.getState().undo()
    expect([since.title(), since.temporal.getState().pastStates.length]).toEqual(['second', 0])
  })
  it('is not taken up where something was done since, also where that was undone', () => {
    const before = pageOf(emptyRoutine('first'))
    before.rename('second')
    keepPast('a', before)
    const after = pageOf(sent(before))
    after.rename('third')
    after.temporal.getState().undo()
    bringPast('a', after)
    after.temporal.getState().redo()
    expect(after.title()).toBe('third')
  })
  it('of a routine takes the place of older ones where the browser keeps no more', () => {
    const before = pageOf(emptyRoutine('first'))
    before.rename('second')
    keepPast('a', before)
    const one = kept.get('azalea-past a')?.length ?? 0
    const full = {
      removeItem: (key: string) => {
        kept.delete(key)
        delete (full as Record<string, unknown>)[key]
      },
      setItem: (key: string, text: string) => {
        const held = [...kept.values()].join('').length
        if (held + text.length > 1.5 * one) throw new DOMException('full', 'QuotaExceededError')
        kept.set(key, text)
        Object.assign(full, { [key]: text })
      },
    }
    kept.clear()
    vi.stubGlobal('sessionStorage', full)
    keepPast('a', before)
    keepPast('b', before)
    expect([...kept.keys()]).toEqual(['azalea-past b'])
  })
  it('keeps nothing of a routine that was not changed, and is not stopped by a browser that keeps nothing', () => {
    const before = pageOf(emptyRoutine('first'))
    before.rename('second')
    keepPast('a', before)
    keepPast('a', pageOf(emptyRoutine('first')))
    expect(kept.size).toBe(0)
    const refuse = () => {
      throw new DOMException('no', 'SecurityError')
    }
    vi.stubGlobal('sessionStorage', { getItem: refuse, setItem: refuse, removeItem: refuse })
    keepPast('a', before)
    bringPast('a', pageOf(sent(before)))
  })
})
