import { eq, sql } from 'drizzle-orm'
import * as v from 'valibot'
import { DeviceSchema } from '@/core/handout'
import { name } from '@/core/routine/document/text-schema'
import { database, write } from './database'
import { takeInFilm } from './films'
import { INCOMING, takePiece } from './incoming-films'
import { askForTakes, songInFilm } from './match-job'
import { type Link, ownerOf } from './may'
import { Problem } from './problem'
import { classFilms } from './school-schema'
import { doneBy, type Who } from './who'

/* Films that learners send to a class, where it takes some: they come in by pieces as an instructor's do, and wait. */

/** Largest film of a learner, in bytes, and so many wait at most. */
const LARGEST = 512 * 1024 ** 2
const MOST = 60

export const ClassFilmSchema = v.object({
  id: v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{16,40}$/)),
  device: DeviceSchema,
  learner: name(80, 'It needs a name.'),
})

/** As whom a class's films come in: what was begun by one link is gone on with by that alone. */
const sender = ({ id }: Link): Who => ({ id: `class ${id}`, name: '', role: 'assistant' })

async function refuse(link: Link): Promise<void> {
  if (!link.films) throw new Problem(403, 'Your instructor takes no films here.', 'not-yours')
  const [all] = await (await database())
    .select({ n: sql<number>`count(*)` })
    .from(classFilms)
    .where(eq(classFilms.linkId, link.id))
  if ((all?.n ?? 0) >= MOST)
    throw new Problem(409, 'So many films wait for your instructor that no more is taken now.', 'full')
}

/** Speaks the protocol of uploads for a class's link. @throws Problem 403, 409, 413 */
export async function takeClassPiece(link: Link, request: Request): Promise<Response> {
  await refuse(link)
  if (Number(request.headers.get('upload-length') ?? 0) > LARGEST)
    throw new Problem(413, 'This film is over 512 MB. Nothing was kept. Cut it, or save it smaller.')
  const here = new URL(request.url)
  const own = `/api/classes/${link.token}/films`
  const url = new URL(here.pathname.replace(own, INCOMING), here)
  const { method, headers, body } = request
  const init = { method, headers, ...(body ? { body, duplex: 'half' } : {}) }
  const answer = await doneBy(sender(link), () => takePiece(new Request(url, init)))
  const at = answer.headers.get('location')
  if (at) answer.headers.set('location', at.replace(INCOMING, own))
  return answer
}

/**
 * Takes over a film that came in whole: it is of whom the dance belongs to, and waits; meanwhile the song is looked for in it. Asked for
 * again it is once.
 * @throws Problem
 */
export async function keepClassFilm(
  link: Link,
  { id, device, learner }: v.InferOutput<typeof ClassFilmSchema>,
  now = new Date(),
): Promise<void> {
  await refuse(link)
  const owner = await ownerOf(link.routineId)
  const film = await doneBy(sender(link), () => takeInFilm(id, owner))
  await write((tx) =>
    tx
      .insert(classFilms)
      .values({ id: film.id, linkId: link.id, device, learner, receivedAt: now })
      .onConflictDoNothing(),
  )
  // What is not looked for now is when the film is taken in.
  await askForTakes(await songInFilm(link.routineId, film.id), link.personId).catch(() => {})
}
