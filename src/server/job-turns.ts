import { hearJob } from './hear-job'
import { JobRunner, type Work } from './job-runner'
import { type JobKind, QUEUES } from './jobs'
import { matchJob } from './match-job'
import { takesJobs } from './settings'
import { sheetJob } from './sheet-job'
import { isSchool } from './who'

// One for the whole process: routes and what runs at its start are bundled apart.
const shared = globalThis as { azaleaJobs?: Runners }

const WORKS: Record<JobKind, Work> = { hear: hearJob(), match: matchJob(), sheet: sheetJob() }
const INSTEAD: Record<JobKind, string> = {
  ...{ hear: 'This device does it itself.', match: 'This device does it itself.' },
  sheet: 'Choose a part of the dance, or leave its pictures out.',
}

/** Each queue of work with one who does it. */
class Runners {
  private readonly all = QUEUES.map(
    (kinds) => new JobRunner(Object.fromEntries(kinds.map((k) => [k, WORKS[k]])), INSTEAD[kinds[0]]),
  )
  start() {
    for (const runner of this.all) runner.start()
  }
  nudge() {
    for (const runner of this.all) runner.nudge()
  }
  async end() {
    await Promise.all(this.all.map((runner) => runner.end()))
  }
}

/** Begins to take heavy work, in a school: on one's own machine the page does it. */
export function startJobs(): void {
  // While the app is built its start is run as well; there is nothing to serve then.
  if (!isSchool() || !takesJobs() || process.env.NEXT_PHASE === 'phase-production-build') return
  shared.azaleaJobs ??= new Runners()
  shared.azaleaJobs.start()
}

/** Ends; what this process is at is given back for another. */
export const endJobs = async (): Promise<void> => shared.azaleaJobs?.end()
