import * as v from 'valibot'
import { handle } from '@/server/handle'
import { idOf, may, maySong } from '@/server/may'
import { openRoutineFile } from '@/server/open-routine-file'
import { LARGEST_SONG } from '@/server/settings'
import { withBodyFile } from '@/server/streams'
import { me } from '@/server/who'

const number = v.pipe(v.number(), v.finite(), v.minValue(-1), v.maxValue(36_000))
const Takes = v.pipe(
  v.array(
    v.object({
      ...{ from: number, to: number, at: number, sure: number },
      rate: v.pipe(v.number(), v.minValue(0.2), v.maxValue(5)),
    }),
  ),
  v.minLength(1),
  v.maxLength(100),
)

function safely(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

/** Opens a routine file: its bytes as body. `?as` gives it another id, `?on` lays it on a song of this machine, a header says where its song plays in that. */
export const PUT = handle(may.make, async (request) => {
  const asked = new URL(request.url).searchParams
  const one = (name: string) => (asked.has(name) ? idOf({ id: asked.get(name) ?? '' }) : null)
  const on = one('on')
  if (on) await maySong(me(), on, 'own')
  const takes = request.headers.get('x-takes')
  const wish = {
    ...{ as: one('as'), on },
    ...(takes === null ? {} : { takes: v.parse(Takes, safely(takes)) }),
  }
  return Response.json(
    await withBodyFile(request, LARGEST_SONG + 64 * 1024 ** 2, (file) => openRoutineFile(file, wish)),
  )
})
