import { factsOfFilm, filmById, takeInFilm } from '@/server/films'
import { handle, idOf } from '@/server/handle'

/** What is known of a film. */
export const GET = handle<{ id: string }>(async (_, params) =>
  Response.json(factsOfFilm(await filmById(idOf(params)))),
)

/** Takes over a film that came in whole. */
export const POST = handle<{ id: string }>(async (_, params) =>
  Response.json(factsOfFilm(await takeInFilm(idOf(params)))),
)
