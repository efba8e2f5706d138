import * as v from 'valibot'
import { AnyRoutineSchema, SaveSchema } from '@/core/routine'
import { binRoutine } from '@/server/bin'
import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { newerThan, openRoutine, saveRoutine } from '@/server/routines'

// A page, or what a closed one left, may be of the version before.
const Body = v.object({ ...SaveSchema.entries, routine: AnyRoutineSchema })

type Params = { id: string }

/** The routine as it is stored; with `after`, null unless its revision is later than that. */
export const GET = handle<Params>(may.routine('look'), async (request, params) => {
  const after = Number(new URL(request.url).searchParams.get('after') ?? Number.NaN)
  const id = idOf(params)
  return Response.json(Number.isInteger(after) ? await newerThan(id, after) : await openRoutine(id))
})

/** Saves one edit. */
export const PUT = handle<Params>(may.routine('edit'), async (request, params) => {
  const { routine, ...asked } = await body(request, Body)
  return Response.json({ revision: await saveRoutine(idOf(params), asked, routine) })
})

/** Puts the routine into the bin. */
export const DELETE = handle<Params>(may.routine('own'), async (_, params) => {
  await binRoutine(idOf(params))
  return Response.json({ ok: true })
})
