'use client'

import { awayText, driftsOf, leavings, metresText, pathAt, roomNeeded, spotText } from '@/core/places'
import { cueText, danceOf, setSpace, tickName } from '@/core/routine'
import { Button } from '../parts/button'
import { Part, Tools } from '../parts/panel'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { FloorPlan, PathOnPlan, scaleOf } from './plan'
import { viewOf } from './plan-view'
import { useAsSeen, usePath } from './use-places'

const WHY = {
  way: 'nobody knows where it goes',
  length: 'nobody knows how far it goes',
  facing: 'nobody knows which way the dancer faces',
} as const

interface Props {
  page: Page
  pixels: number
}

/** One dancer: the path of the steps, how much room it takes, where to begin, and where it leaves the room. */
export function PathPart({ page, pixels }: Props) {
  const routine = useRoutine((s) => s.routine)
  const edit = useRoutine((s) => s.edit)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const { path, begin } = usePath()
  const asSeen = useAsSeen()
  const { space } = routine
  const view = viewOf(space, { path, begin }, null)
  const scale = scaleOf(view, pixels)
  const needed = roomNeeded(path)
  const away = awayText(asSeen(pathAt(path, tick)))
  const drifts = driftsOf(path, routine.repeats, danceOf(routine))
  const name = (at: number) => tickName(page.placed, at)
  const plain = (to: 'side' | 'spot') => edit('where plain steps go', (r) => setSpace(r, { plain: to }))
  return (
    <Part aria-label="The path of the steps">
      <FloorPlan {...{ view, space, pixels }} label="The floor from above, with the path of the steps">
        <PathOnPlan {...{ path, begin, page, scale }} />
      </FloorPlan>
      <p role="status" data-testid="path-here">
        At the cursor: {away ? `${away} of where you began` : 'where you began'}
        {pathAt(path, tick).uncertain ? ', as far as is known' : ''}.
      </p>
      {path.points.length > 0 && (
        <p data-testid="room-needed">
          It takes {metresText(needed.width)} by {metresText(needed.depth)}. Begin {spotText(asSeen(begin))}
          {space.begin ? ', as you said' : ''}.
        </p>
      )}
      {space.begin && (
        <Tools>
          <Button small onPress={() => edit('begin where it fits best', (r) => setSpace(r, { begin: null }))}>
            Begin where it fits best
          </Button>
        </Tools>
      )}
      {leavings(path, space).map(({ of, point }) => (
        <p key={of} role="alert">
          “{cueText(point.cue)}” on {name(point.at)} leads out of the {of}.
        </p>
      ))}
      {drifts.map((d) => (
        <p key={d.of.from}>
          What begins on {name(d.of.from)} is danced {d.times} times and ends {awayText(asSeen(d.whole))}.
        </p>
      ))}
      {path.unknown ? (
        <>
          <p data-testid="path-unknown">
            From {name(path.unknown.at)} on it is not certain: of “{cueText(path.unknown.cue)}”{' '}
            {WHY[path.unknown.why]}.
          </p>
          <Tools>
            <Button
              small
              onPress={() => path.unknown && to(path.unknown.at, path.unknown.cue.layer)}
              tip="There its way can be said, under “More about this cue”"
            >
              Go there
            </Button>
            {path.unknown.why === 'way' && space.plain === 'unknown' && (
              <>
                <Button small onPress={() => plain('side')}>
                  Plain steps go to their side
                </Button>
                <Button small onPress={() => plain('spot')}>
                  They stay on the spot
                </Button>
              </>
            )}
          </Tools>
        </>
      ) : (
        path.points.length === 0 && (
          <p>No step goes anywhere yet. “walk forward R”, “step side L”, “run back” say where they go.</p>
        )
      )}
    </Part>
  )
}
