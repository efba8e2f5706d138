import { and, asc, eq, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import * as v from 'valibot'
import type { LoggedStep } from '@/core/drill'
import { LessonSettings } from '@/core/routine'
import { lines, name } from '@/core/routine/document/text-schema'
import { readableRows } from './checked-rows'
import { database, write } from './database'
import { appendRow, rowOrigin, words } from './log-rows'
import { ownRows } from './may'
import { Problem } from './problem'
import { lessonSteps, presets } from './schema'
import { me } from './who'

const seconds = v.pipe(v.number(), v.minValue(0), v.maxValue(86_400))

/** What comes from the floor for one step of a lesson, or from the log for a note. */
export const LessonStepSchema = v.object({
  ...rowOrigin,
  lesson: v.pipe(v.string(), v.minLength(1), v.maxLength(40)),
  plan: words(200),
  kind: words(20),
  label: words(300),
  eights: v.pipe(v.number(), v.minValue(0), v.maxValue(1000)),
  repetitions: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1000)),
  planned: seconds,
  seconds,
  danced: seconds,
  note: lines(2000),
  /** The class it was held for. */
  group: v.optional(words(200), ''),
})

export type NewLessonStep = v.InferOutput<typeof LessonStepSchema>

/** Adds one row to the log of lessons. @throws Problem 404 */
export const logLessonStep = (routineId: string, step: NewLessonStep): Promise<string> =>
  appendRow(lessonSteps, routineId, step)

/** Steps of all lessons held on a routine, oldest first. */
export async function lessonLog(routineId: string): Promise<LoggedStep[]> {
  const rows = await (await database())
    .select()
    .from(lessonSteps)
    .where(and(eq(lessonSteps.routineId, routineId), ownRows(me(), lessonSteps.person)))
    .orderBy(lessonSteps.doneAt, sql`rowid`)
  return readableRows(lessonSteps, rows).map(({ routineId: _, person: __, doneAt, ...r }) => ({
    ...r,
    doneAt: doneAt.getTime(),
  }))
}

/** Named settings, by name. */
export const PresetSchema = v.object({
  name: name(100, 'It needs a name.'),
  settings: LessonSettings,
})

export interface Preset {
  id: string
  name: string
  settings: LessonSettings
}

export async function allPresets(): Promise<Preset[]> {
  const rows = await (await database()).select().from(presets).orderBy(asc(presets.name))
  // One that cannot be read keeps nobody from the others.
  return rows.flatMap(({ id, name, settings }) => {
    const read = v.safeParse(v.pipe(v.string(), v.parseJson(), LessonSettings), settings)
    if (!read.success) console.warn(`The way to teach “${name}” cannot be read; it is passed over.`)
    return read.success ? [{ id, name, settings: read.output }] : []
  })
}

/** Keeps settings under a name; the same again, after an answer that was lost, is the same one. @throws Problem 409 where the name is taken */
export async function keepPreset({ name, settings }: v.InferOutput<typeof PresetSchema>): Promise<string> {
  const text = JSON.stringify(settings)
  return write(async (tx) => {
    const there = await tx.query.presets.findFirst({ where: eq(presets.name, name) })
    if (there && there.settings !== text)
      throw new Problem(409, `There is a way to teach called “${name}” already.`, 'taken')
    if (there) return there.id
    const id = nanoid()
    await tx.insert(presets).values({ id, name, settings: text, createdAt: new Date() })
    return id
  })
}

export async function removePreset(id: string): Promise<void> {
  await write((tx) => tx.delete(presets).where(eq(presets.id, id)))
}
