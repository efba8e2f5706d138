import { afterEach, describe, expect, it, vi } from 'vitest'
import {
  fetchNotices,
  keepTold,
  type Notice,
  noticesToTell,
  noticeWords,
  toldUpTo,
  whenNoticed,
} from './account-notices'

const notice = (of: object): Notice =>
  ({
    id: 'n',
    what: 'password',
    detail: '',
    by: '',
    at: '2026-11-20T10:00:00.000Z',
    here: false,
    ...of,
  }) as Notice
afterEach(() => vi.unstubAllGlobals())

describe('what happened with an account', () => {
  it('is told in words', () => {
    expect(
      [
        { what: 'device', detail: 'Firefox on Linux' },
        { what: 'link', by: 'Kim' },
        { what: 'reset' },
        { what: 'password' },
        { what: 'role', by: 'Kim', detail: 'owner' },
      ].map((n) => noticeWords(notice(n))),
    ).toEqual([
      'Signed in on Firefox on Linux, for the first time.',
      'Kim made a link by which another password can be set.',
      'Another password was set by a link.',
      'The password was changed.',
      'Kim made you an owner of the school.',
    ])
    expect(whenNoticed(notice({}))).toMatch(/^Fri,? 20 Nov/)
  })
  it('is read as the server says it, and nothing else is', async () => {
    const answers = (x: object) => vi.stubGlobal('fetch', async () => Response.json(x))
    answers([notice({})])
    expect(await fetchNotices()).toEqual([notice({})])
    answers([notice({ what: 'role', detail: 'king' })])
    await expect(fetchNotices()).rejects.toMatchObject({ code: 'unreadable' })
  })
})

describe('what is told in a browser', () => {
  const now = Date.parse('2026-11-30T12:00:00.000Z')
  const told = (n: object, upTo: string | null) => noticesToTell([notice(n)], upTo, now).length === 1
  it.each([
    [{}, '2026-11-20T09:59:59.000Z', true],
    [{}, '2026-11-20T10:00:00.000Z', false],
    [{ what: 'device' }, '2026-11-20T09:59:59.000Z', true],
    // Done in this very browser.
    [{ here: true }, '2026-11-20T09:59:59.000Z', false],
    [{ here: true }, null, false],
    // Where nothing was told yet: what happened of late, but for other devices.
    [{}, null, true],
    [{ at: '2026-11-16T11:59:00.000Z' }, null, false],
    [{ at: '2026-11-16T12:01:00.000Z' }, null, true],
    [{ what: 'device' }, null, false],
  ])('%j, told up to %s: %s', (n, upTo, expected) => expect(told(n, upTo)).toBe(expected))

  it('is kept for each person of it, and nothing is known where nothing can be kept', () => {
    const kept = new Map<string, string>()
    vi.stubGlobal('localStorage', {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, x: string) => kept.set(k, x),
    })
    expect(toldUpTo('anna')).toBeNull()
    keepTold('anna', '2026-11-20T10:00:00.000Z')
    expect([toldUpTo('anna'), toldUpTo('boris')]).toEqual(['2026-11-20T10:00:00.000Z', null])
    keepTold('boris', 'no time')
    expect(toldUpTo('boris')).toBeNull()
    const closed = () => {
      throw new Error('closed')
    }
    vi.stubGlobal('localStorage', { getItem: closed, setItem: closed })
    keepTold('anna', 'x')
    expect(toldUpTo('anna')).toBeNull()
  })
})
