import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { invitedBy } from '@/server/accounts'
import { calledByOwnName } from '@/server/called'
import { Problem } from '@/server/problem'
import { isSchool } from '@/server/who'
import { InvitedHere } from '@/ui/stations/school/invited'

export const metadata: Metadata = { title: 'Welcome · Azalea' }
export const dynamic = 'force-dynamic'

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  if (!isSchool() || !(await calledByOwnName())) notFound()
  const { token } = await params
  const invited = await invitedBy(token).catch((error: unknown) => {
    if (error instanceof Problem) return error.message
    throw error
  })
  if (typeof invited === 'string')
    return (
      <main style={{ padding: 40, display: 'grid', gap: 12, justifyItems: 'start' }}>
        <h1>This link does not lead in</h1>
        <p role="alert">{invited}</p>
        <a href="/sign-in">Sign in</a>
      </main>
    )
  return <InvitedHere token={token} invited={invited} />
}
