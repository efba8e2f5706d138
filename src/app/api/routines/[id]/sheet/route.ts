import { cueSheet, eightsWords, type PageStills, PageStillsSchema } from '@/core/handout'
import { clockText, TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { body, handle } from '@/server/handle'
import { askedFor } from '@/server/handout/asked'
import { setSheet } from '@/server/handout/set-sheet'
import { sheetResponse } from '@/server/handout/sheet-response'
import { idOf, may } from '@/server/may'
import { askForSheet } from '@/server/sheet-job'
import type { Sheet } from '@/server/sheets'
import { isSchool } from '@/server/who'

type Params = { id: string }

/** The cue sheet as a PDF. Letters no font of the app has are named in a header. */
export const GET = handle<Params>(may.routine('teach'), (request, params) => sheetFor(request, params, null))

/** The same with pictures of its counts. */
export const POST = handle<Params>(may.routine('teach'), async (request, params) =>
  sheetFor(request, params, await body(request, PageStillsSchema)),
)

async function sheetFor(request: Request, params: Params, stills: PageStills | null): Promise<Response> {
  const { rows, head, paper } = await sheetAsked(request, params, stills)
  // A school's is set as work by whatever process has room, where whoever asks can wait for it (RFC 7240, section 4.1).
  if (!isSchool() || !/\brespond-async\b/.test(request.headers.get('prefer') ?? ''))
    return sheetResponse(await setSheet(rows, head, paper, request.signal))
  const sheet = await askForSheet(idOf(params), { rows, head, paper })
  return Response.json(
    { sheet },
    {
      status: 202,
      headers: {
        'preference-applied': 'respond-async',
        'cache-control': 'no-store',
        location: `/api/routines/${idOf(params)}/sheets/${sheet}`,
      },
    },
  )
}

/** What is to be set. @throws Problem 409 where there is nothing to hand out */
async function sheetAsked(request: Request, params: Params, stills: PageStills | null): Promise<Sheet> {
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
  return {
    rows: cueSheet(routine, times, book, contents),
    head: {
      title: routine.title,
      credit: routine.credit,
      facts: facts.filter(Boolean).join(' · '),
      language: 'en',
    },
    paper: {
      ...{ size: asked.size, across: asked.across, wall: asked.wall },
      ...{ stills, mirrored: contents.mirrored },
    },
  }
}
