import { binned } from '@/server/bin'
import { handle } from '@/server/handle'
import { may } from '@/server/may'

/** What is in the bin, the last first. */
export const GET = handle(may.signedIn, async () => Response.json(await binned()))
