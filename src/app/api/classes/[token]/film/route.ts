import { ClassFilmSchema, keepClassFilm } from '@/server/class-films'
import { body, handle } from '@/server/handle'
import { linkOfToken, may } from '@/server/may'

/** A film that came in whole is handed to the class. */
export const POST = handle<{ token: string }>(may.classLink, async (request, { token }) => {
  await keepClassFilm(await linkOfToken(token), await body(request, ClassFilmSchema))
  return Response.json({})
})
