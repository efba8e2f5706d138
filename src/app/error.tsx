'use client'

import { Button } from '@/ui/parts/button'

/** Shown when a page could not be made; what was saved is untouched. */
export default function Failed({ reset }: { error: Error; reset: () => void }) {
  return (
    <main style={{ padding: 40, display: 'grid', gap: 12, justifyItems: 'start' }}>
      <h1>This page could not be opened</h1>
      <p>
        What was saved is untouched. If it happens again, look at the terminal Azalea runs in: the reason is
        written there.
      </p>
      <p>
        {/* A plain link: the page is made anew. */}
        <a href="/">To the shelf</a>
      </p>
      <Button look="strong" onPress={reset}>
        Try again
      </Button>
    </main>
  )
}
