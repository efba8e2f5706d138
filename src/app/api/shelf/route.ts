import * as v from 'valibot'
import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { ShelfSchema, shelfPart } from '@/server/shelf'

/** A part of the shelf: searched, in an order, from one on. */
export const GET = handle(may.signedIn, async (request) => {
  const asked = v.parse(ShelfSchema, Object.fromEntries(new URL(request.url).searchParams))
  return Response.json(await shelfPart(asked))
})
