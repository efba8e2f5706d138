import { body, handle } from '@/server/handle'
import { LessonStepSchema, lessonLog, logLessonStep } from '@/server/lessons'
import { idOf, may } from '@/server/may'

type Params = { id: string }

/** Steps of the lessons held on a routine, oldest first. */
export const GET = handle<Params>(may.routine('look'), async (_, params) =>
  Response.json(await lessonLog(idOf(params))),
)

/** Adds a step, or a note. */
export const POST = handle<Params>(may.routine('look'), async (request, params) =>
  Response.json({ id: await logLessonStep(idOf(params), await body(request, LessonStepSchema)) }),
)
