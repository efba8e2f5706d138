'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { armsOf, followBody, START, stepAt, toTheBack } from '@/core/choreo'
import { type Mark, nextChange, rangeOf } from '@/core/drill'
import { type AddWay, type Drill, wanted } from '@/core/floor'
import { cuesIn, ofPass, otherSide, passWords, phraseAt, type Routine, stretchName } from '@/core/routine'
import { TICKS_PER_COUNT, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { seen } from '../../sheet/footing'
import { useMoments } from '../../sheet/playhead'
import { useSeen, useShown } from '../../state/choreo'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useView } from '../../state/view'
import { floor, font } from '../../theme/tokens'
import { Changes } from './changes'
import { Alarm, Dark, TopLine } from './dark'
import { Beside } from './mirror'
import { EightStrip, Now, QUARTER, running, type Shown, Words } from './now'
import type { Filmed } from './reel'
import { RunSheet } from './run-sheet'
import type { useCamera } from './use-camera'
import type { FloorStation } from './use-floor'

/** What is seen while it plays is all there at once: what is pressed stays where it is, however long the words are. */
const Screen = styled(Dark)<{ $whole: boolean }>`
  ${(p) => p.$whole && 'height: max(100dvh, 520px);'}
  gap: 14px;
`

const Stage = styled.div<{ $beside: boolean; $whole: boolean }>`
  flex: 1;
  display: grid;
  grid-template: minmax(0, 1fr) / ${(p) => (p.$beside ? 'minmax(0, 4fr) minmax(0, 5fr) minmax(0, 5fr)' : 'minmax(0, 5fr) minmax(0, 7fr)')};
  align-items: center;
  gap: 24px;
  min-height: 0;
  ${(p) => p.$whole && 'container-type: size;'}
  @media (max-width: 700px) { grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr); gap: 6px; }
`

const Marks = styled.div`
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  button { min-height: 58px; justify-content: space-between; font: 700 20px/1 ${font.display}; color: ${floor.ink}; border-color: transparent; }
  small { font: 500 13.5px/1 ${font.text}; color: #E9DDEE; }
  @media (max-width: 700px) { grid-template-columns: 1fr 1fr; gap: 8px; small { display: none; } }
`

const Title = styled.h1`
  display: inline;
  margin: 0;
  font: inherit !important;
`

const Adds = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  button { min-height: 38px; font-size: 15px; flex: none; }
  @media (max-width: 700px) { order: 1; flex-wrap: nowrap; overflow-x: auto; }
`

const NONE: readonly number[] = []

interface Props {
  page: Page
  routine: Routine
  floor: FloorStation
  drill: Drill
  mirrored: boolean
  trouble: string
  again: () => void
  mark: (m: Mark) => void
  /** What would be taken in next; null where nothing is left, or nothing can be added. */
  more: string | null
  onAdd: (way: AddWay) => void
  onFallBack: () => void
  /** Which step of a lesson this is; empty outside one. */
  lesson: string
  camera: ReturnType<typeof useCamera>
  filmed: Filmed | null
  onFilmed: (filmed: Filmed) => void
}

/** How long after a change it is looked for, and the longest time between two looks; before the first sound this often. */
const [AFTER_MS, LONGEST_MS, LOOK_MS] = [2, 150, 30]

/** While it plays: the count, what is now and what is next, and the marks. */
export function Dancing({
  page,
  routine,
  floor: station,
  drill,
  mirrored,
  trouble,
  again,
  mark,
  lesson,
  camera,
  filmed,
  onFilmed,
  more,
  onAdd,
  onFallBack,
}: Props) {
  const beside = useView((v) => v.beside)
  const player = usePlayer()
  const [shown, setShown] = useState<Shown>({ tick: null, repetition: 0, countIn: '', speed: 0 })
  const { phase, said } = station.state
  const { plan, offset } = drill
  const ended = phase.kind === 'ended'
  const broken = phase.kind === 'broken' ? phase : null
  const marked = drill.repetitions.some((r) => r.mark)
  const most = wanted(drill)
  useMoments(
    page,
    () => {
      const place = player.now()
      const at = player.tickNow(page)
      if (!place || at === null) return
      const { timeline, countedIn, k } = place.leg
      const called =
        countedIn && place.into < 0
          ? timeline.countIn.findLast((e) => e.time <= place.into + 0.005)
          : undefined
      const tick = Math.floor(Math.max(at, place.into < 0 ? timeline.from : at) / QUARTER) * QUARTER
      const next: Shown = {
        tick: place.into < 0 ? null : Math.min(tick, timeline.to - 1),
        repetition: k,
        countIn: place.into < 0 ? (called?.call ?? '') : '',
        speed: timeline.speed,
      }
      setShown((s) =>
        s.tick === next.tick &&
        s.repetition === next.repetition &&
        s.countIn === next.countIn &&
        s.speed === next.speed
          ? s
          : next,
      )
      const wait = 1000 * nextChange(page.times, timeline, place.into, QUARTER)
      return Math.min(LONGEST_MS, wait + AFTER_MS)
    },
    LOOK_MS,
  )
  const shownCues = useShown(routine)
  const seenCues = useSeen(routine)
  const book = useBook()
  const body = useMemo(
    () => followBody(shownCues, book, START, routine.positions).steps,
    [shownCues, book, routine.positions],
  )
  const { pass } = plan
  const all = useMemo(() => ofPass(seenCues, pass), [seenCues, pass])
  const { from, to } = rangeOf(plan, routine)
  const name = stretchName(page.placed, plan.stretch)
  const cues = cuesIn(all, { from, to })
  const at = shown.tick ?? from
  const phrase = phraseAt(page.placed, at)
  const speed = shown.speed || plan.speed
  const plain = stepAt(body, at) ?? START
  // To the back every wall is the one opposite, for the words, the plan and the figure.
  const here = plan.toBack ? toTheBack(plain) : plain
  const arms = armsOf(running(ofPass(shownCues, pass), at))
  return (
    <Screen $whole={!ended}>
      <TopLine>
        <span>
          {lesson ? `${lesson} · ` : plan.kind === 'run' ? 'Full run · ' : ''}
          <Title>{name}</Title>
        </span>
        <span>
          <strong data-testid="speed">{Math.round(speed * 100)} %</strong> {Math.round(page.tempo * speed)}{' '}
          BPM
          {plan.speed !== speed && ` · next ${Math.round(plan.speed * 100)} %`}
        </span>
      </TopLine>
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      <Stage $beside={beside !== 'none'} $whole={!ended}>
        {broken ? (
          <Broken why={broken.why} />
        ) : ended ? (
          <RunSheet
            placed={page.placed.filter((p) => p.start < plan.stretch.to && p.end > plan.stretch.from)}
            mark={(p, m) =>
              station.tell({ kind: 'mark stretch', stretch: { from: p.start, to: p.end }, mark: m })
            }
          />
        ) : (
          <Now
            {...{ shown, phrase, cues, mirrored }}
            tick={shown.tick}
            body={shown.tick === null ? null : seen(here, mirrored)}
            narrow={beside !== 'none'}
          />
        )}
        {beside !== 'none' && !broken && !ended && (
          <Beside
            {...camera}
            {...{ filmed, onFilmed }}
            dancing={shown.tick === null ? null : `${drill.id} ${offset + shown.repetition}`}
            about={{
              label: `${routine.title}, ${name}`,
              speed,
              seconds: (timeOfTick(page.times, to) - timeOfTick(page.times, from)) / speed,
            }}
            pose={{
              ...seen(here, mirrored),
              level: here.level,
              arms: mirrored && arms ? otherSide(arms) : arms,
            }}
          />
        )}
      </Stage>
      {phrase && (
        <EightStrip
          phrase={phrase}
          cues={all}
          count={ended || shown.tick === null ? null : Math.floor(shown.tick / TICKS_PER_COUNT)}
          mirrored={mirrored}
          slips={drill.repetitions.at(-1)?.slips ?? NONE}
          onSlip={station.slip}
        />
      )}
      <TopLine>
        <span data-testid="repetition">
          {plan.kind === 'run' && !plan.repetitions
            ? 'the whole dance, once'
            : `repetition ${offset + shown.repetition + 1}${most ? ` of ${most}` : ''}`}{' '}
          · {plan.sound === 'both' ? 'counts and music' : plan.sound}
          {mirrored && ' · mirrored'}
          {pass && pass !== 'all' && ` · ${passWords(pass)}`}
          {plan.toBack && ' · to the back'}
        </span>
        <span role="status">
          {said || (marked ? '' : 'Mark each repetition as it ends; press a count where it slips')}
        </span>
      </TopLine>
      {plan.kind === 'drill' && !ended && !broken && (
        <Adds data-testid="adds">
          <Button look="dark" isDisabled={!more} onPress={() => onAdd('top')} hotkey="loopMore">
            {more ? `+ ${more}, from the top` : 'All is in'}
          </Button>
          <Button look="dark" isDisabled={!more} onPress={() => onAdd('last two')} hotkey="lastTwo">
            + the last two
          </Button>
          <Button look="dark" isDisabled={!more} onPress={() => onAdd('join')} hotkey="joinAlone">
            + the join
          </Button>
          <Button look="dark" onPress={onFallBack} hotkey="fallBack">
            − fall back
          </Button>
          <Changes plan={plan} onChange={(what) => station.tell({ kind: 'change', what })} />
        </Adds>
      )}
      <Marks>
        <Button onPress={() => mark('clean')} style={{ background: floor.clean }}>
          Clean <small>page down · C</small>
        </Button>
        <Button onPress={() => mark('shaky')} style={{ background: floor.shaky }}>
          Shaky <small>B</small>
        </Button>
        <Button onPress={() => mark('missed')} style={{ background: floor.missed }}>
          Missed <small>page up · X</small>
        </Button>
        {broken ? (
          <Button look="dark" onPress={() => station.tell({ kind: 'go on' })}>
            Go on <small>space</small>
          </Button>
        ) : ended ? (
          <Button look="dark" onPress={again}>
            Again <small>space</small>
          </Button>
        ) : (
          <Button look="dark" onPress={() => station.tell({ kind: 'stop' })}>
            Stop <small>space</small>
          </Button>
        )}
        {ended && (
          <Button look="dark" onPress={() => station.tell({ kind: 'stop' })} style={{ gridColumn: '1 / -1' }}>
            Done <small>escape</small>
          </Button>
        )}
      </Marks>
    </Screen>
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
