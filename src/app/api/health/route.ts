import { sql } from 'drizzle-orm'
import { database } from '@/server/database'
import { handle } from '@/server/handle'
import { may } from '@/server/may'

/** Whether this process serves: its database answers. A proxy asks for it; anything else than 200 is no. */
export const GET = handle(may.everybody, async () => {
  await (await database()).all(sql`SELECT 1`)
  return Response.json(
    { serves: true, version: process.env.AZALEA_VERSION ?? '' },
    { headers: { 'cache-control': 'no-store' } },
  )
})
