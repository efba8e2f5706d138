'use client'

import { said } from '@/core/formats/said'
import { Button } from '@/ui/parts/button'

/** Shown when a page could not be made; what was saved is untouched. */
export default function Failed({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  return (
    <main style={{ padding: 40, display: 'grid', gap: 12, justifyItems: 'start' }}>
      <h1>This page could not be opened</h1>
      <p>
        What was saved is untouched.{' '}
        {error.digest
          ? `Why it happened stands in the terminal Azalea runs in, under ${error.digest}.`
          : `What went wrong: ${said(error)}`}
      </p>
      <p>
        {/* A plain link: the page is made anew. */}
        <a href="/">To the shelf</a>
      </p>
      <Button look="strong" onPress={reset}>
        Make the page anew
      </Button>
    </main>
  )
}
