import { afterEach, describe, expect, it, vi } from 'vitest'
import * as school from './school'

afterEach(() => vi.unstubAllGlobals())

/** Answers everything alike, and keeps what was asked. */
function answering(answer: unknown) {
  const asked: { to: string; body: unknown }[] = []
  vi.stubGlobal('fetch', async (url: string, { method, body }: RequestInit) => {
    asked.push({ to: `${method} ${url}`, body: body === undefined ? undefined : JSON.parse(String(body)) })
    return Response.json(answer)
  })
  return asked
}

const share = { person: 'p', name: 'Anna', right: 'look' }
const person = { id: 'p', name: 'Anna', role: 'teacher', email: 'anna@school.example' }
const invited = { ...person, expiresAt: '2027-01-01' }
const link = { link: 'https://school.example/i/1' }
const sent = { id: 's', group: 'Monday', kind: 'film', learner: 'Mia', receivedAt: '2026-11-29', sent: null }
const row = {
  ...{ id: 'c', group: 'Monday', link: 'l', made: '2026-11-29', films: true, closed: false },
  ...{ devices: 3, newest: 2 },
}
const contents = { roles: [], options: [] } as never

describe('what a page of a school asks its server', () => {
  it.each<[() => Promise<unknown>, string, unknown, unknown]>([
    [() => school.signIn('a', 'b'), 'POST /api/session', { email: 'a', password: 'b' }, { ok: true }],
    [() => school.signOut(false), 'DELETE /api/session', undefined, { ok: true }],
    [() => school.signOut(true), 'DELETE /api/session?everywhere', undefined, { ok: true }],
    [() => school.acceptInvitation('t', 'b'), 'POST /api/invited/t', { password: 'b' }, { email: 'a' }],
    [() => school.changePassword('a', 'b'), 'PUT /api/account', { now: 'a', next: 'b' }, { ok: true }],
    [() => school.eraseAccount('a'), 'DELETE /api/account', { now: 'a' }, { ok: true }],
    [() => school.fetchPeople(), 'GET /api/people', undefined, [person]],
    [() => school.fetchInvitations(), 'GET /api/invitations', undefined, [invited]],
    [() => school.invite(person), 'POST /api/invitations', person, link],
    [() => school.withdrawInvitation('i'), 'DELETE /api/invitations/i', undefined, { ok: true }],
    [() => school.linkForPerson('p'), 'POST /api/people/p', undefined, link],
    [() => school.setRoleOf('p', 'owner'), 'PATCH /api/people/p', { role: 'owner' }, { ok: true }],
    [() => school.erasePerson('p'), 'DELETE /api/people/p', undefined, { ok: true }],
    [() => school.fetchShares('r'), 'GET /api/routines/r/shares', undefined, [share]],
    [
      () => school.shareRoutine('r', 'p', 'edit'),
      'PUT /api/routines/r/shares',
      { person: 'p', right: 'edit' },
      [share],
    ],
    [
      () => school.shareRoutine('r', 'p', null),
      'PUT /api/routines/r/shares',
      { person: 'p', right: null },
      [],
    ],
    [
      () => school.tellHere('r', 'w'),
      'POST /api/routines/r/here',
      { window: 'w' },
      { revision: 3, others: ['Olga'] },
    ],
    [() => school.fetchBin(), 'GET /api/bin', undefined, [{ id: 'r', title: 'Song', binnedAt: 5 }]],
    [() => school.takeFromBin('r'), 'PUT /api/bin/r', undefined, { ok: true }],
    [() => school.removeForGood('r'), 'DELETE /api/bin/r', undefined, { ok: true }],
    [() => school.fetchClasses('r'), 'GET /api/routines/r/classes', undefined, [row]],
    [() => school.setLink('c', 'new'), 'PATCH /api/class-links/c', { be: 'new' }, { ok: true }],
    [() => school.removeLink('c'), 'DELETE /api/class-links/c', undefined, { ok: true }],
    [() => school.fetchSent('r'), 'GET /api/routines/r/sent', undefined, [sent]],
    [
      () => school.takeOff('r', sent as never),
      'POST /api/routines/r/sent',
      { id: 's', receivedAt: '2026-11-29' },
      { ok: true },
    ],
  ])('%s', async (ask, to, body, answer) => {
    const asked = answering(answer)
    expect(await ask()).toEqual(answer)
    expect(asked).toEqual([{ to, body }])
  })

  it('hands a page out with what was chosen of it', async () => {
    const asked = answering([row])
    await school.handOutTo('r', contents, { group: 'Monday' } as never)
    expect(asked[0]?.to).toMatch(/^PUT \/api\/routines\/r\/classes\?\w/)
    expect(asked[0]?.body).toEqual({ group: 'Monday' })
  })

  it.each<[string, () => Promise<unknown>, unknown]>([
    ['a role nobody has', school.fetchPeople, [{ ...person, role: 'king' }]],
    ['a right nobody has', () => school.fetchShares('r'), [{ ...share, right: 'own' }]],
    ['a link that is none', () => school.linkForPerson('p'), { link: 5 }],
    ['an invitation that never ends', school.fetchInvitations, [{ ...invited, expiresAt: null }]],
    ['a removed dance without a day', school.fetchBin, [{ id: 'r', title: 'Song' }]],
    ['a class without its number', () => school.fetchClasses('r'), [{ ...row, newest: undefined }]],
    [
      'something sent that is neither marks nor a film',
      () => school.fetchSent('r'),
      [{ ...sent, kind: 'x' }],
    ],
    ['nobody named', () => school.tellHere('r', 'w'), { revision: 1 }],
  ])('does not take %s for an answer', async (_, ask, answer) => {
    answering(answer)
    await expect(ask()).rejects.toThrow()
  })

  it('knows a person without an address as one', async () => {
    const { email: _, ...hidden } = person
    answering([hidden])
    expect(await school.fetchPeople()).toEqual([{ ...person, email: '' }])
  })
})
