import { HEARING_VERSION } from '@/core/hear'
import { handle } from '@/server/handle'
import { hearingOf } from '@/server/hearings'
import { nudgeJobs } from '@/server/job-nudge'
import { aboutSong, ask, stateOf, takeBack } from '@/server/jobs'
import { idOf, may } from '@/server/may'
import { songById } from '@/server/songs'

/** How it is with hearing a song on the server, and what was heard once it is done. */
async function now(id: string): Promise<Response> {
  const state = await stateOf('hear', aboutSong(id))
  const heard = state ? null : await hearingOf(id, 0)
  const body = { state: state ?? { kind: heard ? 'done' : 'none' }, heard }
  return Response.json(body, { headers: { 'cache-control': 'no-store' } })
}

export const GET = handle<{ id: string }>(may.heardSong, async (_, params) => now(idOf(params)))

/** Asks for it. */
export const POST = handle<{ id: string }>(may.heardSong, async (_, params) => {
  const id = idOf(params)
  await songById(id)
  const known = await hearingOf(id, 0)
  if (!known || known.hearing.version < HEARING_VERSION) {
    await ask('hear', aboutSong(id))
    nudgeJobs()
  }
  return now(id)
})

/** Nobody waits for it any more. */
export const DELETE = handle<{ id: string }>(may.heardSong, async (_, params) => {
  await takeBack('hear', aboutSong(idOf(params)))
  return Response.json({ ok: true })
})
