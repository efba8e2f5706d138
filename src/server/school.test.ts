import { createWriteStream, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { buffer as bufferOf } from 'node:stream/consumers'
import { pipeline } from 'node:stream/promises'
import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import { beforeAll, describe, expect, it } from 'vitest'
import yazl from 'yazl'
import { loopTrack } from '../../e2e/sounds'
import { accept, changePassword, everybody, invite, invitedBy, linkFor, Password, setRole } from './accounts'
import { DATABASE, MANIFEST, makeBackup } from './backup'
import { binned, binRoutine, removeRoutine, unbinRoutine } from './bin'
import { database } from './database'
import { erasePerson } from './erase'
import { keepHearing } from './hearings'
import { openRoutineFile } from './open-routine-file'
import { filesKept, ownData } from './own-data.test-tools'
import { recordingFile } from './recordings'
import { restoreBackup } from './restore'
import { routineFileOf } from './routine-file'
import { logOf, logRepetition, type NewRepetition, newerThan, openRoutine, saveRoutine } from './routines'
import { routines as routineRows, songs } from './schema'
import {
  belongings,
  cookieOf,
  joined,
  ownSchool,
  PASSWORD,
  sending,
  shareWith,
  status,
} from './school.test-tools'
import { credentials, guesses, people } from './school-schema'
import { shelfPart } from './shelf'
import { provePassword, SignInSchema, signedInBy, signIn, signOut } from './sign-in'
import { takeIn } from './songs'
import { sweep } from './sweep'
import { doneBy, me, type Who } from './who'
import { openZip } from './zip'

const dir = ownData()
ownSchool()

const MINUTE = 60_000
const DAY = 24 * 60 * MINUTE
const SHELF = { search: '', order: 'name', from: 0 } as const
const tokenOf = (link: string) => link.split('/').at(-1) as string
const asked = (email: string, password = PASSWORD) => v.parse(SignInSchema, { email, password })

let keeper: Who
let anna: Who
let boris: Who
beforeAll(async () => {
  keeper = await joined('Keeper', 'owner')
  anna = await joined('Anna', 'teacher')
  boris = await joined('Boris', 'teacher')
})

describe('signing in', () => {
  it('gives a cookie no script reads, over TLS alone, of this site alone', async () => {
    const { cookies, who } = await signIn(sending(), asked(' Anna@School.example '))
    expect(who).toEqual(anna)
    const session = cookies.find((c) => c.includes('session_token')) ?? ''
    // RFC 6265bis, 4.1.3.2.
    expect(session).toMatch(/^__Host-azalea\.(?!.*domain)/i)
    for (const word of ['HttpOnly', 'Secure', 'SameSite=Lax', 'Path=/']) expect(session).toContain(word)
    expect(await signedInBy(sending(session.split(';')[0]))).toEqual(anna)
  })
  it('gives each browser a session of its own, and none to a cookie that was made up', async () => {
    const [one, other] = [await cookieOf(anna), await cookieOf(anna)]
    expect(one).not.toBe(other)
    const [name, value = ''] = one.split('=')
    const flipped = `${value.startsWith('A') ? 'B' : 'A'}${value.slice(1)}`
    expect(await signedInBy(sending(`${name}=${flipped}`))).toBeNull()
    expect(await signedInBy(sending(`${name}=${value.split('.')[0]}`))).toBeNull()
    expect(await signedInBy(sending())).toBeNull()
  })
  it('says the same of a name that is not there and of a wrong password', async () => {
    const wrong = signIn(sending('', '192.0.2.50'), asked('anna@school.example', 'not this one at all'))
    const nobody = signIn(sending('', '192.0.2.50'), asked('nobody@school.example'))
    const [a, b] = await Promise.all([wrong, nobody].map((w) => w.catch((e: unknown) => e)))
    expect(a).toMatchObject({ status: 401, code: 'wrong' })
    expect(b).toEqual(a)
  })
  it('ends where somebody signs out, here or everywhere', async () => {
    const [one, other, third] = [await cookieOf(boris), await cookieOf(boris), await cookieOf(boris)]
    await signOut(sending(one), boris, false)
    expect(await signedInBy(sending(one))).toBeNull()
    expect(await signedInBy(sending(other))).toEqual(boris)
    await signOut(sending(other), boris, true)
    expect(await signedInBy(sending(third))).toBeNull()
  })
  it('is tried ten times by a name, however many try at once; then even the right one waits', async () => {
    const carla = await joined('Carla', 'teacher')
    const begun = Date.now()
    const tries = Array.from({ length: 30 }, (_, i) =>
      status(
        signIn(sending('', `198.51.100.${i}`), asked('carla@school.example', `wrong one no ${i}`), begun),
      ),
    )
    const said = await Promise.all(tries)
    expect(said.filter((s) => s === 401)).toHaveLength(10)
    expect(said.filter((s) => s === 429)).toHaveLength(20)
    const right = (at: number) =>
      status(signIn(sending('', '198.51.100.99'), asked('carla@school.example'), at))
    expect(await right(begun + 14 * MINUTE)).toBe(429)
    expect(await right(begun + 16 * MINUTE)).toBe(200)
    // Those that were right count no more.
    expect((await (await database()).select().from(guesses)).every((g) => g.tries < 10)).toBe(true)
    expect(carla.role).toBe('teacher')
  })
  it.each([
    ['an address', (i: number) => `203.0.113.${i}`, 200],
    ['the address the proxy wrote, not one that was sent along', () => '10.9.8.7, 203.0.113.77', 429],
  ])('is tried a hundred times from %s', async (_, address, expected) => {
    const begun = Date.now() + DAY
    const tried = (i: number) =>
      status(signIn(sending('', address(i)), asked(`guess${i}@school.example`), begun))
    expect(await tried(1)).toBe(401)
    // As if it had been tried as often as it may.
    await (await database()).update(guesses).set({ tries: 100 })
    expect(await tried(2)).toBe(expected === 429 ? 429 : 401)
    expect(await status(signIn(sending('', address(1)), asked('guess3@school.example'), begun))).toBe(429)
    await (await database()).delete(guesses)
  })
})

describe('an account', () => {
  it('is begun by a link, once, and for a week', async () => {
    const now = Date.now()
    const link = await invite({ email: 'dora@school.example', name: 'Dora', role: 'assistant' }, now)
    expect(link).toMatch(/^https:\/\/school\.example\/invited\/[\w-]{32}$/)
    expect(await invitedBy(tokenOf(link), now)).toEqual({
      email: 'dora@school.example',
      name: 'Dora',
      again: false,
    })
    expect(await status(invitedBy(tokenOf(link), now + 8 * DAY))).toBe(404)
    const second = await invite({ email: 'dora@school.example', name: 'Dora', role: 'assistant' }, now)
    expect(await status(accept(tokenOf(link), PASSWORD))).toBe(404)
    const both = await Promise.all([1, 2].map(() => status(accept(tokenOf(second), PASSWORD))))
    expect(both.sort()).toEqual([200, 404])
    expect(await status(invite({ email: 'dora@school.example', name: 'D', role: 'owner' }))).toBe(409)
  })
  it('gets another password by a link or by the old one, and is signed out everywhere', async () => {
    const emil = await joined('Emil', 'teacher')
    const cookie = await cookieOf(emil)
    await accept(tokenOf(await linkFor(emil.id, 'Anna')), 'quite another password')
    expect(await signedInBy(sending(cookie))).toBeNull()
    expect(await status(signIn(sending(), asked('emil@school.example')))).toBe(401)
    expect(await status(provePassword(sending(), emil, PASSWORD))).toBe(403)
    await provePassword(sending(), emil, 'quite another password')
    await changePassword(emil.id, PASSWORD)
    expect(await status(signIn(sending(), asked('emil@school.example')))).toBe(200)
  })
  it('has a long password of any letters, which is kept hashed', async () => {
    expect(v.is(Password, 'elevenchars')).toBe(false)
    expect(v.is(Password, 'x'.repeat(129))).toBe(false)
    expect(v.is(Password, 'パスワードは長いほうがいい')).toBe(true)
    const rows = await (await database()).select().from(credentials)
    for (const { password } of rows) {
      expect(password).toMatch(/^[0-9a-f]{32}:[0-9a-f]{128}$/)
      expect(password).not.toContain(PASSWORD)
    }
  })
  it('has no password that many use, nor one’s own name, by a link or by changing it', async () => {
    const link = await invite({ email: 'gunda@school.example', name: 'Gunda Wohlfahrt', role: 'teacher' })
    const token = link.split('/').at(-1) ?? ''
    for (const easy of ['password1234', 'abababababababab', 'gunda@school.example', 'Gunda Wohlfahrt'])
      expect(await status(accept(token, easy))).toBe(400)
    // The link is good still.
    await accept(token, PASSWORD)
    const gunda = (await everybody()).find((p) => p.name === 'Gunda Wohlfahrt')
    expect(await status(changePassword(gunda?.id ?? '', 'password1234'))).toBe(400)
    expect(await status(changePassword('nobody-of-that-id', 'quite another password'))).toBe(404)
    await changePassword(gunda?.id ?? '', 'quite another password')
  })
  it('keeps the accounts of the school: the last who does stays', async () => {
    expect(await status(setRole(keeper.id, 'teacher', 'Anna'))).toBe(409)
    expect(await status(erasePerson(keeper.id))).toBe(409)
    await setRole(boris.id, 'owner', 'Anna')
    await setRole(boris.id, 'teacher', 'Anna')
    expect((await everybody()).find((p) => p.id === boris.id)?.role).toBe('teacher')
  })
})

describe('what somebody has', () => {
  it('is on their shelf alone, until it is shared, and no longer once that is taken back', async () => {
    const { routine } = await belongings(anna, 'Annas')
    const seen = () =>
      doneBy(boris, async () => (await shelfPart(SHELF)).items.map((i) => [i.title, i.right, i.of]))
    expect(await seen()).toEqual([])
    await shareWith(anna, routine, boris, 'teach')
    expect(await seen()).toEqual([['Annas dance', 'teach', 'Anna']])
    expect(await doneBy(keeper, async () => (await shelfPart(SHELF)).all)).toBe(0)
    await shareWith(anna, routine, boris, null)
    expect(await seen()).toEqual([])
    expect(await status(doneBy(boris, () => openRoutine(routine)))).toBe(404)
    await doneBy(anna, () => removeRoutine(routine))
  })
  it('is a song of their own, though another brought the same file; that goes when both have let it go', async () => {
    async function* bytes() {
      yield loopTrack(143, 4)
    }
    const [mine, theirs] = [
      await doneBy(anna, () => takeIn(bytes(), 'Mine.wav')),
      await doneBy(boris, () => takeIn(bytes(), 'Theirs.wav')),
    ]
    expect(theirs.fresh).toBe(true)
    expect(theirs.song.id).not.toBe(mine.song.id)
    const there = () => filesKept(dir, 'audio').includes(mine.song.hash)
    await doneBy(anna, () => removeRoutine(mine.routines[0]?.id ?? ''))
    expect(there()).toBe(true)
    await doneBy(boris, () => removeRoutine(theirs.routines[0]?.id ?? ''))
    expect(there()).toBe(false)
  })
  it('keeps its learners and its log to whoever teaches them, also when another saves it', async () => {
    const { routine } = await belongings(anna, 'Log')
    await shareWith(anna, routine, boris, 'edit')
    const row: Omit<NewRepetition, 'id'> = {
      ...{ kind: 'drill', from: 1, to: 5, label: 'x', pass: 'all', speed: 0.75, sound: 'both', seconds: 5 },
      ...{ mark: 'clean', looped: false, slips: [], corrects: null, group: 'Monday' },
      doneAt: Date.UTC(2026, 10, 1),
    }
    await doneBy(anna, () => logRepetition(routine, { ...row, id: 'row-of-anna' }))
    await doneBy(boris, () => logRepetition(routine, { ...row, id: 'row-of-boris' }))
    const seen = (who: Who) => doneBy(who, async () => (await logOf([routine])).map((r) => r.id))
    expect([await seen(anna), await seen(boris)]).toEqual([['row-of-anna'], ['row-of-boris']])
    // One that is known under this id is Anna's.
    expect(await status(doneBy(boris, () => logRepetition(routine, { ...row, id: 'row-of-anna' })))).toBe(409)
    const open = await doneBy(boris, () => openRoutine(routine))
    expect(open.routine.learners).toEqual([])
    const save = { revision: open.revision, writer: 'window-boris', save: 1 }
    await doneBy(boris, () => saveRoutine(routine, save, { ...open.routine, title: 'By Boris' }))
    const after = await doneBy(anna, () => newerThan(routine, open.revision))
    expect(after?.routine).toMatchObject({ title: 'By Boris', learners: [{ name: 'Learner of Log' }] })
    await shareWith(anna, routine, boris, 'teach')
    const again = { revision: open.revision + 1, writer: 'window-boris', save: 2 }
    expect(await status(doneBy(boris, () => saveRoutine(routine, again, open.routine)))).toBe(403)
    await doneBy(anna, () => removeRoutine(routine))
  })
  it('comes to another by a file under ids of its own', async () => {
    const { routine, song } = await belongings(anna, 'File')
    const hearing = { version: 1, duration: 4, beats: [0.5, 1, 1.5, 2], phrases: [0] }
    const peaks = Buffer.alloc(8)
    const heard = (id: string) => keepHearing(id, 1, JSON.stringify(hearing), peaks)
    await heard(song)
    const file = path.join(dir, 'brought.azalea.json')
    const made = await doneBy(anna, () => routineFileOf(routine, { lessons: true }))
    writeFileSync(file, JSON.stringify({ ...made, hearing: null }))
    const row = await (await database()).query.songs.findFirst({ where: eq(songs.id, song) })
    expect(row?.hash).toBe(made.song.sha256)
    // The song is Anna's: to Boris it is not here.
    const open = () => doneBy(boris, () => openRoutineFile(file, { as: null, on: null }))
    await expect(open()).rejects.toMatchObject({ code: 'no-song' })
    await expect(doneBy(anna, () => openRoutineFile(file, { as: null, on: null }))).rejects.toMatchObject({
      code: 'here',
    })
    await doneBy(anna, () => removeRoutine(routine))
  })
  it('lies in a bin for a month, and can be taken out of it', async () => {
    const { routine } = await belongings(anna, 'Bin')
    const now = Date.now()
    await doneBy(anna, () => binRoutine(routine, new Date(now)))
    expect(await status(doneBy(anna, () => openRoutine(routine)))).toBe(404)
    expect((await doneBy(anna, binned)).map((b) => b.title)).toEqual(['Bin dance'])
    expect(await doneBy(boris, binned)).toEqual([])
    await sweep(await database(), now + 29 * DAY)
    await doneBy(anna, () => unbinRoutine(routine))
    expect((await doneBy(anna, () => openRoutine(routine))).routine.title).toBe('Bin dance')
    await doneBy(anna, () => binRoutine(routine, new Date(now)))
    await sweep(await database(), now + 31 * DAY)
    expect(await doneBy(anna, binned)).toEqual([])
  })
  it('goes with the account when that is erased, and nothing of others does', async () => {
    const felix = await joined('Felix', 'teacher')
    const [his, hers] = [await belongings(felix, 'Felixs'), await belongings(anna, 'Stays')]
    await shareWith(anna, hers.routine, felix, 'edit')
    const cookie = await cookieOf(felix)
    await erasePerson(felix.id)
    expect(await signedInBy(sending(cookie))).toBeNull()
    const db = await database()
    const left = await db.select().from(routineRows).where(eq(routineRows.owner, felix.id))
    expect(left).toEqual([])
    expect(await db.select().from(people).where(eq(people.id, felix.id))).toEqual([])
    await expect(recordingFile(his.recording)).rejects.toMatchObject({ status: 404 })
    expect((await doneBy(anna, () => openRoutine(hers.routine))).routine.title).toBe('Stays dance')
    await doneBy(anna, () => removeRoutine(hers.routine))
  })
})

describe('what somebody takes out', () => {
  it('is all of theirs and nothing of others, and can be brought by another as theirs', async () => {
    const gerda = await joined('Gerda', 'teacher')
    const [hers, others] = [await belongings(gerda, 'Gerdas'), await belongings(boris, 'Hidden')]
    await shareWith(boris, others.routine, gerda, 'edit')
    const row: NewRepetition = {
      ...{
        id: 'row-of-gerda',
        kind: 'run',
        from: 1,
        to: 5,
        label: 'x',
        pass: 'all',
        speed: 1,
        sound: 'both',
      },
      ...{ seconds: 5, mark: 'clean', looped: false, slips: [], corrects: null, group: '' },
      doneAt: Date.UTC(2026, 10, 1),
    }
    await doneBy(gerda, () => logRepetition(hers.routine, row))
    const file = path.join(dir, 'taken.zip')
    const { stream, close } = await doneBy(gerda, makeBackup)
    await pipeline(stream, createWriteStream(file))
    await close()
    expect(readFileSync(file).includes('Hidden')).toBe(false)
    // Whoever it was stays: what another brings is a copy under other ids.
    const helen = await joined('Helen', 'teacher')
    const brought = await doneBy(helen, () => restoreBackup(file))
    expect(brought).toMatchObject({ songs: 1, routines: 1, log: 1, damaged: 0, beside: [] })
    const seen = (who: Who) =>
      doneBy(who, async () => {
        const { items } = await shelfPart(SHELF)
        const own = items.filter((i) => i.right === 'own')
        return [own.map((i) => i.title), (await logOf(own.map((i) => i.id))).map((r) => r.label)]
      })
    expect(await seen(helen)).toEqual([['Gerdas dance'], ['x']])
    expect(await seen(gerda)).toEqual([['Gerdas dance'], ['x']])
    // Brought once more it is there already.
    expect(await doneBy(helen, () => restoreBackup(file))).toMatchObject({ songs: 0, routines: 0, log: 0 })
    await doneBy(boris, () => removeRoutine(others.routine))
  })
})

describe('a backup that names what is kept of somebody else', () => {
  it('does not bring it: its bytes did not come along', async () => {
    const iris = await joined('Iris', 'teacher')
    await belongings(iris, 'Iriss')
    const whole = path.join(dir, 'whole.zip')
    const { stream, close } = await doneBy(iris, makeBackup)
    await pipeline(stream, createWriteStream(whole))
    await close()
    const zip = await openZip(whole, () => 1e9)
    const manifest = JSON.parse(await zip.text(MANIFEST))
    const database = await bufferOf(await zip.read(DATABASE))
    zip.close()
    const bare = new yazl.ZipFile()
    bare.addBuffer(Buffer.from(JSON.stringify({ ...manifest, songs: [] })), MANIFEST)
    bare.addBuffer(database, DATABASE)
    bare.end()
    const file = path.join(dir, 'bare.zip')
    await pipeline(bare.outputStream, createWriteStream(file))
    const jana = await joined('Jana', 'teacher')
    expect(await doneBy(jana, () => restoreBackup(file))).toMatchObject({ songs: 0, routines: 0 })
    expect(await doneBy(jana, async () => (await shelfPart(SHELF)).all)).toBe(0)
    // With its bytes it is theirs.
    expect(await doneBy(jana, () => restoreBackup(whole))).toMatchObject({ songs: 1, routines: 1 })
  })
})

describe('nobody', () => {
  it('is not somebody', () => {
    expect(() => me()).toThrow('signed out')
  })
})
