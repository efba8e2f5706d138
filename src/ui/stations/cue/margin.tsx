'use client'

import styled from 'styled-components'
import type { Finding, Pace } from '@/core/choreo'
import { desk } from '../../theme/tokens'

/** Room at the right of a row for its pace and findings. */
export const MARGIN = 76

const Box = styled.div`
  position: absolute;
  left: calc(100% + 8px);
  top: 4px;
  bottom: 8px;
  width: ${MARGIN - 14}px;
`

const Track = styled.i`
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
  width: 9px;
  border-radius: 5px;
  background: ${desk.line};
  overflow: hidden;
  b { position: absolute; left: 0; right: 0; bottom: 0; background: ${desk.leaf}; }
`

const Gap = styled.span`
  position: absolute;
  left: 15px;
  bottom: 0;
  font-size: 11.5px;
  line-height: 1.25;
  color: ${desk.quiet};
`

const Found = styled.button`
  position: absolute;
  left: 13px;
  top: 0;
  min-width: 26px;
  min-height: 24px;
  border: 1.5px solid ${desk.amber};
  border-radius: 8px;
  background: ${desk.amberSoft};
  color: ${desk.amber};
  font: inherit;
  font-size: 12.5px;
  font-weight: 700;
  cursor: pointer;
`

/** A full bar: this many actions a second. */
const FULL = 5

/** Beside a row: how busy it is, its least gap, and how many findings it has. */
export function Margin({
  pace,
  findings,
  onFindings,
}: {
  pace: Pace | undefined
  findings: readonly Finding[]
  onFindings: (f: Finding) => void
}) {
  const first = findings[0]
  return (
    <Box onPointerDown={(e) => e.stopPropagation()}>
      {pace && pace.actions > 0 && (
        <>
          <Track
            role="img"
            aria-label={`${pace.perSecond.toFixed(1)} actions a second`}
            title={`${pace.actions} actions, ${pace.perSecond.toFixed(1)} a second at this speed`}
          >
            <b style={{ height: `${Math.min(1, pace.perSecond / FULL) * 100}%` }} />
          </Track>
          {pace.leastGap !== null && (
            <Gap title="Least time between two actions, all layers together, at this speed">
              {pace.leastGap.toFixed(2)} s
            </Gap>
          )}
        </>
      )}
      {first && (
        <Found
          type="button"
          onClick={() => onFindings(first)}
          title={findings.map((f) => f.says).join('\n')}
          aria-label={`${findings.length} to look at in this phrase`}
        >
          ! {findings.length}
        </Found>
      )}
    </Box>
  )
}
