import '@fontsource-variable/bricolage-grotesque/wght.css'
import '@fontsource-variable/figtree/wght.css'
import type { Metadata } from 'next'
import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { whoAsks } from '@/server/asking'
import { isSchool, type Who } from '@/server/who'
import { WhoProvider } from '@/ui/state/who'
import { GlobalStyle } from '@/ui/theme/global'
import { OtherLetters } from '@/ui/theme/letters'
import { StyleRegistry } from '@/ui/theme/registry'

export const metadata: Metadata = {
  title: 'Azalea',
  description: 'From a song to a taught dance.',
}

/** Whose page it is; null on one machine, and where nobody is signed in or can be known. */
async function whosePage(): Promise<Who | null> {
  if (!isSchool()) return null
  return whoAsks(await headers()).catch(() => null)
}

export default async function Layout({ children }: { children: ReactNode }) {
  const who = await whosePage()
  return (
    <html lang="en" {...(who ? { 'data-person': who.id } : {})}>
      <body>
        <StyleRegistry>
          <GlobalStyle />
          <OtherLetters />
          <WhoProvider who={who}>{children}</WhoProvider>
        </StyleRegistry>
      </body>
    </html>
  )
}
