// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest'
import { namedMove } from '@/core/choreo'
import { emptyRoutine, type Routine } from '@/core/routine'
import { newWindow } from './outbox.test-tools'
import { openRoutineStore } from './routine-store'

vi.mock('./outbox-window', async () => (await import('./outbox.test-tools')).windowOutbox)

const AT_FIRST = { revision: 0, madeBy: { writer: '', save: 0 } }
const rename = (title: string) => (r: Routine) => ({ ...r, title })

/** Somebody leaves the page. @returns true where they are asked */
function asked(): boolean {
  const leaving = new Event('beforeunload', { cancelable: true })
  window.dispatchEvent(leaving)
  return leaving.defaultPrevented
}

afterEach(() => vi.unstubAllGlobals())

describe('a page that is left', () => {
  it('asks while what was done cannot be handed on, as long as it is not known what closed windows left', async () => {
    vi.stubGlobal('fetch', async () => Response.json({ revision: 1 }))
    const box = newWindow()
    const store = openRoutineStore('leaving', emptyRoutine('Left'), AT_FIRST)
    expect(asked()).toBe(false)
    store.getState().edit('rename', rename('Changed'))
    expect([asked(), box.state.getState().waiting]).toEqual([true, 0])
    await store.saves.resume(AT_FIRST)
    expect(asked()).toBe(false)
    // What is done in the same moment is handed on: nothing of it waits for a picture that is never drawn.
    store.getState().edit('rename', rename('And again'))
    expect([asked(), store.getState().pending]).toEqual([false, false])
    store.saves.close()
    const gone = openRoutineStore('gone', emptyRoutine('Gone'), AT_FIRST)
    gone.getState().edit('rename', rename('Closed'))
    gone.saves.close()
    expect(asked()).toBe(false)
  })
  it('has handed on the move list in the moment it was changed', async () => {
    vi.stubGlobal('fetch', async () => Response.json({ revision: 1, madeBy: AT_FIRST.madeBy, moves: [] }))
    const box = newWindow()
    const { useMoves } = await import('./moves-store')
    await useMoves.getState().load()
    useMoves.getState().edit((all) => [...all, namedMove('scoop', 'scoop')])
    expect(box.state.getState().waiting).toBe(1)
  })
})
