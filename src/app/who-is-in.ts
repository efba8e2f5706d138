import { headers } from 'next/headers'
import { redirect } from 'next/navigation'
import { whoAsks } from '@/server/asking'
import type { Who } from '@/server/who'

/** Who asks for a page; in a school, whoever is not signed in is led to the door. @param to where they wanted to go */
export async function whoIsIn(to: string): Promise<Who> {
  const who = await whoAsks(await headers())
  if (!who) redirect(`/sign-in?${new URLSearchParams({ to })}`)
  return who
}
