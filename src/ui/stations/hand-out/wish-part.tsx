'use client'

import styled from 'styled-components'
import { SOUND_CALLS, type SoundPlan, type SoundWish } from '@/core/handout'
import { clockText } from '@/core/time'
import { Choice } from '../../parts/choice'
import { Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { Tick } from '../../parts/tick'
import { desk } from '../../theme/tokens'
import { OwnNumbers } from './own-numbers'

const CALLS: Record<(typeof SOUND_CALLS)[number], string> = {
  numbers: 'numbers',
  words: 'the moves',
  own: 'your own voice, else numbers',
  fading: 'less and less: moves, first words, numbers, nothing',
  none: 'nothing',
}
const LADDERS = [
  { id: '0.6 0.75 0.9 1', name: '60, 75, 90, 100 %' },
  { id: '0.5 0.6 0.7 0.8 0.9 1', name: '50 to 100 % in six' },
  { id: '0.75 1', name: '75, 100 %' },
  { id: '0.6', name: '60 % alone' },
  { id: '0.75', name: '75 % alone' },
  { id: '1', name: '100 % alone' },
] as const
const TIMES = ['1', '2', '3', '4', '6', '8'].map((id) => ({ id, name: id }))
const COUNT_INS = ['2', '4', '8'].map((id) => ({ id, name: id }))
const Rungs = styled.ol`
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 3px;
  max-width: 560px;
  li { display: grid; grid-template-columns: 60px minmax(0, 1fr); gap: 12px; padding: 7px 12px; background: ${desk.card}; border: 1px solid ${desk.line}; border-radius: 9px; }
  time { color: ${desk.quiet}; font-variant-numeric: tabular-nums; }
`

/** How a practice sound, or the sound of a practice film, is made. */
export function WishPart({ wish, set }: { wish: SoundWish; set: (what: Partial<SoundWish>) => void }) {
  return (
    <div style={{ display: 'grid', gap: 12, maxWidth: 560 }}>
      <Choice
        label="Speeds"
        value={wish.speeds.join(' ') as (typeof LADDERS)[number]['id']}
        options={LADDERS}
        onChange={(l) => set({ speeds: l.split(' ').map(Number) })}
      />
      <Tools>
        <Pick
          label="Each so often"
          value={String(wish.times)}
          options={TIMES}
          onChange={(n) => set({ times: Number(n) })}
        />
        <Pick
          label="Counted in with"
          value={String(wish.countIn)}
          options={COUNT_INS}
          onChange={(n) => set({ countIn: Number(n) })}
        />
      </Tools>
      <Choice
        label="Called"
        value={wish.calls}
        options={SOUND_CALLS.map((id) => ({ id, name: CALLS[id] }))}
        onChange={(calls) => set({ calls })}
      />
      <Tick isSelected={wish.announced} onChange={(announced) => set({ announced })}>
        Each speed is said before it
      </Tick>
      <Tick isSelected={wish.song} onChange={(song) => set({ song })}>
        With the song
      </Tick>
      <OwnNumbers />
      {wish.song && <p role="status">The song belongs to its owners: passing it on can need a licence.</p>}
    </div>
  )
}

/** How long it lasts, and where each speed of it begins. */
export function Lasts({ plan, times }: { plan: SoundPlan; times: number }) {
  return (
    <>
      <h3>It lasts {clockText(plan.seconds)}</h3>
      <Rungs data-testid="rungs">
        {plan.chapters.map((c) => (
          <li key={c.at}>
            <time>{clockText(c.at)}</time>
            {c.name}, {times === 1 ? 'once' : `${times} times`}
          </li>
        ))}
      </Rungs>
    </>
  )
}
