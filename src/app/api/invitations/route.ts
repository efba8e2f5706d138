import { InvitationSchema, invite, openInvitations } from '@/server/accounts'
import { body, handle } from '@/server/handle'
import { may } from '@/server/may'

/** Invitations that were not taken up yet. */
export const GET = handle(may.govern, async () => Response.json(await openInvitations()))

/** Invites somebody: the link to hand over, which is shown this once. */
export const POST = handle(may.govern, async (request) =>
  Response.json({ link: await invite(await body(request, InvitationSchema)) }),
)
