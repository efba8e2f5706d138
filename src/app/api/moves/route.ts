import * as v from 'valibot'
import { MoveListSchema } from '@/core/choreo'
import { SaveSchema } from '@/core/routine'
import { body, handle } from '@/server/handle'
import { may } from '@/server/may'
import { openMoves, saveMoves } from '@/server/moves'

const Body = v.object({ ...SaveSchema.entries, moves: MoveListSchema })

/** The instructor's move list. */
export const GET = handle(may.signedIn, async () => Response.json(await openMoves()))

/** Saves one edit of it. */
export const PUT = handle(may.make, async (request) => {
  const { moves, ...asked } = await body(request, Body)
  return Response.json({ revision: await saveMoves(asked, moves) })
})
