import { everybody } from '@/server/accounts'
import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { me } from '@/server/who'

/** Who has an account, to share with; addresses are for whoever keeps the accounts. */
export const GET = handle(may.account, async () => {
  const all = await everybody()
  const governs = me().role === 'owner'
  return Response.json(governs ? all : all.map(({ email: _, ...person }) => person))
})
