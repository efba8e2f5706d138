import * as v from 'valibot'
import { MoveListSchema } from '@/core/choreo'
import { body, handle } from '@/server/handle'
import { openMoves, saveMoves } from '@/server/moves'

const Body = v.object({ revision: v.pipe(v.number(), v.integer(), v.minValue(0)), moves: MoveListSchema })

/** The instructor's move list. */
export const GET = handle(async () => Response.json(await openMoves()))

/** Saves one edit of it. */
export const PUT = handle(async (request) => {
  const { revision, moves } = await body(request, Body)
  return Response.json({ revision: await saveMoves(revision, moves) })
})
