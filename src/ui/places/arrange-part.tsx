'use client'
import { SHAPES } from '@/core/places'
import { Button } from '../parts/button'
import { Choice } from '../parts/choice'
import { Part, Tools } from '../parts/panel'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { usePlaces } from './places-store'

/** So many of those who are chosen are named. */
const NAMED = 8

/** What is done to those who are chosen, or to all. */
export function ArrangePart() {
  const chosen = usePlaces((s) => s.chosen)
  const send = usePlaces((s) => s.send)
  const dancers = useRoutine((s) => s.routine.dancers)
  // The arrows are the page's: in the mirror what turns left is seen to turn right.
  const mirrored = useView((v) => v.mirrored)
  const letters = chosen.map((id) => dancers.find((d) => d.id === id)?.letters ?? '')
  const rest = letters.length - NAMED
  const names = `${letters.slice(0, NAMED).join(', ')}${rest > 0 ? ` and ${rest} more` : ''}`
  const bent = usePlaces((s) => s.chosen.some((id) => s.standing.travels.get(id)?.some((w) => w.through)))
  return (
    <Part aria-label="Arrange">
      <h2 data-testid="chosen-dancers">{chosen.length ? names : 'All of them'}</h2>
      <Tools>
        {SHAPES.map((shape) => (
          <Button key={shape} small onPress={() => send({ kind: 'arrange', as: shape })}>
            {shape}
          </Button>
        ))}
      </Tools>
      <Tools>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'other side' })}>
          Other side
        </Button>
        <Button
          small
          look="quiet"
          onPress={() => send({ kind: 'arrange', as: mirrored ? 'turn right' : 'turn left' })}
        >
          ⟲ Turn
        </Button>
        <Button
          small
          look="quiet"
          onPress={() => send({ kind: 'arrange', as: mirrored ? 'turn left' : 'turn right' })}
        >
          Turn ⟳
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'apart' })}>
          Apart
        </Button>
        <Button small look="quiet" onPress={() => send({ kind: 'arrange', as: 'together' })}>
          Together
        </Button>
        <Button
          small
          look="quiet"
          isDisabled={chosen.length < 2}
          onPress={() => send({ kind: 'arrange', as: 'exchange' })}
          tip="Each stands where the next one did"
        >
          Exchange
        </Button>
      </Tools>
      <Tools>
        <Choice
          label="One after another"
          value=""
          options={[
            { id: '', name: '–' },
            { id: '0', name: 'all at once' },
            ...['1', '2', '4'].map((n) => ({ id: n, name: `${n} counts later each` })),
          ]}
          onChange={(n) => n && send({ kind: 'after another', counts: Number(n) })}
        />
      </Tools>
      <Tools>
        <Button small look="quiet" onPress={() => send({ kind: 'choose all' })}>
          Choose all
        </Button>
        {chosen.length > 0 && (
          <>
            <Button small look="quiet" onPress={() => send({ kind: 'choose none' })}>
              None
            </Button>
            <Button
              small
              look="quiet"
              onPress={() => send({ kind: 'stay' })}
              tip="They stand here as they stood before"
            >
              Stay where they were
            </Button>
            {bent && (
              <Button small look="quiet" onPress={() => send({ kind: 'straight' })}>
                Straight ways
              </Button>
            )}
          </>
        )}
      </Tools>
      <p>
        Press a dancer and pull, with shift several; arrows move by 10 cm, with shift by half a metre. The
        small knob bends the way.
      </p>
    </Part>
  )
}
