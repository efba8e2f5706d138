import { hearJob } from './hear-job'
import { JobRunner } from './job-runner'
import { matchJob } from './match-job'
import { takesJobs } from './settings'
import { isSchool } from './who'

// One for the whole process: routes and what runs at its start are bundled apart.
const shared = globalThis as { azaleaJobs?: JobRunner }

/** Begins to take heavy work, in a school: on one's own machine the page does it. */
export function startJobs(): void {
  // While the app is built its start is run as well; there is nothing to serve then.
  if (!isSchool() || !takesJobs() || process.env.NEXT_PHASE === 'phase-production-build') return
  shared.azaleaJobs ??= new JobRunner({ hear: hearJob(), match: matchJob() })
  shared.azaleaJobs.start()
}

/** Ends; what this process is at is given back for another. */
export const endJobs = async (): Promise<void> => shared.azaleaJobs?.end()
