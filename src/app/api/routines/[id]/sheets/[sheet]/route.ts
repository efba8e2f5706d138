import { handle } from '@/server/handle'
import { type About, stateOf, takeBack } from '@/server/jobs'
import { idOf, may } from '@/server/may'
import { aboutSheet, askAgain } from '@/server/sheet-job'
import { isSet } from '@/server/sheets'

type Params = { id: string; sheet: string }

const aboutOf = (params: Params) => aboutSheet(idOf(params), params.sheet)

/** How it is with setting the sheet. */
async function now(about: About): Promise<Response> {
  const state = await stateOf('sheet', about)
  const body = { state: state ?? { kind: (await isSet(about.subjectId)) ? 'done' : 'none' } }
  return Response.json(body, { headers: { 'cache-control': 'no-store' } })
}

export const GET = handle<Params>(may.ownSheet, async (_, params) => now(await aboutOf(params)))

/** Asks for it once more. */
export const POST = handle<Params>(may.ownSheet, async (_, params) => {
  const about = await aboutOf(params)
  await askAgain(about)
  return now(about)
})

/** Nobody waits for it any more. */
export const DELETE = handle<Params>(may.ownSheet, async (_, params) => {
  await takeBack('sheet', await aboutOf(params))
  return Response.json({ ok: true })
})
