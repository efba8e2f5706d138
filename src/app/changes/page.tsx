import { readFileSync } from 'node:fs'
import path from 'node:path'
import { marked } from 'marked'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { calledByOwnName } from '@/server/called'
import { Changes } from '@/ui/stations/shelf/changes'

export const metadata: Metadata = { title: 'What changed · Azalea' }
export const dynamic = 'force-dynamic'

/** What changed from version to version, as CHANGELOG.md says it. */
export default async function Page() {
  if (!(await calledByOwnName())) notFound()
  const words = readFileSync(path.resolve(/* turbopackIgnore: true */ 'CHANGELOG.md'), 'utf8')
  // The file comes with the program: nobody else writes in it.
  return <Changes html={await marked.parse(words)} />
}
