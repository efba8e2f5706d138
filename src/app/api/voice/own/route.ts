import { body, handle } from '@/server/handle'
import { may } from '@/server/may'
import { allOwnCounts, keepOwnCounts, OwnCountsSchema, removeOwnCounts } from '@/server/own-counts'

/** The counts the instructor recorded. */
export const GET = handle(may.signedIn, async () => Response.json(await allOwnCounts()))

/** Keeps recordings, and gives back all there are. */
export const PUT = handle(may.signedIn, async (request) => {
  await keepOwnCounts(await body(request, OwnCountsSchema))
  return Response.json(await allOwnCounts())
})

/** Takes all of them away. */
export const DELETE = handle(may.signedIn, async () => {
  await removeOwnCounts()
  return Response.json({ ok: true })
})
