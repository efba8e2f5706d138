'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { type BodyState, type BodyStep, followBody, START } from '@/core/choreo'
import type { Mark } from '@/core/drill'
import { type Cue, cuesIn, cueText, type PlacedPhrase, phraseAt, type Routine } from '@/core/routine'
import { countLabel, TICKS_PER_COUNT } from '@/core/time'
import { Button } from '../../parts/button'
import { useMoments } from '../../sheet/playhead'
import { useShown } from '../../state/choreo'
import { useBook } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { floor, font } from '../../theme/tokens'
import { seen } from '../cue/footing'
import { Alarm, Dark, TopLine } from './dark'
import { RunSheet } from './run-sheet'
import { Standing } from './standing'
import { ofLayer, rangeName, rangeOf, type useDrill } from './use-drill'

const Stage = styled.div`
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  align-items: center;
  gap: 24px;
  min-height: 0;
  @media (max-width: 700px) { grid-template-columns: 1fr; gap: 6px; align-content: center; }
`

const Count = styled.div<{ $ready: boolean }>`
  font: 800 min(56vh, 38vw)/0.95 ${font.display};
  text-align: center;
  color: ${(p) => (p.$ready ? floor.azalea : floor.ink)};
  white-space: nowrap;
  small { font-size: 0.36em; color: ${floor.azalea}; }
  @media (max-width: 700px) { font-size: min(38vh, 60vw); }
`

const Words = styled.div`
  display: grid;
  gap: 6px;
  min-width: 0;
  .quiet { color: ${floor.quiet}; font-size: 21px; }
  .now { font: 750 clamp(38px, 6.4vw, 84px)/1.05 ${font.display}; overflow-wrap: anywhere; min-height: 1.05em; }
  .beside { font-size: clamp(22px, 2.6vw, 34px); min-height: 1.4em; }
  .next { font: 650 clamp(28px, 3.9vw, 52px)/1.1 ${font.display}; color: #DCCBE3; min-height: 1.1em; overflow-wrap: anywhere; }
  .gap { min-height: 3vh; padding: 12px 0; }
`

const Strip = styled.div`
  display: flex;
  gap: 6px;
`

const Cell = styled.div<{ $now: boolean; $past: boolean }>`
  flex: 1;
  min-width: 0;
  height: 92px;
  border-radius: 12px;
  border: 1.5px solid ${(p) => (p.$now ? floor.azalea : floor.line)};
  background: ${(p) => (p.$now ? floor.azalea : p.$past ? '#3A2A44' : floor.card)};
  color: ${(p) => (p.$now ? '#2B0A1B' : floor.ink)};
  padding: 8px 12px;
  overflow: hidden;
  strong { display: block; font: 700 27px/1.1 ${font.display}; }
  span { display: block; font-size: 15.5px; font-weight: 550; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
  @media (max-width: 700px) { height: 44px; padding: 6px; text-align: center; span { display: none; } strong { font-size: 20px; } }
`

const Marks = styled.div`
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  button { min-height: 58px; justify-content: space-between; font: 700 20px/1 ${font.display}; color: ${floor.ink}; border-color: transparent; }
  small { font: 500 13.5px/1 ${font.text}; color: #E9DDEE; }
  @media (max-width: 700px) { grid-template-columns: 1fr 1fr; gap: 8px; small { display: none; } }
`

interface Shown {
  /** Tick of the sub-count shown, on a grid of quarter counts; null before the first sound. */
  tick: number | null
  repetition: number
  countIn: string
  speed: number
}

interface Props {
  page: Page
  routine: Routine
  drill: ReturnType<typeof useDrill>
  mirrored: boolean
  trouble: string
  again: () => void
  mark: (m: Mark) => void
  /** Which step of a lesson this is; empty outside one. */
  lesson: string
}

const QUARTER = TICKS_PER_COUNT / 4
/** How often it is looked where the dance is: finer than the shortest quarter of a count at 200 a minute. */
const LOOK_MS = 20

/** While it plays: the count, what is now and what is next, and the marks. */
export function Dancing({ page, routine, drill, mirrored, trouble, again, mark, lesson }: Props) {
  const player = usePlayer()
  const [shown, setShown] = useState<Shown>({ tick: null, repetition: 0, countIn: '', speed: 0 })
  const { plan, ended, marks, said, broken } = drill.state
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
    },
    LOOK_MS,
  )
  const shownCues = useShown(routine)
  const book = useBook()
  const body = useMemo(() => followBody(shownCues, book).steps, [shownCues, book])
  if (!plan) return null
  const all = ofLayer(shownCues, plan.layer)
  const first = page.placed[plan.first]
  const last = page.placed[plan.last]
  if (!first || !last) return null
  const { from, to } = rangeOf(page, routine, plan)
  const cues = cuesIn(all, from, to)
  const at = shown.tick ?? from
  const phrase = phraseAt(page.placed, at)
  const speed = shown.speed || plan.speed
  return (
    <Dark>
      <TopLine>
        <span>
          {lesson ? `${lesson} · ` : plan.kind === 'run' ? 'Full run · ' : ''}
          {rangeName(first, last)}
        </span>
        <span>
          <strong data-testid="speed">{Math.round(speed * 100)} %</strong> {Math.round(page.tempo * speed)}{' '}
          BPM
          {plan.speed !== speed && ` · next ${Math.round(plan.speed * 100)} %`}
        </span>
      </TopLine>
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      <Stage>
        {broken ? (
          <Broken why={broken.why} />
        ) : ended ? (
          <RunSheet placed={page.placed.slice(plan.first, plan.last + 1)} mark={drill.markPhrase} />
        ) : (
          <Now
            {...{ shown, phrase, cues, mirrored }}
            tick={shown.tick}
            body={shown.tick === null ? null : seen(bodyAt(body, shown.tick), mirrored)}
          />
        )}
      </Stage>
      {phrase && (
        <EightStrip phrase={phrase} cues={all} tick={ended ? null : shown.tick} mirrored={mirrored} />
      )}
      <TopLine>
        <span data-testid="repetition">
          {plan.kind === 'run' && !plan.repetitions
            ? 'the whole dance, once'
            : `repetition ${shown.repetition + 1}${plan.repetitions ? ` of ${plan.repetitions}` : ''}`}{' '}
          · {plan.sound === 'both' ? 'counts and music' : plan.sound}
          {mirrored && ' · mirrored'}
          {plan.layer && plan.layer !== 'all' && ` · ${plan.layer} alone`}
          {plan.toBack && ' · to the back'}
        </span>
        <span role="status">{said || (marks.size === 0 ? 'Mark each repetition as it ends' : '')}</span>
      </TopLine>
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
          <Button look="dark" onPress={drill.goOn}>
            Go on <small>space</small>
          </Button>
        ) : ended ? (
          <Button look="dark" onPress={again}>
            Again <small>space</small>
          </Button>
        ) : (
          <Button look="dark" onPress={drill.stop}>
            Stop <small>space</small>
          </Button>
        )}
        {ended && (
          <Button look="dark" onPress={drill.stop} style={{ gridColumn: '1 / -1' }}>
            Done <small>escape</small>
          </Button>
        )}
      </Marks>
    </Dark>
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

/** Where weight and facing are after the last step at or before a tick. */
function bodyAt(steps: readonly BodyStep[], tick: number): BodyState {
  return steps.findLast((s) => s.at <= tick) ?? START
}

/** What runs at a tick, the feet first. */
function running(cues: readonly Cue[], tick: number): Cue[] {
  const order = (c: Cue) => (c.layer === 'feet' || c.layer === 'whole' ? 0 : 1)
  return cues
    .filter((c) => c.at <= tick && c.at + c.length > tick)
    .sort((a, b) => order(a) - order(b) || b.at - a.at)
}

function Now({
  shown,
  phrase,
  cues,
  tick,
  mirrored,
  body,
}: {
  shown: Shown
  phrase: PlacedPhrase | null
  cues: readonly Cue[]
  tick: number | null
  mirrored: boolean
  /** Where weight and facing are, as seen; null before the first sound. */
  body: Pick<BodyState, 'weight' | 'facing'> | null
}) {
  const counting = tick === null
  const now = counting ? [] : running(cues, tick)
  const nextAt = cues.find((c) => c.at > (tick ?? Number.NEGATIVE_INFINITY))?.at
  const next = cues.filter((c) => c.at === nextAt)
  const label =
    !counting && phrase
      ? countLabel(Math.floor((tick - phrase.start) / QUARTER) * QUARTER, 'straight', phrase.first)
      : shown.countIn
  const number = /^\d+/.exec(label)?.[0] ?? ''
  // The sub-count is shown where something happens on it.
  const sub = !counting && cues.some((c) => c.at === tick) ? label.slice(number.length) : ''
  const on =
    nextAt !== undefined && phrase && nextAt < phrase.end && nextAt >= phrase.start
      ? `, on ${countLabel(nextAt - phrase.start, phrase.phrase.feel, phrase.first)}`
      : ''
  return (
    <>
      <Count $ready={counting} data-testid="count" aria-live="off">
        {number || '·'}
        <small>{sub}</small>
      </Count>
      <Words>
        <span className="quiet">{counting ? 'get ready' : 'now'}</span>
        <div className="now" data-testid="now">
          {counting ? '' : now[0] ? cueText(now[0], mirrored) : '·'}
        </div>
        <div className="beside">
          {now
            .slice(1)
            .map((c) => cueText(c, mirrored))
            .join(' · ')}
        </div>
        <div className="gap">{body && <Standing state={body} />}</div>
        <span className="quiet">next{on}</span>
        <div className="next">{next.map((c) => cueText(c, mirrored)).join(' · ') || 'to the end'}</div>
      </Words>
    </>
  )
}

function EightStrip({
  phrase,
  cues,
  tick,
  mirrored,
}: {
  phrase: PlacedPhrase
  cues: readonly Cue[]
  tick: number | null
  mirrored: boolean
}) {
  const now = tick === null ? -1 : Math.floor((tick - phrase.start) / TICKS_PER_COUNT)
  return (
    <Strip aria-hidden>
      {Array.from({ length: phrase.phrase.length }, (_, i) => {
        const start = phrase.start + i * TICKS_PER_COUNT
        const text = cuesIn(cues, start, start + TICKS_PER_COUNT).map((c) => cueText(c, mirrored))
        return (
          <Cell key={start} $now={i === now} $past={i < now}>
            <strong>{i + phrase.first}</strong>
            {text.slice(0, 2).map((t) => (
              <span key={t}>{t}</span>
            ))}
          </Cell>
        )
      })}
    </Strip>
  )
}
