import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Entry } from './entry'
import { sendEntry } from './outbox-send'

const entry = (text: string): Entry => ({
  ...{ id: 'save-1', document: 'routine one', what: 'the routine', method: 'PUT', url: '/api/routines/one' },
  ...{ body: JSON.stringify({ text }), saving: { revision: 3, writer: 'window', save: 1 } },
  ...{ window: 'window', order: 1 },
})

/** Sends it where nothing is answered. @returns how it was asked to be sent */
async function sent(text: string): Promise<RequestInit> {
  const fetched = vi.fn<typeof fetch>(async () => new Response('{}'))
  vi.stubGlobal('fetch', fetched)
  await sendEntry(entry(text))
  return fetched.mock.calls[0]?.[1] ?? {}
}

afterEach(() => vi.unstubAllGlobals())

describe('an entry that is on its way when its page is closed', () => {
  it('arrives all the same', async () => {
    const { method, body, keepalive } = await sent('short')
    expect([method, keepalive]).toEqual(['PUT', true])
    expect(JSON.parse(String(body))).toEqual({ revision: 3, writer: 'window', save: 1, text: 'short' })
  })

  it('is sent as ever where a browser would refuse that: over 64 KiB, counted in bytes', async () => {
    expect((await sent('a'.repeat(59_900))).keepalive).toBe(true)
    expect((await sent('a'.repeat(66_000))).keepalive).toBe(false)
    // Letters of three bytes each.
    expect((await sent('舞'.repeat(21_900))).keepalive).toBe(false)
  })
})
