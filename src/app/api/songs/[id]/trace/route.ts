import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { keepTrace, TraceSchema, traceOfSong } from '@/server/traces'

/** Whether it is known how a song sounds. */
export const GET = handle<{ id: string }>(may.song('look'), async (_, params) =>
  Response.json({ there: (await traceOfSong(idOf(params))) !== '' }),
)

/** Keeps how it sounds. */
export const PUT = handle<{ id: string }>(may.song('own'), async (request, params) => {
  await keepTrace(idOf(params), await body(request, TraceSchema))
  return Response.json({ ok: true })
})
