import { beginCombination, CombinationSchema } from '@/server/combinations'
import { body, handle, idOf } from '@/server/handle'
import { listCombinations } from '@/server/shelf'

/** Moves without a song, by name. */
export const GET = handle(async () => Response.json({ combinations: await listCombinations() }))

/** Begins some. */
export const POST = handle(async (request) => {
  const asked = await body(request, CombinationSchema)
  return Response.json({ id: await beginCombination(asked, idOf(asked)) })
})
