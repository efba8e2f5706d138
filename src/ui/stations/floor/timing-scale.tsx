'use client'

import styled from 'styled-components'
import { type MatchedTap, timingOf } from '@/core/drill'
import { floor } from '../../theme/tokens'

const Rows = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  max-height: 44vh;
  overflow: auto;
  li { display: grid; grid-template-columns: 44px 1fr 96px; align-items: center; gap: 12px; font-size: 15px; }
  b { text-align: right; }
  span { color: ${floor.quiet}; font-variant-numeric: tabular-nums; }
`

const Line = styled.div`
  position: relative;
  height: 20px;
  border-radius: 6px;
  background: ${floor.card};
  &::before { content: ''; position: absolute; left: 50%; top: 0; bottom: 0; width: 2px; margin-left: -1px; background: ${floor.line}; }
  i { position: absolute; top: 6px; width: 8px; height: 8px; margin-left: -4px; border-radius: 50%; background: ${floor.azalea}; }
`

/** Half the width of the scale, in milliseconds. */
const WIDEST = 200

/** Each count with its taps: left of the middle early, right of it late; older rounds are paler. */
export function TimingScale({
  labels,
  rounds,
}: {
  labels: readonly string[]
  rounds: readonly (readonly MatchedTap[])[]
}) {
  return (
    <Rows aria-label="Taps by count">
      {labels.map((label, cue) => {
        const mine = rounds.flatMap((r, k) => r.filter((m) => m.cue === cue).map((m) => ({ ms: m.ms, k })))
        const { n, mean } = timingOf(mine.map((m) => m.ms))
        const words = n ? `${Math.abs(Math.round(mean))} ms ${mean < 0 ? 'early' : 'late'}` : '–'
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows are their cues, in order
          <li key={cue}>
            <b>{label}</b>
            <Line role="img" aria-label={`${label}: ${words}`}>
              {mine.map(({ ms, k }) => (
                <i
                  key={k}
                  style={{
                    left: `${50 + (50 * Math.max(-WIDEST, Math.min(WIDEST, ms))) / WIDEST}%`,
                    opacity: 0.35 + (0.65 * (k + 1)) / rounds.length,
                  }}
                />
              ))}
            </Line>
            <span>{words}</span>
          </li>
        )
      })}
    </Rows>
  )
}
