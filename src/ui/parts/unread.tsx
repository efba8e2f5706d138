'use client'

import type { Read } from '../state/use-log'
import { Button } from './button'

/** While a log is not read yet, and where it cannot be; nothing once it is. @param so what it means that nothing is known */
export function Unread({
  log,
  so = '',
}: {
  log: Pick<Read<unknown>, 'there' | 'problem' | 'read'>
  so?: string
}) {
  if (log.problem)
    return (
      <p role="alert">
        {log.problem} {!log.there && so}{' '}
        <Button small onPress={log.read}>
          Try again
        </Button>
      </p>
    )
  return log.there ? null : <p role="status">Reading the log …</p>
}
