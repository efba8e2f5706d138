import { body, handle, idOf } from '@/server/handle'
import { keepMeasure, MeasureSchema, measureOfSong } from '@/server/measures'

/** What playing the song needs to know of it; '' where it is not known yet. */
export const GET = handle<{ id: string }>(async (_, params) =>
  Response.json({ measure: await measureOfSong(idOf(params)) }),
)

/** Keeps it. */
export const PUT = handle<{ id: string }>(async (request, params) => {
  await keepMeasure(idOf(params), await body(request, MeasureSchema))
  return Response.json({ ok: true })
})
