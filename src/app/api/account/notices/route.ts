import { noticesOf } from '@/server/account-notices'
import { database } from '@/server/database'
import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { sessionOf } from '@/server/sign-in'
import { me } from '@/server/who'

/** What happened with one's account, the newest first. */
export const GET = handle(may.account, async (request) =>
  Response.json(await noticesOf(await database(), me().id, await sessionOf(request.headers)), {
    headers: { 'cache-control': 'no-store' },
  }),
)
