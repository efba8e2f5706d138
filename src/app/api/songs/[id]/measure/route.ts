import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { keepMeasure, MeasureSchema, measureOfSong } from '@/server/measures'

/** What playing the song needs to know of it; '' where it is not known yet. */
export const GET = handle<{ id: string }>(may.song('look'), async (_, params) =>
  Response.json({ measure: await measureOfSong(idOf(params)) }),
)

/** Keeps it. */
export const PUT = handle<{ id: string }>(may.song('own'), async (request, params) => {
  await keepMeasure(idOf(params), await body(request, MeasureSchema))
  return Response.json({ ok: true })
})
