import { notFound } from 'next/navigation'
import { after } from 'next/server'
import type { ReactNode } from 'react'
import { calledByOwnName } from '@/server/called'
import { faultOf } from '@/server/faults'
import { idOf } from '@/server/may'
import { pageTurn } from '@/server/page-turns'
import { Problem } from '@/server/problem'
import { openRoutine } from '@/server/routines'
import { doneBy } from '@/server/who'
import { Room } from '@/ui/stations/room'
import { whoIsIn } from '../../who-is-in'

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
  const { id } = await params
  const who = await whoIsIn(`/r/${id}`)
  after(await pageTurn())
  const open = await doneBy(who, () => load(id))
  if (typeof open === 'string') return <Unopened why={open} />
  return (
    <Room
      key={`${open.id}`}
      id={open.id}
      revision={open.revision}
      madeBy={open.madeBy}
      routine={open.routine}
      song={open.song}
      heard={open.heard}
      newer={open.newer}
      right={open.right}
    >
      {children}
    </Room>
  )
}

/** Why nothing can be shown, where it is the machine's fault. */
function Unopened({ why }: { why: string }) {
  return (
    <main style={{ padding: 40, display: 'grid', gap: 12, justifyItems: 'start' }}>
      <h1>This page could not be opened</h1>
      <p role="alert">{why}</p>
      <a href="/">To the shelf</a>
    </main>
  )
}

/**
 * A routine that is there but cannot be read is no missing one: its error goes to the page that says so.
 * @returns what is wrong with the machine, in words, where that keeps it from being opened
 */
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
    if (error instanceof Problem) return error.message
    const fault = faultOf(error)
    if (fault) return fault.message
    throw error
  }
}
