import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { calledByOwnName } from '@/server/called'
import { isSchool } from '@/server/who'
import { SignIn } from '@/ui/stations/school/sign-in'

export const metadata: Metadata = { title: 'Sign in · Azalea' }
export const dynamic = 'force-dynamic'

/** An address of this very server: nobody is led elsewhere by a link to here. */
const ownPath = (to: unknown) => (typeof to === 'string' && /^\/(?![/\\])/.test(to) ? to : '/')

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>
}) {
  if (!isSchool() || !(await calledByOwnName())) notFound()
  return <SignIn to={ownPath((await searchParams).to)} email="" />
}
