'use client'

import { Button } from '../../parts/button'
import { Progress } from '../../parts/progress'

/** How far something is that is made, and a way to stop it. */
export function Making({
  making,
  onCancel,
}: {
  making: { share: number; what: string }
  onCancel: () => void
}) {
  return (
    <>
      <div style={{ flex: 1, maxWidth: 420 }}>
        <Progress label={making.what} share={making.share} />
      </div>
      <Button onPress={onCancel}>Cancel</Button>
    </>
  )
}
