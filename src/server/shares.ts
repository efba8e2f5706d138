import { and, asc, eq } from 'drizzle-orm'
import * as v from 'valibot'
import { database, write } from './database'
import { Problem } from './problem'
import { people, RIGHTS, shares } from './school-schema'
import { me } from './who'

/** With whom a routine is shared, to do what; `null` takes it back. */
export const ShareSchema = v.object({
  person: v.pipe(v.string(), v.maxLength(40)),
  right: v.nullable(v.picklist(RIGHTS)),
})

export interface Share {
  person: string
  name: string
  right: (typeof RIGHTS)[number]
}

/** With whom a routine is shared, by name. */
export async function sharesOf(routineId: string): Promise<Share[]> {
  return (await database())
    .select({ person: shares.personId, name: people.name, right: shares.right })
    .from(shares)
    .innerJoin(people, eq(people.id, shares.personId))
    .where(eq(shares.routineId, routineId))
    .orderBy(asc(people.name))
}

/** Shares it, otherwise than before, or no longer. @throws Problem 404 where nobody has that account */
export async function share(
  routineId: string,
  { person, right }: v.InferOutput<typeof ShareSchema>,
): Promise<void> {
  if (person === me().id) throw new Problem(409, 'It is yours already.', 'own')
  await write(async (tx) => {
    const [there] = await tx.select({ id: people.id }).from(people).where(eq(people.id, person))
    if (!there) throw new Problem(404, 'That account is not here any more.', 'missing')
    if (!right) {
      await tx.delete(shares).where(and(eq(shares.routineId, routineId), eq(shares.personId, person)))
      return
    }
    await tx
      .insert(shares)
      .values({ routineId, personId: person, right })
      .onConflictDoUpdate({ target: [shares.routineId, shares.personId], set: { right } })
  })
}
