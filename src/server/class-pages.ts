import { and, eq, isNull, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { ClassFacts, ClassMarks, ClassOpened } from '@/core/handout'
import { write } from './database'
import { pageStore } from './file-store'
import { type Link, leadsNowhere } from './may'
import { Problem } from './problem'
import { classDevices, classMarks } from './school-schema'

/* A class's page as learners have it: opened by its link, without an account. */

/** So many devices are counted of one link, and so many learners heard: it is a class, and a link may get into any hands. */
const MOST_DEVICES = 1000
const MOST_LEARNERS = 300

/** The page itself. @throws Problem 404 */
export async function pageOfLink({
  page,
}: Link): Promise<{ bytes: number; body: ReadableStream<Uint8Array> }> {
  const bytes = await pageStore().size(page)
  if (bytes === null) throw leadsNowhere()
  return { bytes, body: pageStore().read(page, 0, bytes - 1) }
}

/** Counts a device, and tells it what there is. */
export async function tellOpened(
  link: Link,
  { device, made }: ClassOpened,
  now = new Date(),
): Promise<ClassFacts> {
  await write(async (tx) => {
    const own = and(eq(classDevices.linkId, link.id), eq(classDevices.device, device))
    const known = await tx.update(classDevices).set({ made, lastAt: now }).where(own).returning()
    if (known.length) return
    const [all] = await tx
      .select({ n: sql<number>`count(*)` })
      .from(classDevices)
      .where(eq(classDevices.linkId, link.id))
    if ((all?.n ?? 0) >= MOST_DEVICES) return
    await tx.insert(classDevices).values({ linkId: link.id, device, made, firstAt: now, lastAt: now })
  })
  return { made: link.made, group: link.group, teacher: link.teacher, films: link.films }
}

/**
 * Keeps what a learner says, in the place of what the same device said before; sent twice it is once.
 * @throws Problem 400 where it is of another dance, 409 where there are too many
 */
export async function keepMarks(link: Link, { device, sent }: ClassMarks, now = new Date()): Promise<void> {
  if (sent.id !== link.routineId)
    throw new Problem(400, 'This is of another dance. Nothing was kept.', 'invalid')
  const data = JSON.stringify(sent)
  await write(async (tx) => {
    const own = and(eq(classMarks.linkId, link.id), eq(classMarks.device, device))
    const [known] = await tx.select().from(classMarks).where(own)
    // An answer that was lost, or one that comes late: what was said later stays.
    if (known && (known.data === data || Date.parse(known.made) > Date.parse(sent.made))) return
    const said = { data, made: sent.made, receivedAt: now, takenAt: null }
    if (known) {
      await tx.update(classMarks).set(said).where(own)
      return
    }
    const [all] = await tx
      .select({ n: sql<number>`count(*)` })
      .from(classMarks)
      .where(and(eq(classMarks.linkId, link.id), isNull(classMarks.takenAt)))
    if ((all?.n ?? 0) >= MOST_LEARNERS)
      throw new Problem(409, 'So many have sent something that no more is taken now.', 'full')
    await tx.insert(classMarks).values({ id: nanoid(), linkId: link.id, device, ...said })
  })
}
