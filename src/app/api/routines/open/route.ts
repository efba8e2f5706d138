import { handle, idOf } from '@/server/handle'
import { openRoutineFile } from '@/server/routine-file'
import { LARGEST_SONG } from '@/server/settings'
import { withBodyFile } from '@/server/streams'

/** Opens a routine file: its bytes as body. `?as` gives it another id, `?on` lays it on a song of this machine. */
export const PUT = handle(async (request) => {
  const asked = new URL(request.url).searchParams
  const one = (name: string) => (asked.has(name) ? idOf({ id: asked.get(name) ?? '' }) : null)
  const wish = { as: one('as'), on: one('on') }
  return Response.json(
    await withBodyFile(request, LARGEST_SONG + 64 * 1024 ** 2, (file) => openRoutineFile(file, wish)),
  )
})
