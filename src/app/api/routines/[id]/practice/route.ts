import { headersFor, INSIDE_POLICY } from '@/server/guard'
import { handle } from '@/server/handle'
import { practicePageOf } from '@/server/handout/practice-page'
import { idOf, may } from '@/server/may'

/** A practice page, its voice still to be put in: shown as it will be, and saved from the page that asks for it. */
export const GET = handle<{ id: string }>(may.routine('teach'), async (request, params) => {
  const { html } = await practicePageOf(idOf(params), new URL(request.url).searchParams)
  return new Response(html, {
    headers: [
      ['content-type', 'text/html; charset=utf-8'],
      ['cache-control', 'no-store'],
      ...headersFor(INSIDE_POLICY, 'SAMEORIGIN'),
    ],
  })
})
