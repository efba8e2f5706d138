import { cutText } from '@/core/routine'
import { oneLine } from '@/core/routine/document/text-schema'
import { handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { routineFileOf, routineZipOf } from '@/server/routine-file'
import { openRoutine } from '@/server/routines'
import { answerOf } from '@/server/streams'

/** A name for a file, safe in a header. */
const nameOf = (title: string, suffix: string) =>
  `attachment; filename*=UTF-8''${encodeURIComponent(
    cutText(oneLine(title).replace(/[\\/:*?"<>|\s]+/g, ' '), 100).trim() || 'Routine',
  )}${suffix}`

/** A routine to be taken along: a JSON file, or with `?song` a zip with its song; with `?lessons` its lessons too, with `?films` its films in the zip. */
export const GET = handle<{ id: string }>(may.routine('own'), async (request, params) => {
  const id = idOf(params)
  const asked = new URL(request.url).searchParams
  const { routine } = await openRoutine(id)
  if (!asked.has('song'))
    return Response.json(await routineFileOf(id, { lessons: asked.has('lessons') }), {
      headers: { 'content-disposition': nameOf(routine.title, '.azalea.json'), 'cache-control': 'no-store' },
    })
  const { stream, bytes } = await routineZipOf(id, {
    lessons: asked.has('lessons'),
    films: asked.has('films'),
  })
  return new Response(
    answerOf(stream, async () => {}),
    {
      headers: {
        'content-type': 'application/zip',
        'content-length': String(bytes),
        'content-disposition': nameOf(routine.title, '.azalea.zip'),
        'cache-control': 'no-store',
      },
    },
  )
})
