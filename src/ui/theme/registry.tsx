'use client'

import { useServerInsertedHTML } from 'next/navigation'
import { type ReactNode, useEffect, useState } from 'react'
import { ServerStyleSheet, StyleSheetManager } from 'styled-components'

/** Sends the styles of the first page with it, so that it looks right before scripts run. */
export function StyleRegistry({ children }: { children: ReactNode }) {
  const [sheet] = useState(() => new ServerStyleSheet())
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement()
    sheet.instance.clearTag()
    return styles
  })
  // The page is there to be read before it answers; until then it says so (global.tsx).
  useEffect(() => {
    document.documentElement.dataset.awake = ''
  }, [])
  if (typeof window !== 'undefined') return children
  return <StyleSheetManager sheet={sheet.instance}>{children}</StyleSheetManager>
}
