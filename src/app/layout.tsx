import '@fontsource-variable/bricolage-grotesque/wght.css'
import '@fontsource-variable/figtree/wght.css'
import type { Metadata } from 'next'
import type { ReactNode } from 'react'
import { GlobalStyle } from '@/ui/theme/global'
import { OtherLetters } from '@/ui/theme/letters'
import { StyleRegistry } from '@/ui/theme/registry'

export const metadata: Metadata = {
  title: 'Azalea',
  description: 'From a song to a taught dance.',
}

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <StyleRegistry>
          <GlobalStyle />
          <OtherLetters />
          {children}
        </StyleRegistry>
      </body>
    </html>
  )
}
