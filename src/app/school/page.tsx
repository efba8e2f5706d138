import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { calledByOwnName } from '@/server/called'
import { isSchool } from '@/server/who'
import { School } from '@/ui/stations/school/school'
import { whoIsIn } from '../who-is-in'

export const metadata: Metadata = { title: 'Account · Azalea' }
export const dynamic = 'force-dynamic'

export default async function Page() {
  if (!isSchool() || !(await calledByOwnName())) notFound()
  await whoIsIn('/school')
  return <School />
}
