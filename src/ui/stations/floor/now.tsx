'use client'

import { memo } from 'react'
import styled from 'styled-components'
import type { BodyState } from '@/core/choreo'
import { type Moment, QUARTER } from '@/core/floor'
import { type Cue, cueLine, cuesIn, type PlacedPhrase } from '@/core/routine'
import { countLabel, type Feel, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { bodyWords } from '../../sheet/footing'
import { floor, font } from '../../theme/tokens'
import { Standing } from './standing'
import { useFit } from './use-fit'

const Count = styled.div<{ $ready: boolean; $narrow: boolean }>`
  font: 800 min(96cqh, ${(p) => (p.$narrow ? 23 : 38)}cqw)/0.95 ${font.display};
  text-align: center;
  color: ${(p) => (p.$ready ? floor.azalea : floor.ink)};
  white-space: nowrap;
  small { font-size: 0.36em; color: ${floor.azalea}; }
  @media (max-width: 700px) { font-size: ${(p) => (p.$narrow ? 'min(24cqh, 32cqw)' : 'min(42cqh, 60cqw)')}; }
`

export const Words = styled.div`
  display: grid;
  gap: 6px;
  min-width: 0;
  align-self: stretch;
  align-content: safe center;
  grid-auto-rows: max-content;
  overflow: hidden;
  --fit: 1;
  .quiet { color: ${floor.quiet}; font-size: 21px; }
  .now { font: 750 calc(var(--fit) * clamp(38px, 6.4vw, 84px))/1.05 ${font.display}; overflow-wrap: anywhere; min-height: 1.05em; }
  .beside { font-size: calc(var(--fit) * clamp(22px, 2.6vw, 34px)); min-height: 1.4em; }
  .next { font: 650 calc(var(--fit) * clamp(28px, 3.9vw, 52px))/1.1 ${font.display}; color: #DCCBE3; min-height: 1.1em; overflow-wrap: anywhere; }
  .gap { min-height: 3vh; padding: calc(var(--fit) * 12px) 0; }
  @media (max-width: 700px) { .quiet { font-size: 16px; } .drawn { display: none; } }
`

const Strip = styled.div`
  display: flex;
  gap: 6px;
`

const Cell = styled.button<{ $now: boolean; $past: boolean; $slip: boolean }>`
  flex: 1;
  text-align: left;
  font: inherit;
  cursor: pointer;
  min-width: 0;
  height: 92px;
  border-radius: 12px;
  border: ${(p) => (p.$slip ? 3 : 1.5)}px ${(p) => (p.$slip ? 'dashed' : 'solid')} ${(p) => (p.$slip ? floor.ink : p.$now ? floor.azalea : floor.line)};
  background: ${(p) => (p.$now ? floor.azalea : p.$past ? '#3A2A44' : floor.card)};
  color: ${(p) => (p.$now ? '#2B0A1B' : floor.ink)};
  padding: 8px 12px;
  overflow: hidden;
  strong { display: block; font: 700 27px/1.1 ${font.display}; }
  span { display: block; font-size: 15.5px; font-weight: 550; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
  @media (max-width: 700px) { height: 44px; padding: 6px; text-align: center; span { display: none; } strong { font-size: 20px; } }
`

/** The named place a tick lies in. */
const snapDown = (tick: number, feel: Feel) => {
  const unit = feel === 'triplet' ? 8 : QUARTER
  return Math.floor(tick / unit) * unit
}

/** What runs at a tick, the feet first. */
export function running(cues: readonly Cue[], tick: number): Cue[] {
  const order = (c: Cue) => (c.layer === 'feet' || c.layer === 'whole' ? 0 : 1)
  return cues
    .filter((c) => c.at <= tick && c.at + c.length > tick)
    .sort((a, b) => order(a) - order(b) || b.at - a.at)
}

/** The count, what is danced now, and what comes next. */
export function Now({
  shown,
  phrase,
  cues,
  tick,
  mirrored,
  body,
  narrow,
}: {
  shown: Moment
  phrase: PlacedPhrase | null
  cues: readonly Cue[]
  tick: number | null
  mirrored: boolean
  /** Something else stands beside it. */
  narrow: boolean
  /** Where weight and facing are, as seen; null before the first sound. */
  body: Pick<BodyState, 'weight' | 'facing'> | null
}) {
  const counting = tick === null
  const now = counting ? [] : running(cues, tick)
  const nextAt = cues.find((c) => c.at > (tick ?? Number.NEGATIVE_INFINITY))?.at
  const next = cues.filter((c) => c.at === nextAt)
  const label =
    !counting && phrase
      ? countLabel(snapDown(tick - phrase.start, phrase.phrase.feel), phrase.phrase.feel, phrase.first)
      : shown.countIn
  const number = /^\d+/.exec(label)?.[0] ?? ''
  // The sub-count is shown where something happens on it.
  const unit = phrase?.phrase.feel === 'triplet' ? 8 : QUARTER
  const sub =
    !counting && cues.some((c) => c.at >= tick && c.at < tick + unit) ? label.slice(number.length) : ''
  const on =
    nextAt !== undefined && phrase && nextAt < phrase.end && nextAt >= phrase.start
      ? `, on ${countLabel(nextAt - phrase.start, phrase.phrase.feel, phrase.first)}`
      : ''
  const first = counting ? '' : now[0] ? cueLine(now[0], mirrored) : '·'
  const beside = now
    .slice(1)
    .map((c) => cueLine(c, mirrored))
    .join(' · ')
  const after = next.map((c) => cueLine(c, mirrored)).join(' · ') || 'to the end'
  const standing = body && bodyWords(body)
  const at = useFit<HTMLDivElement>([first, beside, standing, after].join('\n'))
  return (
    <>
      <Count $ready={counting} $narrow={narrow} data-testid="count" aria-live="off">
        {number || '·'}
        <small>{sub}</small>
      </Count>
      <Words ref={at}>
        <span className="quiet">{counting ? 'get ready' : 'now'}</span>
        <div className="now" data-testid="now">
          {first}
        </div>
        <div className="beside">{beside}</div>
        <div className={narrow ? 'gap drawn' : 'gap'}>{body && <Standing state={body} />}</div>
        <span className="quiet">next{on}</span>
        <div className="next">{after}</div>
      </Words>
    </>
  )
}

/** The phrase count by count, the one that runs marked. */
export const EightStrip = memo(function EightStrip({
  phrase,
  cues,
  count,
  mirrored,
  slips,
  onSlip,
}: {
  phrase: PlacedPhrase
  cues: readonly Cue[]
  /** The count of the song that runs; null where none does. */
  count: number | null
  mirrored: boolean
  /** Where the repetition that is meant slipped. */
  slips: readonly Ticks[]
  onSlip: (tick: Ticks) => void
}) {
  const now = count === null ? -1 : count - phrase.start / TICKS_PER_COUNT
  return (
    <Strip role="group" aria-label="Counts: press one where it slipped">
      {Array.from({ length: phrase.phrase.length }, (_, i) => {
        const start = phrase.start + i * TICKS_PER_COUNT
        const text = cuesIn(cues, { from: start, to: start + TICKS_PER_COUNT }).map((c) =>
          cueLine(c, mirrored),
        )
        return (
          <Cell
            key={start}
            type="button"
            tabIndex={-1}
            $now={i === now}
            $past={i < now}
            $slip={slips.includes(start)}
            aria-label={`${i + phrase.first}${slips.includes(start) ? ', slipped' : ''}`}
            onClick={() => onSlip(start)}
          >
            <strong>
              {i + phrase.first}
              {slips.includes(start) && ' ✕'}
            </strong>
            {text.slice(0, 2).map((t) => (
              <span key={t}>{t}</span>
            ))}
          </Cell>
        )
      })}
    </Strip>
  )
})
