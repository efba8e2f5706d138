'use client'

import { loadOf } from '@/core/lesson'
import { type LessonStep, LIMITS, setNeeds } from '@/core/routine'
import { KeptLine } from '../../parts/kept-line'
import { Part } from '../../parts/panel'
import { useDance } from '../../state/choreo'
import { useBook } from '../../state/moves-store'
import { useRoutine } from '../../state/routine-store'

/** What a lesson asks of the body, and the dance of those who dance it and of the room. */
export function AsksPart({ steps }: { steps: readonly LessonStep[] }) {
  const book = useBook()
  const edit = useRoutine((s) => s.edit)
  const gear = useRoutine((s) => s.routine.gear)
  const room = useRoutine((s) => s.routine.room)
  const dance = useDance()
  const load = loadOf(steps, dance, book)
  return (
    <Part>
      <h3>What it asks of the body</h3>
      <p data-testid="load">
        {load.jumps} landings, {load.kicks} kicks, {load.knees} times on the knees or the floor, over all
        repetitions.
      </p>
      <KeptLine
        label="To bring"
        value={gear}
        most={LIMITS.note}
        placeholder="knee pads, shoes …"
        keep={(text) => edit('what to bring', (r) => setNeeds(r, { gear: text }))}
      />
      <KeptLine
        label="Of the room"
        value={room}
        most={LIMITS.note}
        placeholder="4 m to the right; begin at the back"
        keep={(text) => edit('what the room must have', (r) => setNeeds(r, { room: text }))}
      />
      <p>
        Warm up before, cool down after, water within reach, clear and dry floor. Jumps land on soft knees;
        kicks only as high as is easy today. Stop on pain.
      </p>
    </Part>
  )
}
