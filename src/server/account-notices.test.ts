/* What happened with an account is told to whoever it is of. */
import { beforeEach, describe, expect, it } from 'vitest'
import { deviceIn, noteIn, noticesOf, sweepNotices } from './account-notices'
import { accept, changePassword, linkFor, setRole } from './accounts'
import { database } from './database'
import { ownData } from './own-data.test-tools'
import { joined, ownSchool, PASSWORD, sending } from './school.test-tools'
import { accountNotices } from './school-schema'
import { sessionOf, signIn } from './sign-in'
import type { Who } from './who'

ownData()
ownSchool()

const FIREFOX = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0'
const PHONE =
  'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Mobile Safari/537.36'

let anna: Who
let n = 0
beforeEach(async () => {
  anna = await joined(`Anna${++n}`, 'teacher')
})

/** @returns what the browser sends from then on */
async function signedIn(agent: string, password = PASSWORD): Promise<Headers> {
  const headers = sending()
  headers.set('user-agent', agent)
  const email = `${anna.name.toLowerCase()}@school.example`
  const { cookies } = await signIn(headers, { email, password })
  return sending(cookies.map((c) => c.split(';')[0]).join('; '))
}
const told = async (headers?: Headers) =>
  noticesOf(await database(), anna.id, headers ? await sessionOf(headers) : '')
const words = async (headers?: Headers) =>
  (await told(headers)).map((t) => [t.what, t.detail, t.by, t.here].join(' '))

describe('what happened with an account', () => {
  it('is a device one signs in on for the first time, known as itself there', async () => {
    const desk = await signedIn(FIREFOX)
    expect(await words(desk)).toEqual(['device Firefox on Linux  true'])
    const phone = await signedIn(PHONE)
    await signedIn(FIREFOX)
    expect(await words(desk)).toEqual(['device Chrome on Android  false', 'device Firefox on Linux  true'])
    expect(await words(phone)).toEqual(['device Chrome on Android  true', 'device Firefox on Linux  false'])
    expect(await words(await signedIn(PHONE))).toEqual([
      'device Chrome on Android  false',
      'device Firefox on Linux  false',
    ])
  })

  it('is another password, by oneself or by a link, and who made the link', async () => {
    await changePassword(anna.id, 'quite another password')
    const link = await linkFor(anna.id, 'Kim')
    await accept(link.split('/').at(-1) as string, 'a third good password')
    expect((await words()).sort()).toEqual(['link  Kim false', 'password   false', 'reset   false'])
  })

  it('is another role, where it is another', async () => {
    await setRole(anna.id, 'teacher', 'Kim')
    expect(await words()).toEqual([])
    await setRole(anna.id, 'assistant', 'Kim')
    expect(await words()).toEqual(['role assistant Kim false'])
  })

  it('is nobody else’s, not that an account was begun, nor that a password was wrong', async () => {
    const boris = await joined(`Boris${n}`, 'teacher')
    await changePassword(boris.id, 'quite another password')
    await expect(signedIn(FIREFOX, 'a wrong one')).rejects.toMatchObject({ status: 401 })
    expect(await words()).toEqual([])
  })

  it('is told for a year and more, and only the newest of it', async () => {
    const db = await database()
    const day = 24 * 3600 * 1000
    const now = Date.now()
    for (let i = 0; i < 60; i++) await noteIn(db, anna.id, 'password', {}, now - i * day)
    expect(await told()).toHaveLength(50)
    await noteIn(db, anna.id, 'reset', {}, now - 401 * day)
    await sweepNotices(db, now)
    const kept = (await db.select().from(accountNotices)).filter((r) => r.personId === anna.id)
    expect([kept.length, kept.some((r) => r.what === 'reset')]).toEqual([60, false])
  })
})

describe('a device', () => {
  it.each([
    [FIREFOX, 'Firefox on Linux'],
    [PHONE, 'Chrome on Android'],
    ['', 'something that is no browser'],
    ['curl', 'a browser on an unknown system'],
    ['x'.repeat(100_000), 'a browser on an unknown system'],
  ])('is known by what its browser says: %.20s', (agent, expected) => expect(deviceIn(agent)).toBe(expected))
})
