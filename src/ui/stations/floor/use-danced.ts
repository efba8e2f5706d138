import { rangeOf } from '@/core/drill'
import { cuesIn, ofPass } from '@/core/routine'
import { useSeen } from '../../state/choreo'
import { useDrill, useFloor } from './floor-store'

/** The counts that are danced, and their cues: as written, and as seen. */
export function useDanced() {
  const routine = useFloor((s) => s.routine)
  const written = useFloor((s) => s.shown)
  const plan = useDrill((d) => d.plan)
  const range = rangeOf(plan, routine)
  const all = ofPass(useSeen(routine), plan.pass)
  return { range, all, written: ofPass(written, plan.pass), cues: cuesIn(all, range) }
}
