import { filmStore } from '@/server/file-store'
import { filmById } from '@/server/films'
import { handle } from '@/server/handle'
import { idOf, may } from '@/server/may'
import { Problem } from '@/server/problem'
import { answerRange } from '@/server/ranges'

/** The bytes of a film, whole or a range of them. */
export const GET = handle<{ id: string }>(may.film, async (request, params) => {
  const { hash, mime } = await filmById(idOf(params))
  const store = filmStore()
  const size = await store.size(hash)
  if (size === null)
    throw new Problem(
      410,
      'The file of this film is missing from the data directory. Its takes are kept; drop the same film once more.',
      'film-missing',
    )
  const link = await store.link(hash, mime)
  if (link)
    return new Response(null, {
      status: 307,
      headers: { location: link, 'cache-control': 'private, max-age=1800' },
    })
  return answerRange(request, { store, hash, size, mime })
})
