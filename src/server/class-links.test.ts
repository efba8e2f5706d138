import { beforeAll, describe, expect, it } from 'vitest'
import { PUT as marksRoute } from '@/app/api/classes/[token]/marks/route'
import { GET as pageRoute } from '@/app/c/[token]/route'
import { type HandedOut, MARKS_FILE_VERSION } from '@/core/handout'
import { cuesOf } from '@/core/routine/hand.test-tools'
import { binRoutine, removeRoutine, unbinRoutine } from './bin'
import {
  closeLink,
  handOut,
  linksOf,
  removeLink,
  renewLink,
  reopenLink,
  takenIn,
  waitingFor,
} from './class-links'
import { keepMarks, tellOpened } from './class-pages'
import { beginCombination } from './combinations'
import { database } from './database'
import { erasePerson } from './erase'
import { linkOfToken, may } from './may'
import { filesKept, ownData } from './own-data.test-tools'
import { openRoutine, saveRoutine } from './routines'
import { joined, ownSchool, sending, shareWith } from './school.test-tools'
import { classMarks } from './school-schema'
import { doneBy, type Who } from './who'

const dir = ownData()
ownSchool()

const DEVICE = 'device-of-a-learner'
const nothing: HandedOut = { group: 'Mondays', films: false, voice: null, stills: null }
const everything = new URLSearchParams()
const files = () => filesKept(dir, 'pages')
const status = (work: Promise<unknown>) =>
  work.then(
    () => 200,
    (e: { status?: number }) => e.status ?? 500,
  )

let keeper: Who
let anna: Who
let boris: Who

/** A dance of somebody's, with one cue in it. */
async function dance(who: Who, id: string, text = 'step R'): Promise<string> {
  return doneBy(who, async () => {
    await beginCombination({ id, title: `Dance ${id}`, tempo: 100, eights: 2 }, id)
    const { routine, revision } = await openRoutine(id)
    const cues = cuesOf(`1 ${text}`)
    await saveRoutine(id, { revision, writer: `window-${id}`, save: 1 }, { ...routine, cues })
    return id
  })
}

/** The link of the first class of a routine. */
const linkTo = async (who: Who, routine: string) => {
  const [link] = await doneBy(who, () => linksOf(routine))
  if (!link) throw new Error('there is no link')
  return { ...link, token: link.link.split('/').at(-1) as string }
}

const marks = (routine: string, learner: string, at: string, sits = true) => ({
  device: DEVICE,
  sent: {
    azalea: 'marks' as const,
    version: MARKS_FILE_VERSION as 1,
    made: at,
    id: routine,
    learner,
    marks: [{ from: 1, to: 5, sits, at }],
  },
})

/** What a browser that opens the link gets. */
const opened = async (token: string, headers: Record<string, string> = {}) => {
  const asks = new Headers({ host: 'school.example', ...headers })
  const request = new Request(`https://school.example/c/${token}`, { headers: asks })
  return pageRoute(request, { params: Promise.resolve({ token }) })
}

beforeAll(async () => {
  keeper = await joined('Keeper', 'owner')
  anna = await joined('Anna', 'teacher')
  boris = await joined('Boris', 'teacher')
})

describe('a class’s link', () => {
  it('leads to the page that was handed out last, and no file of one before is left', async () => {
    const routine = await dance(anna, 'newest-dance')
    await doneBy(anna, () => handOut(routine, everything, nothing))
    const first = await linkTo(anna, routine)
    expect(first).toMatchObject({ group: 'Mondays', closed: false, devices: 0, films: false })
    expect(first.link).toMatch(/^https:\/\/school\.example\/c\/[\w-]{24}$/)
    const page = await opened(first.token)
    expect(page.headers.get('content-security-policy')).toBe("frame-ancestors 'none'")
    const html = await page.text()
    expect(html.includes('"title":"Dance newest-dance"')).toBe(true)
    // Asked again, nothing is sent that is there already.
    const known = page.headers.get('etag') as string
    expect((await opened(first.token, { 'if-none-match': known })).status).toBe(304)
    // Handed out anew: another page, the same link.
    await doneBy(anna, async () => {
      const { routine: now, revision } = await openRoutine(routine)
      await saveRoutine(routine, { revision, writer: 'window-newest', save: 2 }, { ...now, title: 'Another' })
      await handOut(routine, everything, { ...nothing, films: true })
    })
    expect(await linkTo(anna, routine)).toMatchObject({ link: first.link, films: true })
    expect((await (await opened(first.token)).text()).includes('"title":"Another"')).toBe(true)
    expect((await opened(first.token, { 'if-none-match': known })).status).toBe(200)
    expect(files()).toHaveLength(1)
    await doneBy(anna, () => removeRoutine(routine))
    expect(files()).toEqual([])
  })
  it('is one for each class and for each who teaches it; nobody sees another’s', async () => {
    const routine = await dance(anna, 'two-classes')
    await shareWith(anna, routine, boris, 'teach')
    for (const group of ['', 'Mondays', 'Fridays'])
      await doneBy(anna, () => handOut(routine, everything, { ...nothing, group }))
    await doneBy(boris, () => handOut(routine, everything, nothing))
    expect((await doneBy(anna, () => linksOf(routine))).map((l) => l.group)).toEqual([
      '',
      'Fridays',
      'Mondays',
    ])
    const his = await linkTo(boris, routine)
    expect(await status(may.ownLink(anna, { id: his.id }))).toBe(404)
    expect(await status(may.ownLink(keeper, { id: his.id }))).toBe(404)
    expect(await status(may.ownLink(boris, { id: his.id }))).toBe(200)
    // Films go to whom the dance belongs: who only teaches it asks for none.
    const filmed = doneBy(boris, () => handOut(routine, everything, { ...nothing, films: true }))
    expect(await status(filmed)).toBe(403)
    // It ends with the right to teach.
    await shareWith(anna, routine, boris, 'look')
    expect(await status(linkOfToken(his.token))).toBe(410)
    await shareWith(anna, routine, boris, 'edit')
    expect(await status(linkOfToken(his.token))).toBe(200)
    await shareWith(anna, routine, boris, null)
    expect(await status(linkOfToken(his.token))).toBe(410)
    await doneBy(anna, () => removeRoutine(routine))
  })
  it('is closed, opened again, made anew, and ends with the bin', async () => {
    const routine = await dance(anna, 'closed-dance')
    await doneBy(anna, () => handOut(routine, everything, nothing))
    const { id, token } = await linkTo(anna, routine)
    await closeLink(id)
    const closed = await opened(token)
    expect(closed.status).toBe(410)
    expect(await closed.text()).toContain('closed this link')
    // Handed out anew it stays closed, until it is opened.
    await doneBy(anna, () => handOut(routine, everything, nothing))
    expect((await opened(token)).status).toBe(410)
    await reopenLink(id)
    expect((await opened(token)).status).toBe(200)
    await doneBy(anna, () => binRoutine(routine))
    expect((await opened(token)).status).toBe(410)
    await doneBy(anna, () => unbinRoutine(routine))
    await tellOpened(await linkOfToken(token), { device: DEVICE, made: new Date().toISOString() })
    await renewLink(id)
    expect((await opened(token)).status).toBe(404)
    const anew = await linkTo(anna, routine)
    expect(anew).toMatchObject({ id, devices: 0 })
    expect((await opened(anew.token)).status).toBe(200)
    for (const wrong of ['', 'x', `${anew.token}x`, '%', "' OR 1=1 --"])
      expect((await opened(wrong)).status).toBe(404)
    await doneBy(anna, () => removeLink(id))
    expect(await status(linkOfToken(anew.token))).toBe(404)
    expect(files()).toEqual([])
  })
  it('counts devices once, and says who has the newest page', async () => {
    const routine = await dance(anna, 'counted-dance')
    await doneBy(anna, () => handOut(routine, everything, nothing))
    const { token, made } = await linkTo(anna, routine)
    const old = '2026-01-01T10:00:00.000Z'
    for (const [device, has] of [
      [DEVICE, old],
      [DEVICE, made],
      ['another-device-xx', old],
    ] as const)
      expect(await tellOpened(await linkOfToken(token), { device, made: has })).toEqual({
        ...{ made, group: 'Mondays', teacher: 'Anna', films: false },
      })
    expect(await linkTo(anna, routine)).toMatchObject({ devices: 2, newest: 1 })
  })
  it('is opened from anywhere, and asked for nothing else by other sites', async () => {
    const routine = await dance(anna, 'linked-dance')
    await doneBy(anna, () => handOut(routine, everything, nothing))
    const { token } = await linkTo(anna, routine)
    const cross = { 'sec-fetch-site': 'cross-site' }
    const page = { ...cross, 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' }
    expect((await opened(token, page)).status).toBe(200)
    expect((await opened(token, { ...page, 'sec-fetch-dest': 'iframe' })).status).toBe(403)
    expect((await opened(token, { ...cross, 'sec-fetch-mode': 'cors' })).status).toBe(403)
    const body = JSON.stringify(marks(routine, 'Mia', '2026-11-20T10:00:00.000Z'))
    const send = (headers: HeadersInit) =>
      marksRoute(new Request('https://school.example/x', { method: 'PUT', headers, body }), {
        params: Promise.resolve({ token }),
      })
    const foreign = new Headers({ host: 'school.example', origin: 'https://elsewhere.example', ...page })
    expect((await send(foreign)).status).toBe(403)
    expect((await send(sending())).status).toBe(200)
  })
})

describe('what learners say', () => {
  it('waits once for each device, the later of it, until it is taken in', async () => {
    const routine = await dance(anna, 'said-dance')
    await doneBy(anna, () => handOut(routine, everything, nothing))
    const { token } = await linkTo(anna, routine)
    const link = await linkOfToken(token)
    const [one, two, three] = [10, 11, 12].map((h) => `2026-11-20T${h}:00:00.000Z`) as [
      string,
      string,
      string,
    ]
    await keepMarks(link, marks(routine, 'Mia', two), new Date(2000))
    // Sent twice, and one that was late.
    await keepMarks(link, marks(routine, 'Mia', two), new Date(3000))
    await keepMarks(link, marks(routine, 'Mia', one, false), new Date(4000))
    const waiting = () => doneBy(anna, () => waitingFor(routine))
    const [row] = await waiting()
    expect(await waiting()).toHaveLength(1)
    expect(row).toMatchObject({ kind: 'marks', learner: 'Mia', group: 'Mondays', sent: { made: two } })
    // Nobody else reads it, not even who keeps the accounts.
    expect(await doneBy(keeper, () => waitingFor(routine))).toEqual([])
    // Said anew while it is taken in: that waits on.
    await keepMarks(link, marks(routine, 'Mia', three), new Date(5000))
    await doneBy(anna, () => takenIn(routine, row?.id ?? '', row?.receivedAt ?? ''))
    const [later] = await waiting()
    expect(later).toMatchObject({ sent: { made: three } })
    await doneBy(boris, () => takenIn(routine, later?.id ?? '', later?.receivedAt ?? ''))
    expect(await waiting()).toHaveLength(1)
    await doneBy(anna, () => takenIn(routine, later?.id ?? '', later?.receivedAt ?? ''))
    expect(await waiting()).toEqual([])
    // Of another dance nothing is kept.
    expect(await status(keepMarks(link, marks('some-other', 'Mia', three)))).toBe(400)
  })
  it('goes with the account whose class it is, and with the link', async () => {
    const carl = await joined('Carl', 'teacher')
    const routine = await dance(carl, 'carls-dance')
    await doneBy(carl, () => handOut(routine, everything, nothing))
    const { token } = await linkTo(carl, routine)
    await keepMarks(await linkOfToken(token), marks(routine, 'Mia', '2026-11-20T10:00:00.000Z'))
    const before = files().length
    await erasePerson(carl.id)
    expect(files()).toHaveLength(before - 1)
    expect(await status(linkOfToken(token))).toBe(404)
    const left = await (await database()).select().from(classMarks)
    expect(left.filter((m) => m.data.includes('carls-dance'))).toEqual([])
  })
})
