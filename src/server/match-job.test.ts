/* Looking for a song in a film, as work in the database, wherever both are kept. */
import { readFileSync } from 'node:fs'
import { eq } from 'drizzle-orm'
import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { aacIn, madeFilm } from '../decode/film.test-tools'
import { database } from './database'
import { takeInFilm } from './films'
import { sent } from './films.test-tools'
import { JobRunner } from './job-runner'
import { type About, aboutSong, ask, isAsked, stateOf } from './jobs'
import { matchFile, matchJob, songInFilm, takesFound } from './match-job'
import { ownData } from './own-data.test-tools'
import { films } from './schema'
import { joined, ownSchool } from './school.test-tools'
import { filmTakes, jobs } from './school-schema'
import { takeIn } from './songs'
import { doneBy, type Who } from './who'

ownData()
ownSchool()

/** The film is the song from this frame of its AAC on. */
const FIRST = 200
const FRAME = 1024 / 44_100

async function* pieces(bytes: Uint8Array) {
  yield bytes
}

let anna: Who
let routine = ''
let about: About

beforeAll(async () => {
  anna = await joined('Anna', 'teacher')
  const { frames, description } = await aacIn('e2e/fixtures/short.m4a')
  const seen = frames.slice(FIRST, FIRST + 600)
  const film = await madeFilm({
    ...{ seconds: Math.floor(600 * FRAME), format: 'mp4', heard: { frames: seen, description } },
  })
  await doneBy(anna, async () => {
    const { song, routines } = await takeIn(pieces(readFileSync('e2e/fixtures/short.mp3')), 'Short.mp3')
    routine = routines[0]?.id as string
    await sent('film-anna', film, 'phone.mp4')
    await takeInFilm('film-anna')
    about = { songId: song.id, subjectId: 'film-anna' }
  })
})
beforeEach(async () => {
  const db = await database()
  await db.delete(jobs)
  await db.delete(filmTakes)
})

const asks = (...list: About[]) =>
  doneBy(anna, async () => {
    for (const a of list) await ask('match', a)
  })
const runs = (match?: typeof matchFile) => new JobRunner({ match: matchJob(match) }, 'Here instead.')

describe('looking for a song in a film on the server', () => {
  it('is about the song of a routine', async () => {
    expect(await songInFilm(routine, 'film-anna')).toEqual(about)
    await expect(songInFilm('no-such-routine', 'film-anna')).rejects.toMatchObject({ status: 404 })
  })

  it('finds where it is danced, in AAC as phones write it', async () => {
    await asks(about)
    const told: number[] = []
    const match: typeof matchFile = (film, song, tell, signal) =>
      matchFile(
        ...[film, song],
        (share) => {
          told.push(share)
          tell(share)
        },
        signal,
      )
    expect(await takesFound(about)).toBeNull()
    expect(await runs(match).runNext()).toBe(true)
    expect(await stateOf('match', about)).toBeNull()
    const [take, ...more] = (await takesFound(about)) ?? []
    expect(more).toEqual([])
    expect(take?.rate).toBeCloseTo(1, 3)
    expect((take?.to ?? 0) - (take?.from ?? 0)).toBeGreaterThan(12)
    // The first frame of the song's AAC lies before its beginning.
    expect((take?.at ?? 0) - (take?.from ?? 0)).toBeCloseTo((FIRST - 1) * FRAME, 1)
    expect(told.length).toBeGreaterThan(1)
    expect(told).toEqual([...told].sort((a, b) => a - b))
    expect(await isAsked(['match'])).toBe(false)
  })

  it('is asked for once a film, beside hearing the song itself', async () => {
    const other = { ...about, subjectId: 'film-other' }
    await asks(about, about, other)
    await doneBy(anna, () => ask('hear', aboutSong(about.songId)))
    expect(await (await database()).select().from(jobs)).toHaveLength(3)
    // Who only looks for songs in films takes no other work.
    const seen: string[] = []
    const runner = runs(async (film) => {
      seen.push(film)
      return { made: { takes: [] } }
    })
    while (await runner.runNext());
    expect(await stateOf('match', about)).toBeNull()
    expect(await takesFound(about)).toEqual([])
    expect(seen).toHaveLength(1)
    expect(await stateOf('match', other)).toEqual({
      kind: 'failed',
      why: 'This film is not here any more.',
    })
    expect(await stateOf('hear', aboutSong(about.songId))).toMatchObject({ kind: 'waiting' })
  })

  it.each([
    [
      { problem: 'its sound is VORBIS' },
      'The server cannot hear this film: its sound is VORBIS. This device',
    ],
    [{ end: 'over' }, 'more time or memory'],
    [{ end: 'crashed' }, 'unexpectedly'],
  ] as const)('says why it cannot: %j', async (end, why) => {
    await asks(about)
    await runs(async () => end).runNext()
    expect(await stateOf('match', about)).toEqual({ kind: 'failed', why: expect.stringContaining(why) })
    expect(await takesFound(about)).toBeNull()
  })

  it('says that a file is missing, and not where it was looked for', async () => {
    const file = (await doneBy(anna, () => takeInFilm('film-anna'))).hash
    const db = await database()
    await db
      .update(films)
      .set({ hash: 'f'.repeat(64) })
      .where(eq(films.id, 'film-anna'))
    try {
      await asks(about)
      await runs().runNext()
      expect(await stateOf('match', about)).toEqual({
        kind: 'failed',
        why: 'The file of this film, or of its song, is missing on the server.',
      })
    } finally {
      await db.update(films).set({ hash: file }).where(eq(films.id, 'film-anna'))
    }
  })

  it('waits where the machine has no room for it', async () => {
    await asks(about)
    await runs(async () => ({ end: 'no room' })).runNext()
    expect(await stateOf('match', about)).toEqual({ kind: 'waiting', before: 0 })
  })

  it('keeps nothing of a film that went meanwhile, nor what another version found', async () => {
    await asks(about)
    const take = { from: 0, to: 10, at: 1, rate: 1, sure: 0.9 }
    await runs(async () => ({ made: { takes: [take] } })).runNext()
    expect(await takesFound(about)).toEqual([take])
    const db = await database()
    await db.update(filmTakes).set({ version: 0 })
    expect(await takesFound(about)).toBeNull()
    // Found anew, it takes the place of what was there.
    await asks(about)
    await runs(async () => ({ made: { takes: [] } })).runNext()
    expect(await takesFound(about)).toEqual([])
    await asks(about)
    await runs(async () => {
      await db.delete(films).where(eq(films.id, 'film-anna'))
      return { made: { takes: [take] } }
    }).runNext()
    expect(await takesFound(about)).toBeNull()
    expect(await db.select().from(filmTakes)).toEqual([])
    expect(await stateOf('match', about)).toEqual({
      kind: 'failed',
      why: 'This film is not here any more.',
    })
  })
})
