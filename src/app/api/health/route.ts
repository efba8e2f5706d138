import { sql } from 'drizzle-orm'
import { database } from '@/server/database'
import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { auth } from '@/server/sign-in'
import { isSchool } from '@/server/who'

/** Whether this process serves: its database answers, and in a school it can sign people in. A proxy asks for it; anything else than 200 is no. */
export const GET = handle(may.everybody, async () => {
  await (await database()).all(sql`SELECT 1`)
  if (isSchool()) await auth()
  return Response.json(
    { serves: true, version: process.env.AZALEA_VERSION ?? '' },
    { headers: { 'cache-control': 'no-store' } },
  )
})
