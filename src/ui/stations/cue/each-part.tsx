'use client'

import { nanoid } from 'nanoid'
import { useMemo } from 'react'
import {
  type DancedCue,
  type EachPlace,
  eachOf,
  eachTime,
  removeEach,
  setApart,
  standEach,
} from '@/core/routine'
import { clockText, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'

/** More places than this are not listed one by one. */
const LISTED = 12

/** All places of a cue that stands at several; or where it could stand each time. */
export function EachPart({ page, cue }: { page: Page; cue: DancedCue }) {
  const cues = useRoutine((s) => s.routine.cues)
  const each = useMemo(() => eachOf(cues, cue), [cues, cue])
  if (cue.link) return null
  return (
    <Part aria-label="Each time" data-testid="each">
      {each.length > 1 && <Places page={page} cue={cue} places={each.map((c) => c.at)} />}
      <Offers page={page} cue={cue} taken={each.map((c) => c.at)} />
    </Part>
  )
}

function Places({ page, cue, places }: { page: Page; cue: DancedCue; places: readonly number[] }) {
  const edit = useRoutine((s) => s.edit)
  const to = useCursor((s) => s.to)
  const n = places.length
  return (
    <>
      <h3>Stands {n} times</h3>
      <p>What is changed here is changed at all {n} places, but for what differs there.</p>
      <Tools>
        {places.slice(0, LISTED).map((at) => (
          <Button key={at} small look={at === cue.at ? 'plain' : 'quiet'} onPress={() => to(at, cue.layer)}>
            {clockText(timeOfTick(page.times, at))}
          </Button>
        ))}
        {n > LISTED && <span>and {n - LISTED} more</span>}
      </Tools>
      <Tools>
        <Button small look="quiet" onPress={() => edit('one place differs', (r) => setApart(r, cue.id))}>
          This one differs
        </Button>
        <Button
          small
          look="quiet"
          onPress={() => edit(`delete “${cue.move}” everywhere`, (r) => removeEach(r, cue.id))}
        >
          Delete all {n}
        </Button>
      </Tools>
    </>
  )
}

function Offers({ page, cue, taken }: { page: Page; cue: DancedCue; taken: readonly number[] }) {
  const marks = useRoutine((s) => s.routine.marks)
  const edit = useRoutine((s) => s.edit)
  const time = useMemo(
    () => eachTime({ marks }, page.placed, page.times, cue),
    [marks, page.placed, page.times, cue],
  )
  const stand = (places: readonly EachPlace[]) =>
    edit(`“${cue.move}” each time`, (r) => standEach(r, cue.id, places, nanoid))
  const more = (places: readonly EachPlace[]) => places.filter((p) => !taken.includes(p.at)).length
  const [sung, again] = [more(time.marks), more(time.sections)]
  if (!sung && !again) return null
  return (
    <>
      <h3>Each time</h3>
      <Tools>
        {sung > 0 && (
          <Button small onPress={() => stand(time.marks)}>
            Each time “{time.mark?.text}” is {time.mark?.kind === 'lyric' ? 'sung' : 'heard'} (
            {time.marks.length})
          </Button>
        )}
        {again > 0 && (
          <Button small onPress={() => stand(time.sections)}>
            At this count of every {time.letter} ({time.sections.length})
          </Button>
        )}
      </Tools>
    </>
  )
}
