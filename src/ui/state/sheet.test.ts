import { afterEach, describe, expect, it, vi } from 'vitest'
import { NotDoneThere } from './afar'
import { fetchSheet } from './sheet'

const wanted = {
  contents: { stretch: { from: 0, to: 96 } } as never,
  paper: { size: 'A4', across: false, wall: true } as const,
}
const ASKED = '/api/routines/r/sheet?from=0&to=96&size=A4&across=0&wall=1'
const ID = 'b'.repeat(64)
const AT = `/api/routines/r/sheets/${ID}`
const pdf = (missing = '') =>
  new Response('pdf', { headers: missing ? { 'x-missing-letters': encodeURIComponent(missing) } : {} })
const begun = (sheet = ID) => Response.json({ sheet }, { status: 202 })
const state = (kind: string, more = {}) => Response.json({ state: { kind, ...more } })

/** A server that gives these answers, one after another, and then none. */
function answers(...list: Response[]) {
  const asked: string[] = []
  vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
    const { prefer } = (init?.headers ?? {}) as Record<string, string>
    asked.push(`${init?.method ?? 'GET'} ${url}${prefer ? ` ${prefer}` : ''}`)
    return list.shift() ?? Response.json({ error: { code: 'failed', message: 'No more.' } }, { status: 500 })
  })
  return asked
}
const fetched = (told: unknown[] = [], signal = new AbortController().signal) =>
  fetchSheet('r', wanted, (...now) => told.push(now), signal, 0)
afterEach(() => vi.unstubAllGlobals())

describe('a cue sheet', () => {
  it('is the answer itself on one machine, with the letters no font has', async () => {
    const asked = answers(pdf('漢'), pdf())
    const { pdf: first, missing } = await fetched()
    expect([await first.text(), missing]).toEqual(['pdf', '漢'])
    expect((await fetched()).missing).toBe('')
    expect(asked).toEqual([`GET ${ASKED} respond-async`, `GET ${ASKED} respond-async`])
  })
  it('is waited for where a school sets it as work', async () => {
    const asked = answers(
      begun(),
      state('waiting', { before: 2 }),
      state('working', { share: 0 }),
      state('done'),
      pdf('漢'),
    )
    const told: unknown[] = []
    const { pdf: made, missing } = await fetched(told)
    expect([await made.text(), missing]).toEqual(['pdf', '漢'])
    expect(asked.slice(1)).toEqual([`POST ${AT}`, `GET ${AT}`, `GET ${AT}`, `GET ${AT}/file`])
    // Nobody knows how far it is.
    expect(told).toEqual([
      [null, 'Asking the server to set the sheet'],
      [null, 'The server sets the sheet soon: 2 before this one'],
      [null, 'The server sets the sheet'],
    ])
  })
  it('that cannot be set there says why', async () => {
    answers(begun(), state('failed', { why: 'It is too long.' }))
    await expect(fetched()).rejects.toThrow(new NotDoneThere('It is too long.'))
    answers(begun('no id'))
    await expect(fetched()).rejects.toMatchObject({ code: 'unreadable' })
  })
  it('that nobody waits for any more is let go of', async () => {
    const stopping = new AbortController()
    const asked = answers(begun(), state('waiting', { before: 0 }))
    const made = fetchSheet(
      'r',
      wanted,
      (_, what) => /soon/.test(what ?? '') && stopping.abort(),
      stopping.signal,
      0,
    )
    await expect(made).rejects.toMatchObject({ name: 'AbortError' })
    expect(asked.at(-1)).toBe(`DELETE ${AT}`)
  })
})
