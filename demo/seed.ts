/* Puts the demo song and its routine into the data directory; does nothing when they are there. */
import { mkdir, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { and, eq, gt } from 'drizzle-orm'
import { toMono, writeWav } from '../src/core/formats/wav'
import { packPeaks } from '../src/core/hear'
import { listen } from '../src/core/hear/listen'
import { database } from '../src/server/database'
import { keepHearing } from '../src/server/hearings'
import { logLessonStep } from '../src/server/lessons'
import { logRepetition, saveRoutine } from '../src/server/routines'
import { lessonSteps, repetitions, routines as routineRows, songs, timings } from '../src/server/schema'
import { dataDirectory } from '../src/server/settings'
import { takeIn } from '../src/server/songs'
import { logTiming } from '../src/server/timings'
import { demoCourse, demoLearners, demoLessons, demoLog, demoPlan, demoTimings } from './lesson'
import { DEMO_FILE, demoRoutine } from './routine'
import { demoTruth, renderDemoSong } from './song'

async function seed(): Promise<void> {
  const db = await database()
  const known = await db.query.songs.findFirst({ where: eq(songs.fileName, DEMO_FILE) })
  // Saved last: a seeding that was broken off is done again.
  if (
    known &&
    (await db.query.routines.findFirst({
      where: and(eq(routineRows.songId, known.id), gt(routineRows.revision, 0)),
    }))
  )
    return
  const { left, right, sampleRate } = renderDemoSong()
  const wav = writeWav({ sampleRate, channels: [left, right] })
  const dir = path.join(dataDirectory(), 'demo')
  await mkdir(dir, { recursive: true })
  await writeFile(path.join(dir, DEMO_FILE), wav)
  await writeFile(path.join(dir, 'Marmalade Weather truth.json'), JSON.stringify(demoTruth()))
  async function* bytes() {
    yield wav
  }
  const { song, routines } = await takeIn(bytes(), DEMO_FILE)
  // Heard like any other song.
  const { hearing, peaks } = listen(toMono({ sampleRate, channels: [left, right] }), sampleRate)
  await keepHearing(song.id, hearing.version, JSON.stringify(hearing), Buffer.from(packPeaks(peaks)))
  const routine = demoRoutine(hearing.beats)
  const id = routines[0]?.id ?? ''
  const plan = demoPlan(routine, hearing.beats)
  await db.delete(repetitions).where(eq(repetitions.routineId, id))
  await db.delete(lessonSteps).where(eq(lessonSteps.routineId, id))
  for (const row of demoLog(routine, hearing.beats, Date.now())) await logRepetition(id, row)
  for (const row of demoLessons(plan, routine, hearing.beats, Date.now())) await logLessonStep(id, row)
  await db.delete(timings).where(eq(timings.routineId, id))
  for (const row of demoTimings(routine, hearing.beats, Date.now())) await logTiming(id, row)
  await saveRoutine(
    id,
    { revision: 0, writer: 'demo-seed', save: 1 },
    {
      ...routine,
      plans: [plan],
      courses: [demoCourse(Date.now())],
      learners: demoLearners(routine, Date.now()),
    },
  )
  console.log('The demo song and its routine are ready.')
}

await seed()
process.exit(0)
