'use client'

import { useState } from 'react'
import { Meter } from 'react-aria-components'
import styled from 'styled-components'
import type { Score } from '@/core/password/chosen'
import { LONGEST_PASSWORD } from '@/core/password/chosen'
import { Text } from '../../parts/field'
import { Tick } from '../../parts/tick'
import { useStrength } from '../../state/use-strength'
import { desk } from '../../theme/tokens'

interface Props {
  label: string
  value: string
  onChange: (password: string) => void
  name: string
  most?: number
  autoFocus?: boolean
}

const Field = styled.div`
  display: grid;
  gap: 6px;
`

/** A password, which can be shown while it is typed (OWASP ASVS 4.0.3, 2.1.12). @param fills what password managers put there */
export function PasswordField({
  fills,
  most = 1000,
  name,
  ...field
}: Props & { fills: 'current-password' | 'new-password' }) {
  const [shown, setShown] = useState(false)
  return (
    <div>
      <Text {...field} most={most} input={{ type: shown ? 'text' : 'password', name, autoComplete: fills }} />
      <Tick isSelected={shown} onChange={setShown}>
        Show it
      </Tick>
    </div>
  )
}

const WORDS: Readonly<Record<Score, string>> = {
  0: 'Easily guessed',
  1: 'Easily guessed',
  2: 'Can be guessed',
  3: 'Hard to guess',
  4: 'Very hard to guess',
}

const Bar = styled(Meter)`
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 10px;
  align-items: center;
  font-size: 13.5px;
  .track { height: 6px; border-radius: 3px; background: ${desk.line}; overflow: hidden; }
  .fill { height: 100%; border-radius: 3px; background: ${desk.ink}; }
  .low { background: ${desk.danger}; }
`

/** A password that is chosen, with how easily it is guessed (2.1.8). @param own words whoever chooses it is known by */
export function NewPasswordField({ own, ...field }: Props & { own: readonly string[] }) {
  const strength = useStrength(field.value, own)
  return (
    <Field>
      <PasswordField {...field} most={LONGEST_PASSWORD} fills="new-password" />
      {strength && (
        <Bar
          aria-label="How hard it is to guess"
          value={strength.score}
          maxValue={4}
          valueLabel={WORDS[strength.score]}
        >
          {({ percentage, valueText }) => (
            <>
              <div className="track">
                <div
                  className={strength.score < 2 ? 'fill low' : 'fill'}
                  style={{ width: `${Math.max(8, percentage)}%` }}
                />
              </div>
              <span role="status">
                {valueText}
                {strength.why && `: ${strength.why}`}
              </span>
            </>
          )}
        </Bar>
      )}
    </Field>
  )
}
