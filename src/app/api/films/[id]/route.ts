import { factsOfFilm, filmById, takeInFilm } from '@/server/films'
import { handle } from '@/server/handle'
import { idOf, may, ownerFor, routineAsked } from '@/server/may'

/** What is known of a film. */
export const GET = handle<{ id: string }>(may.film, async (_, params) =>
  Response.json(factsOfFilm(await filmById(idOf(params)))),
)

/** Takes over a film that came in whole; with `?routine` for that, whose owner it is then of. */
export const POST = handle<{ id: string }>(may.signedIn, async (request, params) =>
  Response.json(factsOfFilm(await takeInFilm(idOf(params), await ownerFor(routineAsked(request))))),
)
