import { handle } from '@/server/handle'
import { type About, stateOf, takeBack } from '@/server/jobs'
import { askForTakes, songInFilm, takesFound } from '@/server/match-job'
import { idOf, may } from '@/server/may'

type Params = { id: string; film: string }

const aboutOf = (params: Params) => songInFilm(idOf(params), idOf({ id: params.film }))

/** How it is with looking for the song in the film on the server, and what was found once it is done. */
async function now(about: About): Promise<Response> {
  const state = await stateOf('match', about)
  const takes = state ? null : await takesFound(about)
  const body = { state: state ?? { kind: takes ? 'done' : 'none' }, takes }
  return Response.json(body, { headers: { 'cache-control': 'no-store' } })
}

export const GET = handle<Params>(may.searchFilm, async (_, params) => now(await aboutOf(params)))

/** Asks for it. */
export const POST = handle<Params>(may.searchFilm, async (_, params) => {
  const about = await aboutOf(params)
  await askForTakes(about)
  return now(about)
})

/** Nobody waits for it any more. */
export const DELETE = handle<Params>(may.searchFilm, async (_, params) => {
  await takeBack('match', await aboutOf(params))
  return Response.json({ ok: true })
})
