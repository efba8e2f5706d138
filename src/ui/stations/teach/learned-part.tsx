'use client'

import { useMemo } from 'react'
import { type drillHabits, type Estimate, learned } from '@/core/drill'
import { alike, type LessonSettings, USUALLY_DRILLED } from '@/core/routine'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { fetchLessons } from '../../state/api-log'
import { useLog } from '../../state/use-log'

/** How often one drills, from one's own log, with what lessons took beside: all planned with in one press. */
export function AsITeach({
  settings,
  habits: { slow, fast, rungs },
  talk,
  pause,
  onChange,
}: {
  settings: LessonSettings
  habits: ReturnType<typeof drillHabits>
  talk: Estimate | null
  pause: Estimate | null
  onChange: (what: Partial<LessonSettings>) => void
}) {
  const { drilled } = settings
  const now = drilled ?? USUALLY_DRILLED
  const known = slow || fast || rungs || talk || pause
  if (!known && !drilled) return null
  const next: Partial<LessonSettings> = {
    ...(slow || fast || rungs
      ? {
          drilled: {
            slow: slow?.value ?? now.slow,
            fast: fast?.value ?? now.fast,
            rungs: rungs?.value ?? now.rungs,
          },
        }
      : {}),
    ...(talk ? { talk: Math.min(30, Number(talk.value.toFixed(1))) } : {}),
    ...(pause ? { pause: Math.max(0, Math.min(60, Math.round(pause.value))) } : {}),
  }
  const drills = (slow?.from ?? 0) + (fast?.from ?? 0)
  const same = Object.entries(next).every(([key, value]) =>
    alike(settings[key as keyof LessonSettings], value),
  )
  return (
    <div data-testid="as-i-teach">
      <p>
        Drilled at most: slow {now.slow} times, at tempo {now.fast}, at {now.rungs} speeds
        {drilled ? '' : ' (usual)'}.
        {drills > 0 &&
          ` Yours: slow ${slow?.value ?? '?'}, at tempo ${fast?.value ?? '?'}, ${rungs?.value ?? '?'} speeds (the middle of ${drills} drills).`}
      </p>
      <Tools>
        {known && !same && (
          <Button
            small
            onPress={() => onChange(next)}
            tip="Talk, pauses, repetitions and speeds as your lessons took them"
          >
            As I teach
          </Button>
        )}
        {drilled && (
          <Button small look="quiet" onPress={() => onChange({ drilled: null })}>
            As usual
          </Button>
        )}
      </Tools>
    </div>
  )
}

/** What lessons on this routine really took; nothing until some were held. */
export function useLearned(id: string, group: string): ReturnType<typeof learned> {
  // Without the log the usual values stand.
  const { rows } = useLog(fetchLessons, id, true)
  return useMemo(() => learned(group ? rows.filter((r) => r.group === group) : rows), [rows, group])
}

/** "Your lessons took 3.4 min, in 6 steps", with a press to plan with it. */
export function Held({
  estimate,
  digits,
  unit,
  now,
  onUse,
}: {
  estimate: Estimate | null
  digits: number
  unit: string
  now: number
  onUse: (value: number) => void
}) {
  if (!estimate) return null
  const value = Number(estimate.value.toFixed(digits))
  return (
    <p data-testid="learned">
      Your lessons took {value} {unit} (the middle of {estimate.from} steps).{' '}
      {value !== now && (
        <Button small onPress={() => onUse(value)}>
          Plan with {value} {unit}
        </Button>
      )}
    </p>
  )
}
