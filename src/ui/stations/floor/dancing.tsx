'use client'

import styled from 'styled-components'
import { stepOf, stripAt, wanted } from '@/core/floor'
import { passWords, stretchName } from '@/core/routine'
import type { Ticks } from '@/core/time'
import { tempoOfTick } from '../../state/page'
import { useView } from '../../state/view'
import { Adds } from './adds'
import { Alarm, Dark, TopLine } from './dark'
import { EightStrip } from './eight-strip'
import { useDrill, useFloor } from './floor-store'
import { Marks } from './marks'
import { OnStage } from './on-stage'
import { useDanced } from './use-danced'
import { useMoment } from './use-moment'
import { useTrouble } from './use-trouble'

/** What is seen while it plays is all there at once: what is pressed stays where it is, however long the words are. */
const Screen = styled(Dark)<{ $whole: boolean }>`
  ${(p) => p.$whole && 'height: max(100dvh, 520px);'}
  gap: 14px;
`

const Title = styled.h1`
  display: inline;
  margin: 0;
  font: inherit !important;
`

const NONE: readonly number[] = []

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
