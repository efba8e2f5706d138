import { cueSheet, eightsWords, type PageStills, PageStillsSchema } from '@/core/handout'
import { clockText, TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { body, handle } from '@/server/handle'
import { askedFor } from '@/server/handout/asked'
import { setSheet } from '@/server/handout/set-sheet'
import { idOf, may } from '@/server/may'

type Params = { id: string }

/** The cue sheet as a PDF. Letters no font of the app has are named in a header. */
export const GET = handle<Params>(may.routine('teach'), (request, params) => sheetFor(request, params, null))

/** The same with pictures of its counts. */
export const POST = handle<Params>(may.routine('teach'), async (request, params) =>
  sheetFor(request, params, await body(request, PageStillsSchema)),
)

async function sheetFor(request: Request, params: Params, stills: PageStills | null): Promise<Response> {
  const { asked, routine, times, contents, book } = await askedFor(
    idOf(params),
    new URL(request.url).searchParams,
  )
  const { from, to } = contents.stretch
  const facts = [
    eightsWords(Math.round((to - from) / TICKS_PER_COUNT)),
    `${clockText(timeOfTick(times, to) - timeOfTick(times, from))} of the song`,
    contents.version !== 'base' ? `version: ${contents.version}` : '',
    contents.role,
    contents.mirrored ? 'as in a mirror' : '',
  ]
  const head = {
    title: routine.title,
    credit: routine.credit,
    facts: facts.filter(Boolean).join(' · '),
    language: 'en',
  }
  const { pdf, missing } = await setSheet(
    cueSheet(routine, times, book, contents),
    head,
    {
      size: asked.size,
      across: asked.across,
      wall: asked.wall,
      stills,
      mirrored: contents.mirrored,
    },
    request.signal,
  )
  return new Response(new Uint8Array(pdf), {
    headers: {
      'content-type': 'application/pdf',
      'x-missing-letters': encodeURIComponent(missing.slice(0, 40).join('')),
      'cache-control': 'no-store',
    },
  })
}
