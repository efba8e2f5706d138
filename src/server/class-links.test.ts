import { beforeAll, describe, expect, it } from 'vitest'
import { POST as uploadRoute } from '@/app/api/classes/[token]/films/[[...upload]]/route'
import { PUT as marksRoute } from '@/app/api/classes/[token]/marks/route'
import { GET as pageRoute } from '@/app/c/[token]/route'
import { type HandedOut, MARKS_FILE_VERSION } from '@/core/handout'
import { cuesOf } from '@/core/routine/hand.test-tools'
import { madeFilm } from '../decode/film.test-tools'
import { binRoutine, removeRoutine, unbinRoutine } from './bin'
import { keepClassFilm } from './class-films'
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
import { filmById } from './films'
import { stateOf } from './jobs'
import { songInFilm } from './match-job'
import { linkOfToken, may } from './may'
import { filesKept, ownData } from './own-data.test-tools'
import { openRoutine, saveRoutine } from './routines'
import { joined, ownSchool, sending, shareWith, status } from './school.test-tools'
import { classMarks } from './school-schema'
import { sweep } from './sweep'
import { doneBy, type Who } from './who'

const dir = ownData()
ownSchool()

const DEVICE = 'device-of-a-learner'
const nothing: HandedOut = { group: 'Mondays', films: false, voice: null, stills: null }
const everything = new URLSearchParams()
const files = () => filesKept(dir, 'pages')

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

describe('films of learners', () => {
  const piece = (
    token: string,
    method: 'POST' | 'PATCH' | 'HEAD',
    id: string,
    more: object,
    body?: BodyInit,
  ) =>
    uploadRoute(
      new Request(`https://school.example/api/classes/${token}/films${id && `/${id}`}`, {
        method,
        headers: new Headers({ ...Object.fromEntries(sending()), 'tus-resumable': '1.0.0', ...more }),
        ...(body ? { body } : {}),
      }),
      { params: Promise.resolve({ token }) },
    )
  const named = (id: string) =>
    `id ${Buffer.from(id).toString('base64')},filename ${Buffer.from('ich tanze ü.webm').toString('base64')}`
  it('come in where they are allowed, are of whom the dance belongs to, and wait', async () => {
    const routine = await dance(anna, 'filmed-dance')
    await doneBy(anna, () => handOut(routine, everything, nothing))
    const { token } = await linkTo(anna, routine)
    const film = await madeFilm({ seconds: 1 })
    const [id, length] = ['film-of-a-learner', String(film.length)]
    const begin = () => piece(token, 'POST', '', { 'upload-length': length, 'upload-metadata': named(id) })
    expect((await begin()).status).toBe(403)
    await doneBy(anna, () => handOut(routine, everything, { ...nothing, films: true }))
    const large = await piece(token, 'POST', '', {
      'upload-length': '600000000',
      'upload-metadata': named(id),
    })
    expect(large.status).toBe(413)
    const begun = await begin()
    expect(begun.headers.get('location')).toBe(`/api/classes/${token}/films/${id}`)
    const half = film.length >> 1
    const more = { 'content-type': 'application/offset+octet-stream' }
    await piece(token, 'PATCH', id, { ...more, 'upload-offset': '0' }, film.slice(0, half))
    const link = await linkOfToken(token)
    const whole = { id, device: DEVICE, learner: 'Mia' }
    expect(await status(keepClassFilm(link, whole))).toBe(409)
    expect((await piece(token, 'HEAD', id, {})).headers.get('upload-offset')).toBe(String(half))
    // By another link nobody goes on with it.
    const other = await dance(anna, 'other-filmed')
    await doneBy(anna, () => handOut(other, everything, { ...nothing, films: true }))
    const elsewhere = await linkTo(anna, other)
    expect((await piece(elsewhere.token, 'HEAD', id, {})).status).toBe(404)
    await piece(token, 'PATCH', id, { ...more, 'upload-offset': String(half) }, film.slice(half))
    await keepClassFilm(link, whole)
    // An answer that was lost.
    await keepClassFilm(link, whole)
    const waiting = await doneBy(anna, () => waitingFor(routine))
    expect(waiting).toMatchObject([{ kind: 'film', id, learner: 'Mia', sent: null }])
    expect(await filmById(id)).toMatchObject({ owner: anna.id, fileName: 'ich tanze ü.webm' })
    // The song is looked for in it meanwhile, as whoever made the link.
    expect(await stateOf('match', await songInFilm(routine, id))).toMatchObject({ kind: 'waiting' })
    await may.film(anna, { id })
    expect(await status(may.film(boris, { id }))).toBe(404)
    // While it waits it stays, however long that is.
    const years = Date.now() + 400 * 24 * 3600 * 1000
    await sweep(await database(), years)
    expect(filesKept(dir, 'films')).toHaveLength(1)
    await doneBy(anna, () => takenIn(routine, id, waiting[0]?.receivedAt ?? ''))
    await sweep(await database(), years)
    await sweep(await database(), years + 8 * 24 * 3600 * 1000)
    expect(filesKept(dir, 'films')).toEqual([])
  })
})
