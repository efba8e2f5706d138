import * as v from 'valibot'
import { base64Text } from '@/core/formats/base64'
import { HearingSchema } from '@/core/hear'
import { body, handle } from '@/server/handle'
import { hearingOf, keepHearing } from '@/server/hearings'
import { idOf, may } from '@/server/may'

const Peaks = base64Text(2_000_000)
const Body = v.object({ hearing: HearingSchema, peaks: v.union([v.literal(''), Peaks]) })

/** What was heard in it by now, by the newest method; null where nothing was. */
export const GET = handle<{ id: string }>(may.song('look'), async (_, params) =>
  Response.json({ heard: await hearingOf(idOf(params), 0) }, { headers: { 'cache-control': 'no-store' } }),
)

/** Stores what the browser heard. */
export const PUT = handle<{ id: string }>(may.song('own'), async (request, params) => {
  const { hearing, peaks } = await body(request, Body)
  await keepHearing(idOf(params), hearing.version, JSON.stringify(hearing), Buffer.from(peaks, 'base64'))
  return Response.json({ ok: true })
})
