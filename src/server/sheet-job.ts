import { refuseTooMuch, setSheet } from './handout/set-sheet'
import { nudgeJobs } from './job-nudge'
import type { Work } from './job-runner'
import { type About, ask } from './jobs'
import { songOfRoutine } from './routine-song'
import { askedIn, isSet, keepAsked, keepSet, type Sheet } from './sheets'

/** What a sheet of a routine is about. @throws Problem 404 */
export const aboutSheet = async (routineId: string, sheet: string): Promise<About> => ({
  songId: await songOfRoutine(routineId),
  subjectId: sheet,
})

/** Asks for a sheet that was asked for before to be set, where it is not. */
export async function askAgain(about: About): Promise<void> {
  if (await isSet(about.subjectId)) return
  await ask('sheet', about)
  nudgeJobs()
}

/** Asks for a sheet to be set, by whatever process has room. @returns the sheet's id. @throws Problem 404, 413 where it is more than can be set */
export async function askForSheet(routineId: string, asked: Sheet): Promise<string> {
  refuseTooMuch(asked.rows)
  const id = await keepAsked(routineId, asked)
  await askAgain(await aboutSheet(routineId, id))
  return id
}

/** Sets the sheet of a job. @param set by which program */
export const sheetJob =
  (set: typeof setSheet = setSheet): Work =>
  async ({ subjectId }, _, signal) => {
    const { rows, head, paper } = await askedIn(subjectId)
    await keepSet(subjectId, await set(rows, head, paper, signal))
    // It lies in the store of files: nothing is left for the database.
    return async () => {}
  }
