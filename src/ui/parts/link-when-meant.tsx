'use client'

import Link from 'next/link'
import { type ComponentProps, useState } from 'react'

/**
 * A link whose page is asked for when a pointer or the focus comes to it: asking for all that are in sight, as is usual, takes the
 * processor of every page that is loaded.
 */
export function LinkWhenMeant(props: Omit<ComponentProps<typeof Link>, 'prefetch'>) {
  const [isMeant, setMeant] = useState(false)
  return (
    <Link
      {...props}
      prefetch={isMeant ? null : false}
      onPointerEnter={() => setMeant(true)}
      onFocus={() => setMeant(true)}
    />
  )
}
