/* Heavy work in the database: leases, and what a process does with them. */
import { eq } from 'drizzle-orm'
import { beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { readWav } from '@/core/formats/wav'
import { listen } from '@/core/hear/listen'
import { loopTrack } from '../../e2e/sounds'
import { database } from './database'
import { hearJob } from './hear-job'
import { type HearingEnd, hearFile } from './hear-song'
import { hearingOf } from './hearings'
import { BACK_LATER, JobRunner, type Work } from './job-runner'
import {
  aboutSong,
  ask,
  fail,
  finish,
  giveBack,
  isAsked,
  type Job,
  type JobState,
  jobsNow,
  MOST_TRIES,
  renew,
  stateOf,
  take,
  takeBack,
} from './jobs'
import { ownData } from './own-data.test-tools'
import { Problem } from './problem'
import { songs } from './schema'
import { joined, ownSchool } from './school.test-tools'
import { jobs } from './school-schema'
import { takeIn } from './songs'
import { sweepJobs } from './sweep'
import { doneBy, type Who } from './who'

ownData()
ownSchool()

async function* pieces(bytes: Uint8Array) {
  yield bytes
}

let anna: Who
let boris: Who
const song: Record<'a' | 'b' | 'c' | 'boris', string> = { a: '', b: '', c: '', boris: '' }
const sound = loopTrack(120, 12)

beforeAll(async () => {
  anna = await joined('Anna', 'teacher')
  boris = await joined('Boris', 'teacher')
  const own = (who: Who, bytes: Uint8Array, name: string) =>
    doneBy(who, async () => (await takeIn(pieces(bytes), name)).song.id)
  song.a = await own(anna, sound, 'a.wav')
  song.b = await own(anna, loopTrack(100, 2), 'b.wav')
  song.c = await own(anna, loopTrack(101, 2), 'c.wav')
  song.boris = await own(boris, loopTrack(102, 2), 'd.wav')
})
beforeEach(async () => {
  await (await database()).delete(jobs)
})

const asks = (who: Who, ...ids: string[]) =>
  doneBy(who, async () => {
    for (const id of ids) await ask('hear', aboutSong(id))
  })
const takeOne = () => take(['hear'], 'worn')
const took = async () => (await takeOne()) as Job
/** As if a lease's time were over, or something were asked for earlier. */
const set = async (id: string, what: Partial<typeof jobs.$inferInsert>) =>
  (await database()).update(jobs).set(what).where(eq(jobs.songId, id))
const long = new Date(0)
/** As long as a busy machine takes. */
const BUSY = { timeout: 30_000, interval: 5 }

describe('work that is asked for', () => {
  it('waits once, however often it is asked for, and says what is before it', async () => {
    expect(await isAsked(['hear'])).toBe(false)
    await asks(anna, song.a, song.a, song.b)
    await set(song.a, { askedAt: long })
    expect(await isAsked(['hear'])).toBe(true)
    expect(await jobsNow()).toEqual({ waiting: 2, working: 0 })
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'waiting', before: 0 })
    expect(await stateOf('hear', aboutSong(song.b))).toEqual({ kind: 'waiting', before: 1 })
    expect(await stateOf('hear', aboutSong(song.c))).toBeNull()
  })

  it('is taken by one, the longest waiting first, and says how far it is', async () => {
    await asks(anna, song.a, song.b)
    await set(song.b, { askedAt: long })
    const job = await took()
    expect(job.songId).toBe(song.b)
    expect(await renew(job, 0.4)).toBe(true)
    expect(await stateOf('hear', aboutSong(song.b))).toEqual({ kind: 'working', share: 0.4 })
    expect((await took()).songId).toBe(song.a)
    expect(await takeOne()).toBeNull()
    expect(await jobsNow()).toEqual({ waiting: 0, working: 2 })
  })

  it('goes to each of many who take at once, to nobody twice', async () => {
    await asks(anna, song.a, song.b, song.c)
    const taken = await Promise.all(Array.from({ length: 6 }, takeOne))
    const ids = taken.flatMap((j) => (j ? [j.songId] : []))
    expect(ids.sort()).toEqual([song.a, song.b, song.c].sort())
  })

  it('of somebody for whom nothing is being done comes first', async () => {
    await asks(anna, song.a, song.b)
    await asks(boris, song.boris)
    await set(song.a, { askedAt: long })
    await set(song.b, { askedAt: new Date(1) })
    expect((await took()).songId).toBe(song.a)
    expect((await took()).songId).toBe(song.boris)
    expect((await took()).songId).toBe(song.b)
  })

  it('is kept with its end, whole or not at all', async () => {
    await asks(anna, song.a)
    const job = await took()
    const broken = finish(job, async (tx) => {
      await tx.update(songs).set({ credit: 'half' }).where(eq(songs.id, song.a))
      throw new Error('broken')
    })
    await expect(broken).rejects.toThrow('broken')
    const credit = async () =>
      (await (await database()).select().from(songs).where(eq(songs.id, song.a)))[0]?.credit
    expect(await credit()).toBe('')
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'working', share: 0 })
    expect(
      await finish(job, (tx) => tx.update(songs).set({ credit: 'whole' }).where(eq(songs.id, song.a))),
    ).toBe(true)
    expect(await credit()).toBe('whole')
    expect(await stateOf('hear', aboutSong(song.a))).toBeNull()
  })
})

describe('a lease', () => {
  it('that is over goes to another, and who lost it brings nothing', async () => {
    await asks(anna, song.a)
    const first = await took()
    expect(await takeOne()).toBeNull()
    await set(song.a, { until: long })
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'waiting', before: 0 })
    const second = await took()
    expect([second.id, second.tries]).toEqual([first.id, 2])
    let kept = 0
    expect(await renew(first, 0.9)).toBe(false)
    expect(await finish(first, async () => kept++)).toBe(false)
    await fail(first, 'of no matter')
    await giveBack(first)
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'working', share: 0 })
    expect(await finish(second, async () => kept++)).toBe(true)
    expect(kept).toBe(1)
  })

  it('is made longer after its end while nobody else took it', async () => {
    await asks(anna, song.a)
    const job = await took()
    await set(song.a, { until: long })
    expect(await renew(job, 0.5)).toBe(true)
    expect(await takeOne()).toBeNull()
  })

  it('is lost where nobody waits any more', async () => {
    await asks(anna, song.a)
    const job = await took()
    await takeBack('hear', aboutSong(song.a))
    expect(await renew(job, 0.5)).toBe(false)
    expect(await stateOf('hear', aboutSong(song.a))).toBeNull()
  })

  it('that ends the process each time is not given for ever, and is when asked anew', async () => {
    await asks(anna, song.a)
    for (let i = 0; i < MOST_TRIES; i++) {
      expect((await took()).tries).toBe(i + 1)
      await set(song.a, { until: long })
    }
    expect(await takeOne()).toBeNull()
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'failed', why: 'worn' })
    await asks(anna, song.a)
    expect((await took()).tries).toBe(1)
  })

  it('that is given back waits again, at once or later, and was no try unless it went wrong', async () => {
    await asks(anna, song.a)
    await giveBack(await took())
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'waiting', before: 0 })
    await giveBack(await took(), 60_000, true)
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'waiting', before: 0 })
    expect(await takeOne()).toBeNull()
    await set(song.a, { until: long })
    expect((await took()).tries).toBe(2)
  })

  it('of a day ago is forgotten where nobody is at it', async () => {
    await asks(anna, song.a, song.b)
    await set(song.a, { askedAt: long })
    await took()
    await sweepJobs(await database(), Date.now() + 25 * 3600 * 1000)
    expect([await stateOf('hear', aboutSong(song.a)), await stateOf('hear', aboutSong(song.b))]).toEqual([
      { kind: 'working', share: 0 },
      null,
    ])
  })
})

describe('a process that takes work', () => {
  const runs = (hear: Work, renewed?: number) => new JobRunner({ hear }, 'Here instead.', renewed)
  const failing = (error: unknown) =>
    runs(async () => {
      throw error
    })
  /** What becomes of a job whose listener's process ended so. */
  const heardBy = async (end: HearingEnd): Promise<JobState> => {
    await asks(anna, song.a)
    await runs(hearJob(async () => end)).runNext()
    return stateOf('hear', aboutSong(song.a))
  }

  it('hears a song as a page does, wherever it is kept', async () => {
    await asks(anna, song.a)
    const told: number[] = []
    const hear: typeof hearFile = (file, tell, signal) =>
      hearFile(
        file,
        (share) => {
          told.push(share)
          tell(share)
        },
        signal,
      )
    expect(await runs(hearJob(hear)).runNext()).toBe(true)
    expect(await stateOf('hear', aboutSong(song.a))).toBeNull()
    const { sampleRate, channels } = readWav(sound)
    const { hearing } = listen(channels[0] as Float32Array, sampleRate)
    expect((await hearingOf(song.a, 0))?.hearing).toEqual(hearing)
    expect(hearing.tempo).toBeCloseTo(120, 1)
    expect(told.length).toBeGreaterThan(5)
    expect(told).toEqual([...told].sort((a, b) => a - b))
    expect(await runs(hearJob()).runNext()).toBe(false)
  })

  it('says why a song cannot be heard here, and gives back what it has no room for', async () => {
    expect(await heardBy({ problem: 'no sound in this file' })).toMatchObject({
      why: expect.stringContaining('no sound in this file. This device listens itself.'),
    })
    expect(await heardBy({ end: 'over' })).toMatchObject({
      why: expect.stringContaining('more time or memory'),
    })
    expect(await heardBy({ end: 'crashed' })).toMatchObject({ why: expect.stringContaining('unexpectedly') })
    expect(await heardBy({ end: 'no room' })).toEqual({ kind: 'waiting', before: 0 })
    const [row] = await (await database()).select().from(jobs)
    expect([row?.tries, row?.until !== null]).toEqual([0, true])
  })

  it('tells what was refused, and leaves what befell the machine to the next', async () => {
    await asks(anna, song.a)
    await failing(new Problem(422, 'Of its own fault.', 'x')).runNext()
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'failed', why: 'Of its own fault.' })
    for (const error of [new Problem(503, 'Away.', 'away'), new Error('a disk broke')]) {
      await asks(anna, song.b)
      await failing(error).runNext()
      expect(await stateOf('hear', aboutSong(song.b))).toEqual({ kind: 'waiting', before: 0 })
    }
    const [row] = await (await database()).select().from(jobs).where(eq(jobs.songId, song.b))
    expect(row?.tries).toBe(1)
  })

  it('ends what nobody waits for, and gives back what it is at when it ends itself', async () => {
    const stopped: string[] = []
    const waits: Work = (job, _, signal) =>
      new Promise((resolve, reject) => {
        signal.addEventListener('abort', () => {
          // Broken off while it reads, it throws; while it listens, it comes back.
          stopped.push(job.songId)
          if (stopped.length < 3) resolve(BACK_LATER)
          else reject(signal.reason)
        })
      })
    const untilTaken = () =>
      vi.waitFor(async () => expect((await stateOf('hear', aboutSong(song.a)))?.kind).toBe('working'), BUSY)
    await asks(anna, song.a)
    const runner = runs(waits, 10)
    const first = runner.runNext()
    await untilTaken()
    await takeBack('hear', aboutSong(song.a))
    await first
    await asks(anna, song.a)
    const second = runner.runNext()
    await untilTaken()
    await runner.end()
    await second
    const another = runs(waits, 10)
    const third = another.runNext()
    await untilTaken()
    await another.end()
    await third
    expect(stopped).toEqual([song.a, song.a, song.a])
    expect(await stateOf('hear', aboutSong(song.a))).toEqual({ kind: 'waiting', before: 0 })
    expect((await took()).tries).toBe(1)
  })

  it('takes what is asked for as long as it lives', async () => {
    const done: string[] = []
    const runner = runs(async (job) => {
      done.push(job.songId)
      return async () => {}
    })
    runner.start()
    await asks(anna, song.a, song.b)
    await vi.waitFor(() => {
      runner.nudge()
      expect(done).toHaveLength(2)
    }, BUSY)
    await runner.end()
    expect(done.sort()).toEqual([song.a, song.b].sort())
    await asks(anna, song.c)
    expect(await jobsNow()).toEqual({ waiting: 1, working: 0 })
  })
})
