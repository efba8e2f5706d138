import { notFound } from 'next/navigation'
import { after } from 'next/server'
import { calledByOwnName } from '@/server/called'
import { faultOf } from '@/server/faults'
import { pageTurn } from '@/server/page-turns'
import { shelfPart } from '@/server/shelf'
import { doneBy } from '@/server/who'
import { Shelf } from '@/ui/stations/shelf/shelf'
import { whoIsIn } from './who-is-in'

export const dynamic = 'force-dynamic'

/** The shelf: routines, the last used first, and a place to begin a new one. */
export default async function Page() {
  if (!(await calledByOwnName())) notFound()
  const who = await whoIsIn('/')
  after(await pageTurn())
  const shelf = doneBy(who, () => shelfPart({ search: '', order: 'used', from: 0 }))
  const found = await shelf.catch((error: unknown) => {
    const fault = faultOf(error)
    if (fault) return fault.message
    throw error
  })
  if (typeof found === 'string') return <Shelf first={null} fault={found} />
  return <Shelf first={found} fault="" />
}
