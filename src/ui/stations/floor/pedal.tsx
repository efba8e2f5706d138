'use client'

import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { Button } from '../../parts/button'
import { PEDAL_ACTS, type PedalAct, usePedal } from '../../state/pedal'
import { floor } from '../../theme/tokens'

const USUAL: Record<PedalAct, string> = { clean: 'PageDown', shaky: 'b', missed: 'PageUp' }

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 7px;
`

/** A key as people call it. */
const keyName = (key: string) =>
  key === ' ' ? 'space' : key.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase()

/** Teaches Azalea the keys of a pedal by pressing them. */
export function PedalKeys() {
  const { keys, shown, learn, forget, show } = usePedal(
    useShallow(({ keys, shown, learn, forget, show }) => ({ keys, shown, learn, forget, show })),
  )
  const [asking, setAsking] = useState<PedalAct | null>(null)
  useEffect(() => {
    if (!asking) return
    const press = (e: KeyboardEvent) => {
      e.preventDefault()
      e.stopImmediatePropagation()
      if (e.key !== 'Escape') learn(asking, e.key)
      setAsking(null)
    }
    window.addEventListener('keydown', press, true)
    return () => window.removeEventListener('keydown', press, true)
  }, [asking, learn])
  return (
    <div>
      <div className="label">Pedal: press its key for</div>
      <Row>
        {PEDAL_ACTS.map((act) => (
          <Button key={act} look="dark" small onPress={() => setAsking(act)} aria-pressed={asking === act}>
            {asking === act ? 'press it now' : `${act}: ${keyName(keys[act] ?? USUAL[act])}`}
          </Button>
        ))}
        {Object.keys(keys).length > 0 && (
          <Button look="dark" small onPress={forget}>
            Usual keys
          </Button>
        )}
        <Button look="dark" small aria-pressed={shown} onPress={() => show(!shown)}>
          {shown ? 'Hide the pedal' : 'A pedal to try'}
        </Button>
      </Row>
    </div>
  )
}

const Board = styled.div`
  position: fixed;
  right: 18px;
  bottom: 112px;
  z-index: 20;
  display: flex;
  gap: 6px;
  padding: 8px;
  border-radius: 14px;
  border: 1.5px solid ${floor.line};
  background: #120C17;
  button { width: 74px; min-height: 50px; border-radius: 10px; border: 1.5px solid ${floor.line}; background: ${floor.card}; color: ${floor.ink}; font: inherit; font-size: 13px; cursor: pointer; }
  button:active { background: ${floor.azalea}; color: #2B0A1B; }
`

/** A simulated pedal: each plate sends the key a real one would. */
export function SimulatedPedal() {
  const { keys, shown } = usePedal(useShallow(({ keys, shown }) => ({ keys, shown })))
  if (!shown) return null
  const send = (act: PedalAct) =>
    window.dispatchEvent(
      new KeyboardEvent('keydown', { key: keys[act] ?? USUAL[act], bubbles: true, cancelable: true }),
    )
  return (
    <Board role="group" aria-label="Simulated pedal">
      <button type="button" onClick={() => send('missed')}>
        left
      </button>
      <button type="button" onClick={() => send('clean')}>
        right
      </button>
    </Board>
  )
}
