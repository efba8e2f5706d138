'use client'

import { useState } from 'react'
import { Text } from '../../parts/field'
import { Tick } from '../../parts/tick'

/** A password, which can be shown while it is typed (OWASP ASVS 4.0.3, 2.1.12). @param fills what password managers put there */
export function PasswordField({
  label,
  value,
  onChange,
  name,
  fills,
  most = 1000,
  autoFocus = false,
}: {
  label: string
  value: string
  onChange: (password: string) => void
  name: string
  fills: 'current-password' | 'new-password'
  most?: number
  autoFocus?: boolean
}) {
  const [shown, setShown] = useState(false)
  return (
    <div>
      <Text
        label={label}
        value={value}
        onChange={onChange}
        autoFocus={autoFocus}
        most={most}
        input={{ type: shown ? 'text' : 'password', name, autoComplete: fills }}
      />
      <Tick isSelected={shown} onChange={setShown}>
        Show it
      </Tick>
    </div>
  )
}
