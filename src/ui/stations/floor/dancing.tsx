'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { armsOf, factsOf, followBody, liesIn, START, stepAt, toTheBack } from '@/core/choreo'
import { nextChange, rangeOf } from '@/core/drill'
import {
  BEFORE_SOUND,
  laterMoment,
  type Moment,
  momentOf,
  nowIn,
  QUARTER,
  stepOf,
  stripAt,
  type Tip,
  tipsIn,
  wanted,
} from '@/core/floor'
import { cuesIn, isMeant, ofPass, otherSide, passWords, pieceOf, stretchName } from '@/core/routine'
import { type Ticks, timeOfTick } from '@/core/time'
import { seen } from '../../sheet/footing'
import { useMoments } from '../../sheet/playhead'
import { useSeen } from '../../state/choreo'
import { useBook } from '../../state/moves-store'
import { tempoOfTick } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useView } from '../../state/view'
import { Adds } from './adds'
import { Alarm, Dark, TopLine } from './dark'
import { EightStrip } from './eight-strip'
import { FilmNow } from './film-now'
import { useDevices } from './floor-devices'
import { useDrill, useFloor } from './floor-store'
import { Marks } from './marks'
import { Beside } from './mirror'
import { Now, Words } from './now'
import { PlanNow } from './plan-now'
import { RunSheet } from './run-sheet'
import { useTrouble } from './use-trouble'

/** What is seen while it plays is all there at once: what is pressed stays where it is, however long the words are. */
const Screen = styled(Dark)<{ $whole: boolean }>`
  ${(p) => p.$whole && 'height: max(100dvh, 520px);'}
  gap: 14px;
`

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

const Title = styled.h1`
  display: inline;
  margin: 0;
  font: inherit !important;
`

const NONE: readonly number[] = []

/** How long after a change it is looked for, and the longest time between two looks; before the first sound this often. */
const [AFTER_MS, LONGEST_MS, LOOK_MS] = [2, 150, 30]

/** What sounds now, looked at whenever it changes. */
function useMoment(): Moment {
  const page = useFloor((s) => s.page)
  const player = usePlayer()
  const [moment, setMoment] = useState(BEFORE_SOUND)
  useMoments(
    page,
    () => {
      const place = player.now()
      const at = player.tickNow(page)
      if (!place || at === null) return
      const next = momentOf(place, at)
      setMoment((before) => laterMoment(before, next))
      const wait = 1000 * nextChange(page.times, place.leg.timeline, place.into, QUARTER)
      return Math.min(LONGEST_MS, wait + AFTER_MS)
    },
    LOOK_MS,
  )
  return moment
}

/** The counts that are danced, and their cues: as written, and as seen. */
function useDanced() {
  const routine = useFloor((s) => s.routine)
  const written = useFloor((s) => s.shown)
  const plan = useDrill((d) => d.plan)
  const range = rangeOf(plan, routine)
  const all = ofPass(useSeen(routine), plan.pass)
  return { range, all, written: ofPass(written, plan.pass), cues: cuesIn(all, range) }
}

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

/** While it plays: the count, what is now and what is next, and the marks. */
export function Dancing() {
  const moment = useMoment()
  const from = useDrill((d) => d.plan.stretch.from)
  const tempo = useFloor((s) => tempoOfTick(s.page, moment.tick ?? from))
  const ended = useFloor((s) => s.floor.phase.kind === 'ended')
  const trouble = useTrouble()
  return (
    <Screen $whole={!ended}>
      <Heading speed={moment.speed} tempo={tempo} />
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      <OnStage moment={moment} />
      <Eight tick={moment.tick} />
      <Standing repetition={moment.repetition} />
      <Adds />
      <Marks />
    </Screen>
  )
}

/** What is danced, and how fast. @param speed of what sounds; 0 before the first sound @param tempo of the song there */
function Heading({ speed: sounding, tempo }: { speed: number; tempo: number }) {
  const plan = useDrill((d) => d.plan)
  const name = useFloor((s) => stretchName(s.page.placed, plan.stretch))
  const step = useFloor(({ lesson, floor }) => {
    const here = lesson && floor.going && stepOf(floor)
    return here && `Step ${(floor.going?.index ?? 0) + 1} of ${lesson.steps.length} · ${here.kind}`
  })
  const speed = sounding || plan.speed
  return (
    <TopLine>
      <span>
        {step ? `${step} · ` : plan.kind === 'run' ? 'Full run · ' : ''}
        <Title>{name}</Title>
      </span>
      <span>
        <strong data-testid="speed">{Math.round(speed * 100)} %</strong> {Math.round(tempo * speed)} BPM
        {plan.speed !== speed && ` · next ${Math.round(plan.speed * 100)} %`}
      </span>
    </TopLine>
  )
}

function OnStage({ moment }: { moment: Moment }) {
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

/** The phrase count by count. */
function Eight({ tick }: { tick: Ticks | null }) {
  const placed = useFloor((s) => s.page.placed)
  const ended = useFloor((s) => s.floor.phase.kind === 'ended')
  const slips = useDrill((d) => d.repetitions.at(-1)?.slips ?? NONE)
  const mirrored = useView((v) => v.mirrored)
  const tell = useFloor((s) => s.tell)
  const { range, all } = useDanced()
  const row = stripAt(placed, tick ?? range.from)
  if (!row) return null
  return (
    <EightStrip
      from={row.shown.from}
      to={row.shown.to}
      chosenFrom={range.from}
      chosenTo={range.to}
      placed={placed}
      cues={all}
      now={ended ? null : tick}
      mirrored={mirrored}
      slips={slips}
      onSlip={(at) => tell({ kind: 'slip', tick: at })}
    />
  )
}

/** Which repetition this is, what sounds, and what was said last. */
function Standing({ repetition }: { repetition: number }) {
  const plan = useDrill((d) => d.plan)
  const offset = useDrill((d) => d.offset)
  const most = useDrill(wanted)
  const marked = useDrill((d) => d.repetitions.some((r) => r.mark))
  const said = useFloor((s) => s.floor.said)
  const mirrored = useView((v) => v.mirrored)
  const { pass } = plan
  return (
    <TopLine>
      <span data-testid="repetition">
        {plan.kind === 'run' && !plan.repetitions
          ? 'the whole dance, once'
          : `repetition ${offset + repetition + 1}${most ? ` of ${most}` : ''}`}{' '}
        · {plan.sound === 'both' ? 'counts and music' : plan.sound}
        {mirrored && ' · mirrored'}
        {pass && pass !== 'all' && ` · ${passWords(pass)}`}
        {plan.toBack && ' · to the back'}
      </span>
      <span role="status">
        {said || (marked ? '' : 'Mark each repetition as it ends; press a count where it slips')}
      </span>
    </TopLine>
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
