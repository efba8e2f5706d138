import { setTimeout as pause } from 'node:timers/promises'
import { wordsOf } from '@/core/formats/said'
import type { Transaction } from './database'
import { fail, finish, giveBack, isAsked, type Job, type JobKind, LEASE_MS, renew, take } from './jobs'
import { Problem } from './problem'

/** It cannot be done by this process now. */
export const BACK_LATER = 'back later'

/**
 * Does a job. What it brings is kept in the transaction that ends the job.
 * @param tell how far it is, 0..1
 * @param signal aborted where nobody waits for it any more, or another has it
 * @throws Problem what whoever waits is told
 */
export type Work = (
  job: Job,
  tell: (share: number) => void,
  signal: AbortSignal,
) => Promise<((tx: Transaction) => Promise<unknown>) | typeof BACK_LATER>

/** Told so often how far it is, in ms, which makes the lease longer too. */
const RENEWED_MS = 1500
/** Where nothing was asked for, it is looked again after so long, in ms: a little more or less, so that processes do not do it at once. */
const LOOKED_MS = 3000
/** A database that is away is asked again after so long, in ms. */
const AWAY_MS = 15_000
/** What there was no room for may be taken after so long, in ms. */
const LATER_MS = 10_000
const WORN = 'The server began this several times, and never came to its end.'

/** Takes jobs, one at a time, as long as the process lives. */
export class JobRunner {
  private readonly ending = new AbortController()
  private wake = () => {}
  private running: Promise<void> | null = null

  /** @param instead what becomes of what was begun several times, in a sentence for whoever waits */
  constructor(
    private readonly works: Partial<Record<JobKind, Work>>,
    private readonly instead: string,
    private readonly renewed = RENEWED_MS,
  ) {}

  private get kinds() {
    return Object.keys(this.works) as JobKind[]
  }

  start(): void {
    this.running ??= this.run()
  }

  /** Something was asked for: it is looked at once. */
  nudge(): void {
    this.wake()
  }

  /** Ends; what it is at is given back first, for another process to take. */
  async end(): Promise<void> {
    this.ending.abort()
    this.wake()
    await this.running
  }

  private async run(): Promise<void> {
    const { signal } = this.ending
    while (!signal.aborted) {
      let rest = LOOKED_MS
      try {
        if (await this.runNext()) continue
      } catch (error) {
        // The database is away, or was made by a newer version: nobody waits for this process.
        console.warn(`Jobs are not taken now: ${wordsOf(error)}`)
        rest = AWAY_MS
      }
      const woken = new AbortController()
      this.wake = () => woken.abort()
      if (signal.aborted) return
      await pause(rest * (0.75 + 0.5 * Math.random()), null, { signal: woken.signal, ref: false }).catch(
        () => {},
      )
    }
  }

  /** Does the next job, if there is one. @returns false where none waits */
  async runNext(): Promise<boolean> {
    if (!(await isAsked(this.kinds))) return false
    const job = await take(this.kinds, `${WORN} ${this.instead}`)
    if (!job) return false
    await this.doJob(job)
    return true
  }

  private async doJob(job: Job): Promise<void> {
    const lost = new AbortController()
    const signal = AbortSignal.any([lost.signal, this.ending.signal])
    let share = 0
    const renewing = this.keepRenewing(job, () => share, lost)
    try {
      // Only what there is work for is taken.
      const work = this.works[job.kind] as Work
      const made = await work(
        job,
        (now) => {
          share = now
        },
        signal,
      )
      if (made === BACK_LATER) await giveBack(job, this.ending.signal.aborted ? 0 : LATER_MS)
      else await finish(job, made)
    } catch (error) {
      if (signal.aborted) await giveBack(job)
      else if (error instanceof Problem && error.status < 500) await fail(job, error.message)
      else {
        // A fault of the machine's: whoever takes it next may have none. Its tries are counted.
        console.warn(`A job (${job.kind}) was not done: ${wordsOf(error)}`)
        await giveBack(job, LATER_MS, true)
      }
    } finally {
      clearInterval(renewing)
    }
  }

  private keepRenewing(job: Job, share: () => number, lost: AbortController): NodeJS.Timeout {
    let heard = Date.now()
    let busy = false
    const timer = setInterval(async () => {
      if (busy) return
      busy = true
      try {
        if (await renew(job, share())) heard = Date.now()
        else lost.abort()
      } catch {
        // Where the database stays away, the lease is over and somebody else may have it.
        if (Date.now() - heard > LEASE_MS) lost.abort()
      } finally {
        busy = false
      }
    }, this.renewed)
    timer.unref()
    return timer
  }
}
