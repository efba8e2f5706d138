import { handle } from '@/server/handle'
import { may, mayMeasure } from '@/server/may'
import { metricsText } from '@/server/measured'

/** What is measured, for Prometheus, with the token that was set for it. */
export const GET = handle(may.unsigned, async (request) => {
  mayMeasure(request.headers.get('authorization'))
  return new Response(await metricsText(), {
    headers: { 'content-type': 'text/plain; version=0.0.4; charset=utf-8', 'cache-control': 'no-store' },
  })
})
