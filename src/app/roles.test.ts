/* All routes of the program, asked by everybody there may be. */
import { readdirSync } from 'node:fs'
import path from 'node:path'
import { eq } from 'drizzle-orm'
import { beforeAll, describe, expect, it } from 'vitest'
import { emptyRoutine } from '@/core/routine'
import { everybody } from '@/server/accounts'
import { whoAsks } from '@/server/asking'
import { binRoutine } from '@/server/bin'
import { database, write } from '@/server/database'
import type { Needs } from '@/server/may'
import { Problem } from '@/server/problem'
import { addRoutine, openRoutine } from '@/server/routines'
import { films, routines, songs } from '@/server/schema'
import { classLinks, shares, sheets } from '@/server/school-schema'
import { doneBy, HERE, type Who } from '@/server/who'
import { isFar, ownData } from '../server/own-data.test-tools'
import { belongings, cookieOf, joined, ownSchool, sending, shareWith } from '../server/school.test-tools'

ownData()
ownSchool()

const ROOT = path.resolve('src/app')
/** The files of all routes; their names are without the part that nearly all of them have. */
const routeFiles = () =>
  readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith('route.ts'))
const nameOf = (file: string) => path.dirname(file).replace(/^api\//, '')
const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'] as const

/** Whoever there is: keeper of the accounts, the teacher it all belongs to, another, and three it is shared with. */
const PEOPLE = ['nobody', 'keeper', 'anna', 'boris', 'looks', 'teaches', 'edits'] as const
type Name = (typeof PEOPLE)[number]
const all = [...PEOPLE]
const signedIn = all.filter((p) => p !== 'nobody')
const teachers: Name[] = ['keeper', 'anna', 'boris', 'edits']
const keeper: Name[] = ['keeper']
const look: Name[] = ['anna', 'looks', 'teaches', 'edits']
const teach: Name[] = ['anna', 'teaches', 'edits']
const edit: Name[] = ['anna', 'edits']
const own: Name[] = ['anna']

/** Who may, on what of Anna's, and what of it others do not even see. A route that is not in here fails the test. */
const MAY: Record<string, { who: readonly Name[]; of?: keyof typeof ids; hidden?: true }> = {
  'GET [...path]': { who: all },
  'POST [...path]': { who: all },
  'PUT [...path]': { who: all },
  'PATCH [...path]': { who: all },
  'DELETE [...path]': { who: all },
  'GET session': { who: all },
  'POST session': { who: all },
  'DELETE session': { who: signedIn },
  'GET health': { who: all },
  'GET metrics': { who: all },
  'GET invited/[id]': { who: all },
  'POST invited/[id]': { who: all },
  'GET invitations': { who: keeper },
  'POST invitations': { who: keeper },
  'DELETE invitations/[id]': { who: keeper },
  'GET people': { who: signedIn },
  'POST people/[id]': { who: keeper },
  'PATCH people/[id]': { who: keeper },
  'DELETE people/[id]': { who: keeper },
  'PUT account': { who: signedIn },
  'GET account/notices': { who: signedIn },
  'DELETE account': { who: signedIn },
  'GET shelf': { who: signedIn },
  'GET bin': { who: signedIn },
  'PUT bin/[id]': { who: own, of: 'binned' },
  'DELETE bin/[id]': { who: own, of: 'binned' },
  'GET moves': { who: signedIn },
  'PUT moves': { who: teachers },
  'GET presets': { who: signedIn },
  'POST presets': { who: teachers },
  'DELETE presets/[id]': { who: teachers },
  'GET combinations': { who: signedIn },
  'POST combinations': { who: teachers },
  'GET backup': { who: teachers },
  'PUT backup': { who: teachers },
  'GET voice': { who: signedIn },
  'GET voice/own': { who: signedIn },
  'PUT voice/own': { who: signedIn },
  'DELETE voice/own': { who: signedIn },
  'GET voice/recordings/[id]': { who: look, of: 'recording' },
  'PUT voice/recordings/[id]': { who: signedIn },
  'POST films/incoming/[[...upload]]': { who: signedIn },
  'HEAD films/incoming/[[...upload]]': { who: signedIn },
  'PATCH films/incoming/[[...upload]]': { who: signedIn },
  'DELETE films/incoming/[[...upload]]': { who: signedIn },
  'GET films/[id]': { who: look, of: 'film' },
  'POST films/[id]': { who: signedIn },
  'GET films/[id]/file': { who: look, of: 'film' },
  'PUT songs': { who: teachers },
  'GET songs/[id]/audio': { who: look, of: 'song' },
  'GET songs/[id]/hearing': { who: look, of: 'song' },
  'PUT songs/[id]/hearing': { who: own, of: 'song' },
  'GET songs/[id]/hear': { who: own, of: 'song' },
  'POST songs/[id]/hear': { who: own, of: 'song' },
  'DELETE songs/[id]/hear': { who: own, of: 'song' },
  'GET songs/[id]/trace': { who: look, of: 'song' },
  'PUT songs/[id]/trace': { who: own, of: 'song' },
  'GET songs/[id]/measure': { who: look, of: 'song' },
  'PUT songs/[id]/measure': { who: own, of: 'song' },
  'POST routines': { who: teachers },
  'PUT routines/open': { who: teachers },
  'GET routines/[id]': { who: look, of: 'routine' },
  'PUT routines/[id]': { who: edit, of: 'routine' },
  'DELETE routines/[id]': { who: own, of: 'routine' },
  'GET routines/[id]/file': { who: own, of: 'routine' },
  'GET routines/[id]/lessons': { who: look, of: 'routine' },
  'POST routines/[id]/lessons': { who: look, of: 'routine' },
  'GET routines/[id]/repetitions': { who: look, of: 'routine' },
  'POST routines/[id]/repetitions': { who: look, of: 'routine' },
  'GET routines/[id]/timings': { who: look, of: 'routine' },
  'POST routines/[id]/timings': { who: look, of: 'routine' },
  'GET routines/[id]/sheet': { who: teach, of: 'routine' },
  'POST routines/[id]/sheet': { who: teach, of: 'routine' },
  'GET routines/[id]/takes/[film]': { who: edit, of: 'routine' },
  'POST routines/[id]/takes/[film]': { who: edit, of: 'routine' },
  'DELETE routines/[id]/takes/[film]': { who: edit, of: 'routine' },
  'GET routines/[id]/sheets/[sheet]': { who: own, of: 'routine', hidden: true },
  'POST routines/[id]/sheets/[sheet]': { who: own, of: 'routine', hidden: true },
  'DELETE routines/[id]/sheets/[sheet]': { who: own, of: 'routine', hidden: true },
  'GET routines/[id]/sheets/[sheet]/file': { who: own, of: 'routine', hidden: true },
  'GET routines/[id]/practice': { who: teach, of: 'routine' },
  'POST routines/[id]/here': { who: look, of: 'routine' },
  'GET routines/[id]/classes': { who: teach, of: 'routine' },
  'PUT routines/[id]/classes': { who: teach, of: 'routine' },
  'GET routines/[id]/sent': { who: teach, of: 'routine' },
  'POST routines/[id]/sent': { who: teach, of: 'routine' },
  'PATCH class-links/[id]': { who: own, of: 'link' },
  'DELETE class-links/[id]': { who: own, of: 'link' },
  'GET c/[token]': { who: all },
  'GET c/[token]/manifest.json': { who: all, of: 'token' },
  'POST classes/[token]': { who: all, of: 'token' },
  'POST classes/[token]/films/[[...upload]]': { who: all, of: 'token' },
  'HEAD classes/[token]/films/[[...upload]]': { who: all, of: 'token' },
  'PATCH classes/[token]/films/[[...upload]]': { who: all, of: 'token' },
  'DELETE classes/[token]/films/[[...upload]]': { who: all, of: 'token' },
  'POST classes/[token]/film': { who: all, of: 'token' },
  'PUT classes/[token]/marks': { who: all, of: 'token' },
  'GET routines/[id]/shares': { who: own, of: 'routine' },
  'PUT routines/[id]/shares': { who: own, of: 'routine' },
}

const people = {} as Record<Name, Who | null>
const ids = {
  ...{ routine: '', song: '', film: 'film-of-anna', recording: '', binned: '' },
  ...{ link: 'link-of-anna', token: 'token-of-a-class-of-anna', sheet: 'a'.repeat(64) },
}

beforeAll(async () => {
  people.nobody = null
  people.keeper = await joined('Keeper', 'owner')
  const anna = await joined('Anna', 'teacher')
  people.anna = anna
  people.boris = await joined('Boris', 'teacher')
  const own = await belongings(anna, 'Annas')
  Object.assign(ids, own)
  await doneBy(anna, async () => {
    ids.binned = await addRoutine(own.song)
    await binRoutine(ids.binned)
    const { routine } = await openRoutine(own.routine)
    const film = { id: 'f1', file: ids.film }
    // Written as it would be by a page that sent the film.
    await write(async (tx) => {
      await tx.insert(classLinks).values({
        ...{
          id: ids.link,
          routineId: own.routine,
          personId: anna.id,
          group: 'Annas class',
          token: ids.token,
        },
        ...{ page: 'e'.repeat(64), bytes: 1, made: '', title: 'Annas dance', createdAt: new Date() },
      })
      const document = JSON.stringify({ ...routine, films: [film], voices: [{ recording: own.recording }] })
      await tx.update(routines).set({ document }).where(eq(routines.id, own.routine))
      await tx.insert(sheets).values({
        ...{ id: ids.sheet, routineId: own.routine, personId: anna.id, askedAt: new Date() },
      })
      await tx.insert(films).values({
        ...{ id: ids.film, owner: anna.id, hash: 'f'.repeat(64), bytes: 1, mime: 'video/mp4', fileName: 'x' },
        ...{ seconds: 1, width: 1, height: 1, createdAt: new Date() },
      })
    })
  })
  for (const [name, right, role] of [
    ['looks', 'look', 'assistant'],
    ['teaches', 'teach', 'assistant'],
    ['edits', 'edit', 'teacher'],
  ] as const) {
    const person = await joined(name, role)
    people[name] = person
    await shareWith(anna, own.routine, person, right)
  }
})

type Handler = (
  request: Request,
  context: { params: Promise<Record<string, string | string[]>> },
) => Promise<Response>
/** Of those who joined. */
const ROLES_BEFORE = ['assistant', 'assistant', 'owner', 'teacher', 'teacher', 'teacher']

interface Route {
  name: string
  needs: Needs
}

async function routesThere(): Promise<Route[]> {
  const out: Route[] = []
  for (const file of routeFiles()) {
    const module = (await import(path.join(ROOT, file))) as Record<string, { needs?: Needs }>
    for (const method of METHODS) {
      const handler = module[method]
      if (!handler) continue
      const name = `${method} ${nameOf(file)}`
      if (!handler.needs) throw new Error(`${name} does not go through handle.ts`)
      out.push({ name, needs: handler.needs })
    }
  }
  return out
}

describe('every route', () => {
  it('is known here, and says what it needs', async () => {
    expect((await routesThere()).map((r) => r.name).sort()).toEqual(Object.keys(MAY).sort())
  })
  it('lets in who may, and nobody else: what one may not see is not there', async () => {
    const wrong: string[] = []
    for (const { name, needs } of await routesThere()) {
      const { who, of, hidden } = MAY[name] ?? { who: [] }
      const params = {
        id: of ? ids[of] : 'some-id-there-is-not',
        token: ids.token,
        film: ids.film,
        sheet: ids.sheet,
      }
      for (const person of PEOPLE) {
        const asked = await needs(people[person], params).then(
          () => 200,
          (e: unknown) => (e instanceof Problem ? e.status : 500),
        )
        const seen = of && !hidden && look.includes(person) && of !== 'binned' && of !== 'link'
        const expected = who.includes(person) ? 200 : person === 'nobody' ? 401 : of && !seen ? 404 : 403
        if (asked !== expected) wrong.push(`${name} by ${person}: ${asked}, not ${expected}`)
      }
    }
    expect(wrong).toEqual([])
  })
  it('is asked nothing of a school on one machine, and everything else there', async () => {
    delete process.env.AZALEA_PUBLIC_URL
    try {
      expect(await whoAsks(new Headers())).toBe(HERE)
      const schools =
        /^\w+ (session|invited|invitations|people|account|metrics|classes|class-links|c\/.*\/|songs\/\[id\]\/hear$|routines\/\[id\]\/(classes|sent|takes|sheets))/
      for (const { name, needs } of await routesThere()) {
        const { of } = MAY[name] ?? {}
        const done = await needs(HERE, { id: of ? ids[of] : 'some-id-there-is-not' }).then(
          () => true,
          () => false,
        )
        expect([name, done]).toEqual([name, !schools.test(name) || name === 'GET session'])
      }
    } finally {
      process.env.AZALEA_PUBLIC_URL = 'https://school.example'
    }
  })
})

/** Whatever of Anna's is somebody's secret: names that are in no other row. */
const SECRETS = [
  'Annas class',
  'token-of-a-class-of-anna',
  'Annas dance',
  'Annas song',
  'Learner of Annas',
  'keeper@school.example',
  'anna@school.example',
]

describe('another teacher', () => {
  it('reads nothing of the first and changes nothing in hundreds of tries over all routes', async () => {
    const boris = people.boris as Who
    const cookie = await cookieOf(boris)
    const db = await database()
    const hers = async () =>
      JSON.stringify([
        await db
          .select()
          .from(routines)
          .where(eq(routines.owner, (people.anna as Who).id)),
        await db
          .select()
          .from(songs)
          .where(eq(songs.owner, (people.anna as Who).id)),
        await db.select().from(films),
        await db.select().from(shares),
        await db.select().from(classLinks),
        await db.select().from(sheets),
      ])
    const before = await hers()
    const { token: _, ...hidden } = ids
    const known = [...Object.values(hidden), (people.anna as Who).id, (people.keeper as Who).id]
    const bodies = (id: string) => [
      {},
      { id: 'an-id-of-boris', songId: id },
      { id: 'an-id-of-boris', copyOf: id },
      { person: boris.id, right: 'edit' },
      { role: 'owner' },
      { window: 'window-of-boris' },
      { revision: 1, writer: 'window-boris', save: 1, routine: emptyRoutine('Mine now') },
    ]
    const said: string[] = []
    let tries = 0
    for (const file of routeFiles()) {
      const module = (await import(path.join(ROOT, file))) as Record<string, Handler>
      for (const method of METHODS) {
        // What is his own he may do: that is no try at hers.
        if (!module[method] || /^(account|session)/.test(nameOf(file))) continue
        // What a route is about it is asked of in all ways, in what it is not about with one body each.
        const about = MAY[`${method} ${nameOf(file)}`]?.of
        const own = about && about !== 'token' ? [ids[about]] : known.slice(0, 1)
        for (const id of isFar() ? own : known)
          for (const body of method === 'GET' || method === 'HEAD'
            ? [null]
            : bodies(id).slice(own.includes(id) && !isFar() ? 0 : -1)) {
            const url = `https://school.example/${path.dirname(file).replace(/\[+\.*\w+\]+/, id)}?routine=${id}&on=${id}&as=${id}`
            const headers = sending(cookie)
            const init = body ? { method, headers, body: JSON.stringify(body) } : { method, headers }
            const answer = await (module[method] as Handler)(new Request(url, init), {
              params: Promise.resolve({
                id,
                token: id,
                path: [id],
                upload: [id],
                film: ids.film,
                sheet: ids.sheet,
              }),
            })
            tries++
            const text = Buffer.from(await answer.arrayBuffer()).toString('latin1')
            said.push(...SECRETS.filter((x) => text.includes(x)).map((x) => `${method} ${file} ${id}: ${x}`))
          }
      }
    }
    // Over a network each once, with one body: it is the same program.
    expect(tries).toBeGreaterThan(isFar() ? 50 : 500)
    expect(said).toEqual([])
    expect(await hers()).toBe(before)
    expect((await everybody()).map((p) => p.role).sort()).toEqual(ROLES_BEFORE)
  })
})

describe('what is named in somebody’s own document', () => {
  it('is not theirs by that', async () => {
    const boris = people.boris as Who
    const own = await belongings(boris, 'Boriss')
    const text = JSON.stringify({ films: [{ file: ids.film }], voices: [{ recording: ids.recording }] })
    await (await database()).update(routines).set({ document: text }).where(eq(routines.id, own.routine))
    const { may } = await import('@/server/may')
    await expect(may.film(boris, { id: ids.film })).rejects.toMatchObject({ status: 404 })
    await expect(may.recording(boris, { id: ids.recording })).rejects.toMatchObject({ status: 404 })
    // Nor by sharing it with whoever owns what it names.
    await shareWith(boris, own.routine, people.anna as Who, 'edit')
    await expect(may.film(boris, { id: ids.film })).rejects.toMatchObject({ status: 404 })
  })
})
