'use client'

import styled from 'styled-components'
import type { BodyState } from '@/core/choreo'
import { type Moment, manner, nowIn, saidCount, type Tip } from '@/core/floor'
import { cueLine, cueText, type DancedCue, labelIn, type PlacedPhrase, phraseAt, whoOf } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
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
  .now { font: 750 calc(var(--fit) * clamp(38px, 6.4vw, 84px))/1.05 ${font.display}; min-height: 1.05em; }
  .beside { font-size: calc(var(--fit) * clamp(22px, 2.6vw, 34px)); line-height: 1.2; }
  small { font-size: 0.58em; font-weight: 550; color: ${floor.quiet}; }
  .tip { margin: 0; padding: 0.3em 0.8em; border-left: 6px solid #E2A63B; background: ${floor.card}; font-size: calc(var(--fit) * clamp(19px, 1.9vw, 25px)); line-height: 1.25; }
  .tip[data-now='true'] { background: #4A3517; }
  &[data-tight] { overflow-wrap: anywhere; }
  .next { margin-left: 0.15em; font: 650 calc(var(--fit) * clamp(24px, 3.1vw, 42px))/1.1 ${font.display}; color: #DCCBE3; }
  .gap { min-height: 2vh; padding: calc(var(--fit) * 8px) 0; }
  @media (max-width: 700px) { .quiet { font-size: 16px; } .drawn { display: none; } }
`

/** Moves of one layer, each with who dances it where that is not everybody, and how. */
function Moves({ cues, mirrored }: { cues: readonly DancedCue[]; mirrored: boolean }) {
  return cues.map((c, i) => {
    const [who, how] = [whoOf(c), manner(c, mirrored)]
    return (
      <span key={`${c.id} ${c.at}`}>
        {i > 0 && ' · '}
        {cueText(c, mirrored)}
        {how && <small>, {how}</small>}
        {who && <small> {who}</small>}
      </span>
    )
  })
}

interface NowProps {
  shown: Moment
  placed: readonly PlacedPhrase[]
  cues: readonly DancedCue[]
  mirrored: boolean
  /** Something else stands beside it. */
  narrow: boolean
  /** Where weight and facing are, as seen; null before the first sound. */
  body: Pick<BodyState, 'weight' | 'facing'> | null
  tip: Tip | null
  /** Something that follows turns, or faces a wall. */
  wall: boolean
}

/** The count, what is danced now, and what comes next. */
export function Now({ shown, placed, cues, mirrored, body, tip, wall, narrow }: NowProps) {
  const { tick } = shown
  const counting = tick === null
  const [first, ...others] = counting ? [] : nowIn(cues, tick)
  const nextAt = cues.find((c) => c.at > (tick ?? Number.NEGATIVE_INFINITY))?.at
  const next = cues.filter((c) => c.at === nextAt)
  const { number, sub } = counting ? { number: shown.countIn, sub: '' } : saidCount(placed, cues, tick)
  const soon = nextAt === undefined ? null : phraseAt(placed, nextAt)
  const on = soon && nextAt !== undefined ? `, on ${labelIn(soon, nextAt)}` : ''
  const words = [first, ...others].map((l) => l?.cues.map((c) => cueLine(c, mirrored)).join()).join('\n')
  const at = useFit<HTMLDivElement>(
    [words, next.map((c) => cueLine(c, mirrored)).join(), tip?.says].join('\n'),
  )
  return (
    <>
      <Count $ready={counting} $narrow={narrow} data-testid="count" aria-live="off">
        {number || '·'}
        <small>{sub}</small>
      </Count>
      <Words ref={at}>
        <span className="quiet">{counting ? 'get ready' : 'now'}</span>
        <div className="now" data-testid="now">
          {first ? <Moves cues={first.cues} mirrored={mirrored} /> : counting ? '' : '·'}
        </div>
        {others.map(({ layer, cues: own }) => (
          <div className="beside" key={layer}>
            <small>{layer}</small> <Moves cues={own} mirrored={mirrored} />
          </div>
        ))}
        <div className={narrow ? 'gap drawn' : 'gap'}>{body && <Standing state={body} wall={wall} />}</div>
        {tip && (
          <p
            className="tip"
            data-testid="tip"
            data-now={tick !== null && tick >= tip.at && tick < tip.at + TICKS_PER_COUNT}
          >
            <strong>{tip.label}</strong> {tip.says}
          </p>
        )}
        <div>
          <span className="quiet">next{on}</span>{' '}
          <span className="next">
            {next.length ? <Moves cues={next} mirrored={mirrored} /> : 'to the end'}
          </span>
        </div>
      </Words>
    </>
  )
}
