import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { calledByOwnName } from '@/server/called'
import { idOf } from '@/server/handle'
import { Problem } from '@/server/problem'
import { openRoutine } from '@/server/routines'
import { Room } from '@/ui/stations/room'

export const dynamic = 'force-dynamic'

/** Opens a routine once for all its stations. */
export default async function RoutineLayout({
  params,
  children,
}: {
  params: Promise<{ id: string }>
  children: ReactNode
}) {
  if (!(await calledByOwnName())) notFound()
  const open = await load((await params).id)
  return (
    <Room
      key={`${open.id}`}
      id={open.id}
      revision={open.revision}
      routine={open.routine}
      song={open.song}
      heard={open.heard}
    >
      {children}
    </Room>
  )
}

/** A routine that is there but cannot be read is no missing one: its error goes to the page that says so. */
async function load(id: string) {
  let known: string
  try {
    known = idOf({ id })
  } catch {
    notFound()
  }
  try {
    return await openRoutine(known)
  } catch (error) {
    if (error instanceof Problem && error.status === 404) notFound()
    throw error
  }
}
