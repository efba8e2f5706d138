'use client'

import { nanoid } from 'nanoid'
import styled from 'styled-components'
import { oneChoices, placePhrases, tempoChoices } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { Button } from '../../parts/button'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { Part, Tools } from '../frame'

/** What the Count station can do to the page, each one undo step. */
export interface CountActions {
  double: () => void
  halve: () => void
  one: () => void
  oneOn: () => void
  earlier: () => void
  later: () => void
  nudge: (ms: number) => void
  begin: () => void
  end: () => void
  whole: () => void
}

const Big = styled.div`
  display: flex;
  align-items: baseline;
  gap: 8px;
  strong { font-size: 26px; line-height: 1.1; }
  span { color: ${desk.quiet}; font-size: 13.5px; }
`

const Likely = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
  li { display: flex; align-items: center; gap: 8px; }
  li i { height: 6px; border-radius: 3px; background: ${desk.quiet}; margin-left: auto; }
  li span { font-size: 12.5px; color: ${desk.quiet}; min-width: 34px; text-align: right; }
`

/** In words, how far to trust something heard. */
function sureOf(share: number): string {
  if (share >= 0.85) return 'sure'
  if (share >= 0.6) return 'fairly sure'
  return share >= 0.4 ? 'a guess, check it' : 'uncertain, check it'
}

/** What was heard, how sure, what else it could be, and the repairs of the whole grid. */
export function HeardPart({ page, actions }: { page: Page; actions: CountActions }) {
  const { heard } = useSong()
  const h = heard?.hearing
  return (
    <Part>
      <h2>What was heard</h2>
      <Big>
        <strong>{page.tempo.toFixed(1)}</strong> <span>BPM, {h?.steady ? 'steady' : 'moving'}</span>
      </Big>
      {h && (
        <p>
          The beat: {sureOf(h.confidence.beats)}. The 1: {sureOf(h.confidence.one)}.
        </p>
      )}
      <Choices />
      <Tools>
        <Button small onPress={actions.double} tip="Heard too slow: twice as many counts" hotkey="X">
          × 2
        </Button>
        <Button small onPress={actions.halve} tip="Heard too fast: every second count" hotkey="H">
          ÷ 2
        </Button>
        <Button small onPress={actions.earlier} tip="Every 1 moves one count earlier" hotkey=",">
          ‹ count
        </Button>
        <Button small onPress={actions.later} tip="Every 1 moves one count later" hotkey=".">
          count ›
        </Button>
        <Button small onPress={() => actions.nudge(-10)} tip="The whole grid 10 ms earlier" hotkey="alt ,">
          − 10 ms
        </Button>
        <Button small onPress={() => actions.nudge(10)} tip="The whole grid 10 ms later" hotkey="alt .">
          + 10 ms
        </Button>
      </Tools>
    </Part>
  )
}

/** What else was likely, each taken with one press; gone once the person has begun to repair. */
function Choices() {
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const h = heard?.hearing
  if (!h || routine.repairs.length) return null
  const first = placePhrases(routine).find((p) => !p.phrase.pickUp)
  const asHeard = first?.start === (h.phrases[0] ?? 0) * TICKS_PER_COUNT
  const list = [...tempoChoices(h.beats, h.tempi), ...(asHeard ? oneChoices(h.ones) : [])]
  if (!list.length) return null
  return (
    <>
      <h3>Also likely</h3>
      <Likely>
        {list.map(({ name, weight, change }) => (
          <li key={name}>
            <Button
              small
              onPress={() => edit(name.toLowerCase(), (r) => change(r, nanoid))}
              tip="Take this instead; undo brings back what was heard"
            >
              {name}
            </Button>
            <i style={{ width: `${Math.round(60 * weight)}px` }} aria-hidden />
            <span>{Math.round(100 * weight)} %</span>
          </li>
        ))}
      </Likely>
    </>
  )
}
