import { HandedOutSchema } from '@/core/handout'
import { handOut, linksOf } from '@/server/class-links'
import { body, handle } from '@/server/handle'
import { idOf, may } from '@/server/may'

type Params = { id: string }

/** The links of who asks to the practice page of a routine. */
export const GET = handle<Params>(may.taught, async (_, params) => Response.json(await linksOf(idOf(params))))

/** Hands the page out to a class. */
export const PUT = handle<Params>(may.taught, async (request, params) => {
  const id = idOf(params)
  await handOut(id, new URL(request.url).searchParams, await body(request, HandedOutSchema))
  return Response.json(await linksOf(id))
})
