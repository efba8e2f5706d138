// @vitest-environment happy-dom
import { act, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useStore } from 'zustand'
import { MARKS_FILE_VERSION } from '@/core/handout'
import { emptyRoutine } from '@/core/routine'
import { until } from '@/core/until.test-tools'
import { newWindow, windowOutbox } from './outbox.test-tools'
import type { OutboxState } from './outbox-state'
import { openRoutineStore, RoutineProvider } from './routine-store'
import { KeptDocument } from './save-server.test-tools'
import { useSent } from './use-sent'

vi.mock('./outbox-window', async () => {
  const { windowOutbox } = await import('./outbox.test-tools')
  return {
    ...windowOutbox,
    useOutbox: <T,>(pick: (s: OutboxState) => T) => useStore(windowOutbox.outbox().state, pick),
  }
})
vi.mock('./page', () => ({ usePage: () => ({ times: Array.from({ length: 65 }, (_, i) => i / 2) }) }))

const MADE = '2026-11-21T10:00:00.000Z'
const came = (id: string, learner: string) => ({
  ...{ id, group: 'Mondays', kind: 'marks', learner, receivedAt: MADE },
  sent: { azalea: 'marks', version: MARKS_FILE_VERSION, id: 'routine-1', learner, made: MADE, marks: [] },
})
type Came = ReturnType<typeof came>

/** A server on which something waits. */
function server(...rows: Came[]) {
  const document = new KeptDocument<unknown>(null)
  const state = { rows, away: false, savesAway: false, takenOff: [] as string[], document }
  vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
    const isSent = url.endsWith('/sent')
    if (isSent ? state.away : state.savesAway) throw new TypeError('no connection')
    const body = init?.body ? JSON.parse(String(init.body)) : null
    if (isSent && init?.method === 'POST') {
      state.takenOff.push(body.id)
      state.rows = state.rows.filter((r) => r.id !== body.id)
      return Response.json({ ok: true })
    }
    if (isSent) return Response.json(state.rows)
    const { routine, ...save } = body
    return document.save(save, routine)
  })
  return state
}

let n = 0
async function opened() {
  const store = openRoutineStore(`sent-${n++}`, emptyRoutine('Dance'), {
    ...{ revision: 0, madeBy: { writer: '', save: 0 } },
  })
  await store.saves.resume({ revision: 0, madeBy: { writer: '', save: 0 } })
  const { result } = await act(async () =>
    renderHook(() => useSent('r', true), {
      wrapper: ({ children }) => <RoutineProvider value={store}>{children}</RoutineProvider>,
    }),
  )
  const names = () => store.getState().routine.learners.map((x) => x.name)
  return { store, result, names }
}

beforeEach(() => void newWindow())
afterEach(() => void vi.unstubAllGlobals())

it('takes in what came, and lets it go on the server once it is saved, not before', async () => {
  const there = server(came('d1', 'Mara'))
  there.savesAway = true
  const { result, names } = await opened()
  await until(() => expect(result.current.brought).toEqual(['Mara']))
  await until(() => expect(windowOutbox.outbox().state.getState().waiting).toBe(1))
  // Whatever would be asked now would be answered by then.
  await act(async () => {
    for (let turn = 0; turn < 100; turn++) await null
  })
  expect([names(), there.takenOff]).toEqual([['Mara'], []])
  there.savesAway = false
  windowOutbox.outbox().now()
  await until(() => expect(there.takenOff).toEqual(['d1']))
  expect(JSON.stringify(there.document.content)).toContain('Mara')
})
it('does not bring back what was undone', async () => {
  const there = server(came('d1', 'Mara'))
  there.savesAway = true
  const { store, result, names } = await opened()
  await until(() => expect(result.current.brought).toEqual(['Mara']))
  await until(() => expect(windowOutbox.outbox().state.getState().waiting).toBe(1))
  act(() => void store.temporal.getState().undo())
  there.savesAway = false
  windowOutbox.outbox().now()
  await until(() => expect(there.takenOff).toEqual(['d1']))
  expect(names()).toEqual([])
})
it('says what cannot be read, and what waits with why; what is let go of is gone', async () => {
  const old = came('d1', 'Mara')
  old.sent.made = '2999-01-01T00:00:00.000Z'
  const there = server(old)
  const { result, names } = await opened()
  await until(() => expect(result.current.waiting).toHaveLength(1))
  expect(result.current.waiting[0]?.why).toContain('the clock of that device is wrong')
  const [row] = result.current.waiting
  there.away = true
  await act(async () => row && result.current.letGo(row))
  expect([result.current.problem === '', result.current.waiting.length]).toEqual([false, 1])
  there.away = false
  await act(async () => row && result.current.letGo(row))
  expect([result.current.waiting, there.takenOff, names()]).toEqual([[], ['d1'], []])
})
