/* Puts the demo song and its routine into the data directory; does nothing when they are there. */
import { createHash } from 'node:crypto'
import { mkdir, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { and, eq, gt } from 'drizzle-orm'
import { moveBook, STARTING_MOVES } from '../src/core/choreo'
import { toMono, writeWav } from '../src/core/formats/wav'
import { packPeaks } from '../src/core/hear'
import { listen } from '../src/core/hear/listen'
import { findTakesAtAnySpeed, traceOf } from '../src/core/match'
import { danceOf, type Film, type Routine } from '../src/core/routine'
import { type Seconds, TICKS_PER_COUNT, timeOfTick } from '../src/core/time'
import { database, write } from '../src/server/database'
import { keepFilmOf } from '../src/server/films'
import { keepHearing } from '../src/server/hearings'
import { logLessonStep } from '../src/server/lessons'
import { logRepetition, saveRoutine } from '../src/server/routines'
import { lessonSteps, repetitions, routines as routineRows, songs, timings } from '../src/server/schema'
import { dataDirectory } from '../src/server/settings'
import { takeIn } from '../src/server/songs'
import { logTiming } from '../src/server/timings'
import { type DemoSong, type DemoTake, demoFilm, demoFilmSound } from './film'
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
  const mono = toMono({ sampleRate, channels: [left, right] })
  const film = await seedFilm({ mono, rate: sampleRate }, routine, hearing.beats)
  // What a seeding that was broken off had written of them.
  await write(async (tx) => {
    for (const table of [repetitions, lessonSteps, timings])
      await tx.delete(table).where(eq(table.routineId, id))
  })
  for (const row of demoLog(routine, hearing.beats, Date.now())) await logRepetition(id, row)
  for (const row of demoLessons(plan, routine, hearing.beats, Date.now())) await logLessonStep(id, row)
  for (const row of demoTimings(routine, hearing.beats, Date.now())) await logTiming(id, row)
  await saveRoutine(
    id,
    { revision: 0, writer: 'demo-seed', save: 1 },
    {
      ...routine,
      plans: [plan],
      courses: [demoCourse(Date.now())],
      learners: demoLearners(routine, Date.now()),
      films: [film],
    },
  )
  console.log('The demo song and its routine are ready.')
}

/** The demo's film, taken in and looked through like any other. */
async function seedFilm(song: DemoSong, routine: Routine, beats: readonly Seconds[]): Promise<Film> {
  const book = moveBook(STARTING_MOVES)
  const { from } = danceOf(routine)
  // From the chorus on, as the dance begins: a count of it leads in.
  const first = from + TICKS_PER_COUNT
  const time = (eights: number) => timeOfTick(beats, first + eights * 8 * TICKS_PER_COUNT)
  const takes: DemoTake[] = [
    { from: time(0), to: time(2), speed: 0.75 },
    { from: time(0), to: time(4), speed: 1 },
  ]
  const sound = demoFilmSound(song, takes)
  const bytes = await demoFilm(routine, book, beats, sound, takes)
  const sha256 = createHash('sha256').update(bytes).digest('hex')
  async function* all() {
    yield bytes
  }
  await keepFilmOf(all(), { id: 'demo-film', sha256, fileName: 'Hall, Thursday.mp4' })
  const found = findTakesAtAnySpeed(traceOf(song.mono, song.rate), traceOf(sound.samples, sound.rate))
  return {
    ...{ id: 'hall', file: 'demo-film', name: 'Hall, Thursday', whose: '', side: 'front', mirrored: false },
    ...{
      filmed: new Date().toISOString().slice(0, 10),
      seconds: sound.seconds,
      frameRate: 15,
      searched: true,
    },
    takes: found.map((t) => ({ ...t, sure: Math.min(1, Math.max(0, t.sure)), by: 'sound' })),
    notes: [],
  }
}

await seed()
process.exit(0)
