'use client'

import { Button } from '../../parts/button'
import { Progress } from '../../parts/progress'
import type { Task, TaskState } from '../../state/task'

/** How far something is that is made, and a way to stop it; the children where nothing is made. */
export function Making({
  task,
  state,
  children,
}: {
  task: Task
  state: TaskState
  children: React.ReactNode
}) {
  if (state.kind !== 'making') return children
  return (
    <>
      {state.share === null ? (
        <span role="status">{state.what} …</span>
      ) : (
        <div style={{ flex: 1, maxWidth: 420 }}>
          <Progress label={state.what} share={state.share} />
        </div>
      )}
      <Button onPress={() => task.cancel()}>Cancel</Button>
    </>
  )
}

/** What came of something that was made. */
export function Made({ state }: { state: TaskState }) {
  if (state.kind === 'failed') return <p role="alert">{state.why}</p>
  return state.kind === 'done' && state.told ? <p role="status">{state.told}</p> : null
}
