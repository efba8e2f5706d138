'use client'

import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { armsOf, factsOf, followBody, liesIn, START, stepAt, toTheBack } from '@/core/choreo'
import { rangeOf } from '@/core/drill'
import { type Moment, nowIn, type Tip, tipsIn } from '@/core/floor'
import { isMeant, ofPass, otherSide, pieceOf, stretchName } from '@/core/routine'
import { type Ticks, timeOfTick } from '@/core/time'
import { seen } from '../../sheet/footing'
import { useBook } from '../../state/moves-store'
import { usePlayer } from '../../state/player'
import { useView } from '../../state/view'
import { FilmNow } from './film-now'
import { useDevices } from './floor-devices'
import { useDrill, useFloor } from './floor-store'
import { Beside } from './mirror'
import { Now, Words } from './now'
import { PlanNow } from './plan-now'
import { RunSheet } from './run-sheet'
import { useDanced } from './use-danced'

const Stage = styled.div<{ $beside: boolean; $large: boolean; $whole: boolean }>`
  flex: 1;
  display: grid;
  grid-template: minmax(0, 1fr) / ${(p) => (p.$large ? 'minmax(0, 3fr) minmax(0, 4fr) minmax(0, 8fr)' : p.$beside ? 'minmax(0, 4fr) minmax(0, 5fr) minmax(0, 5fr)' : 'minmax(0, 5fr) minmax(0, 7fr)')};
  align-items: center;
  gap: 24px;
  min-height: 0;
  ${(p) => p.$whole && 'container-type: size;'}
  @media (max-width: 700px) { grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr); gap: 6px; }
`

/** Weight, facing and arms at a place. */
function useBody(at: Ticks) {
  const shown = useFloor((s) => s.shown)
  const positions = useFloor((s) => s.routine.positions)
  const plan = useDrill((d) => d.plan)
  const book = useBook()
  const body = followBody(shown, book, START, positions).steps
  const plain = stepAt(body, at) ?? START
  // To the back every wall is the one opposite, for the words, the plan and the figure.
  const here = plan.toBack ? toTheBack(plain) : plain
  const running = nowIn(ofPass(shown, plan.pass), at).flatMap((l) => l.cues)
  return { here, arms: armsOf(running), lies: liesIn(running) }
}

/** The count and what stands beside it; what came of a run once it is over; why it stands still where it broke. */
export function OnStage({ moment }: { moment: Moment }) {
  const phase = useFloor((s) => s.floor.phase)
  const placed = useFloor((s) => s.page.placed)
  const plan = useDrill((d) => d.plan)
  const tell = useFloor((s) => s.tell)
  const beside = useBeside()
  const large = useView((v) => v.beside === 'film' && v.filmed === 'large')
  const ended = phase.kind === 'ended'
  return (
    <Stage $beside={beside !== 'none'} $large={large && !ended} $whole={!ended}>
      {phase.kind === 'broken' ? (
        <Broken why={phase.why} />
      ) : ended ? (
        <RunSheet
          placed={placed.filter((p) => isMeant(placed, p, plan.stretch))}
          mark={(p, mark) =>
            tell({ kind: 'mark stretch', stretch: pieceOf(placed, { from: p.start, to: p.end }), mark })
          }
        />
      ) : (
        <Playing moment={moment} />
      )}
    </Stage>
  )
}

/** What stands beside the counts: where places are walked, the plan of the floor. */
function useBeside() {
  const walked = useDrill((d) => d.plan.walked ?? false)
  const beside = useView((v) => v.beside)
  return walked ? 'plan' : beside
}

/** The count, the words, and what stands beside them. */
function Playing({ moment }: { moment: Moment }) {
  const placed = useFloor((s) => s.page.placed)
  const mirrored = useView((v) => v.mirrored)
  const beside = useBeside()
  const { range, cues } = useDanced()
  const at = moment.tick ?? range.from
  const { here, arms, lies } = useBody(at)
  const book = useBook()
  const wall = cues.some((c) => c.at > at && (c.facing !== undefined || factsOf(c, book).turn !== null))
  const pose = {
    ...seen(here, mirrored),
    level: here.level,
    lies,
    arms: mirrored && arms ? otherSide(arms) : arms,
  }
  return (
    <>
      <Now
        shown={moment}
        placed={placed}
        cues={cues}
        mirrored={mirrored}
        body={moment.tick === null ? null : seen(here, mirrored)}
        tip={useTip(moment)}
        wall={wall}
        narrow={beside !== 'none'}
      />
      {beside === 'film' ? (
        <FilmNow pose={pose} />
      ) : beside === 'plan' ? (
        <PlanNow tick={at} />
      ) : (
        beside !== 'none' && <BesideNow moment={moment} pose={pose} />
      )}
    </>
  )
}

/** What to mind in this repetition: one thing at a time, what slipped most first. */
function useTip(moment: Moment): Tip | null {
  const placed = useFloor((s) => s.page.placed)
  const { tips: wanted, mirrored } = useView(useShallow(({ tips, mirrored }) => ({ tips, mirrored })))
  const before = useFloor((s) => s.slipped)
  const slips = [...before, ...useDrill((d) => d.repetitions).flatMap((r) => r.slips)]
  const offset = useDrill((d) => d.offset)
  const { range, cues } = useDanced()
  if (!wanted) return null
  const tips = tipsIn(placed, cues, range, slips, mirrored)
  return tips[(offset + moment.repetition) % Math.max(1, tips.length)] ?? null
}

function BesideNow({ moment, pose }: { moment: Moment; pose: Parameters<typeof Beside>[0]['pose'] }) {
  const player = usePlayer()
  const { times, placed } = useFloor((s) => s.page)
  const routine = useFloor((s) => s.routine)
  const { id, offset, plan } = useDrill((d) => d)
  const { camera, filmed, keepFilmed } = useDevices()
  const { from, to } = rangeOf(plan, routine)
  const speed = moment.speed || plan.speed
  return (
    <Beside
      {...camera}
      filmed={filmed}
      onFilmed={keepFilmed}
      dancing={moment.tick === null ? null : `${id} ${offset + moment.repetition}`}
      about={{
        label: `${routine.title}, ${stretchName(placed, plan.stretch)}`,
        speed,
        seconds: (timeOfTick(times, to) - timeOfTick(times, from)) / speed,
        songNow: () => {
          const place = player.now()
          return place && place.leg.timeline.songStart + place.into * place.leg.timeline.speed
        },
      }}
      pose={pose}
    />
  )
}

function Broken({ why }: { why: string }) {
  return (
    <Words style={{ gridColumn: '1 / -1' }} role="alert">
      <div className="now">Paused</div>
      <div className="beside">
        {why} Go on from the start of this phrase, counted in; nothing was logged for it.
      </div>
    </Words>
  )
}
