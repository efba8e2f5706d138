import { beginCombination, CombinationSchema } from '@/server/combinations'
import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { listCombinations } from '@/server/shelf'

/** Moves without a song, by name. */
export const GET = handle(may.signedIn, async () => Response.json({ combinations: await listCombinations() }))

/** Begins some. */
export const POST = handle(may.make, async (request) => {
  const asked = await body(request, CombinationSchema)
  return Response.json({ id: await beginCombination(asked, idOf(asked)) })
})
