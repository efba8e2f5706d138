import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { outbox } from './outbox-window'
import { addRoutine, copyRoutine, removeRoutine } from './saved'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

/** Answers one request after the other, and keeps what was asked. */
function server(...answers: (() => Response)[]) {
  const asked: { method: string; url: string; body: { id?: string } | null }[] = []
  vi.stubGlobal('fetch', async (url: string, { method, body }: { method: string; body: string }) => {
    asked.push({ method, url, body: JSON.parse(body) })
    return (answers[asked.length - 1] as () => Response)()
  })
  return asked
}
const lost = () => {
  throw new TypeError('Failed to fetch')
}
const well = () => Response.json({ ok: true })

describe('what a person waits for', () => {
  it('is asked for again under the same id when its answer was lost: a copy is one copy', async () => {
    const asked = server(lost, well)
    const copying = copyRoutine('the-first-one')
    await vi.advanceTimersByTimeAsync(10)
    expect(outbox().state.getState()).toMatchObject({
      waiting: 1,
      trouble: expect.stringContaining('not answer'),
    })
    await vi.advanceTimersByTimeAsync(1000)
    const id = await copying
    expect(asked.map((a) => a.body)).toEqual([
      { id, copyOf: 'the-first-one' },
      { id, copyOf: 'the-first-one' },
    ])
    expect(outbox().state.getState()).toMatchObject({ waiting: 0, trouble: '' })
  })
  it('goes one after the other', async () => {
    const asked = server(well, well)
    const id = await addRoutine('the-song')
    await removeRoutine(id)
    expect(asked.map(({ method, url }) => `${method} ${url}`)).toEqual([
      'POST /api/routines',
      `DELETE /api/routines/${id}`,
    ])
  })
  it('says on the spot why it is refused, and nowhere else', async () => {
    server(() => Response.json({ error: { code: 'gone', message: 'It is not here.' } }, { status: 404 }))
    await expect(copyRoutine('no-such-one')).rejects.toThrow('It is not here.')
    expect(outbox().state.getState()).toMatchObject({ waiting: 0, refused: [] })
  })
})
