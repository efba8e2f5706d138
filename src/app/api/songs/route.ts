import * as v from 'valibot'
import { tooLarge } from '@/server/file-store'
import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { Problem } from '@/server/problem'
import { LARGEST_SONG } from '@/server/settings'
import { takeIn } from '@/server/songs'
import { bodyOf, refuseBody } from '@/server/streams'

function decodable(s: string): boolean {
  try {
    decodeURIComponent(s)
    return true
  } catch {
    return false
  }
}

const FileName = v.pipe(
  v.string(),
  v.check(decodable),
  v.transform(decodeURIComponent),
  v.trim(),
  v.minLength(1),
  v.maxLength(300),
)

/** Takes a song file in: the raw bytes as body, its name (percent-encoded) in a header. */
export const PUT = handle(may.make, async (request) => {
  const name = v.safeParse(FileName, request.headers.get('x-file-name') ?? '')
  if (!name.success)
    throw new Problem(400, 'The file has no name that can be read. Nothing was kept.', 'invalid')
  if (Number(request.headers.get('content-length') ?? 0) > LARGEST_SONG) {
    refuseBody(request.body)
    throw tooLarge()
  }
  if (!request.body) throw new Problem(415, `“${name.output}” is empty. Nothing was kept.`)
  const taken = await takeIn(bodyOf(request.body), name.output)
  return Response.json({ songId: taken.song.id, fresh: taken.fresh, routines: taken.routines })
})
