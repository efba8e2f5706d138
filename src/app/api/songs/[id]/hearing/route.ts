import * as v from 'valibot'
import { base64Text } from '@/core/formats/base64'
import { HearingSchema } from '@/core/hear'
import { body, handle } from '@/server/handle'
import { keepHearing } from '@/server/hearings'
import { idOf, may } from '@/server/may'

const Peaks = base64Text(2_000_000)
const Body = v.object({ hearing: HearingSchema, peaks: v.union([v.literal(''), Peaks]) })

/** Stores what the browser heard. */
export const PUT = handle<{ id: string }>(may.song('own'), async (request, params) => {
  const { hearing, peaks } = await body(request, Body)
  await keepHearing(idOf(params), hearing.version, JSON.stringify(hearing), Buffer.from(peaks, 'base64'))
  return Response.json({ ok: true })
})
