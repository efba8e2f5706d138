'use client'

import { Label, ProgressBar } from 'react-aria-components'
import styled from 'styled-components'
import { desk } from '../theme/tokens'

const Bar = styled(ProgressBar)`
  display: grid;
  gap: 6px;
  font-size: 14px;
  .rail { height: 8px; border-radius: 4px; background: ${desk.line}; overflow: hidden; }
  .done { height: 100%; background: ${desk.azalea}; border-radius: 4px; transition: width 0.15s; }
`

/** How far something is, with what it is. @param share 0..1 */
export function Progress({ label, share }: { label: string; share: number }) {
  return (
    <Bar value={share * 100}>
      {({ percentage, valueText }) => (
        <>
          <Label>
            {label} {valueText}
          </Label>
          <div className="rail">
            <div className="done" style={{ width: `${percentage}%` }} />
          </div>
        </>
      )}
    </Bar>
  )
}
