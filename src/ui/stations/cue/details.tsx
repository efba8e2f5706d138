'use client'

import { facingName } from '@/core/choreo'
import {
  CAUTIONS,
  type Cue,
  type DancedCue,
  LEVELS,
  LIMITS,
  STEPS,
  type StepWay,
  tickNear,
  WAYS,
} from '@/core/routine'
import { clockText } from '@/core/time'
import { Choice } from '../../parts/choice'
import { More } from '../../parts/more'
import { MetresField } from '../../places/number-field'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'

const none = { id: '', name: '–' }
const named = (list: readonly string[]) => [none, ...list.map((id) => ({ id, name: id }))]
const FACINGS = [none, ...Array.from({ length: 8 }, (_, f) => ({ id: String(f), name: facingName(f) }))]
const TURNS = [
  none,
  ...(['right', 'left'] as const).flatMap((to) =>
    [1, 2, 3, 4, 6, 8, 12, 16].map((n) => ({ id: `${to} ${n}`, name: `${turnName(n)} ${to}` })),
  ),
]

function turnName(eighths: number): string {
  return (
    { 1: '⅛', 2: '¼', 3: '⅜', 4: '½', 6: '¾', 8: 'full', 12: '1½', 16: 'double' }[eighths] ?? `${eighths}/8`
  )
}

interface Props {
  page: Page
  cue: DancedCue
  change: (what: Partial<Cue>, did: string) => void
}

/** What else a cue may say: what the body does, what starts it, what to watch. */
export function Details({ page, cue, change }: Props) {
  const marks = useRoutine((s) => s.routine.marks)
  const off = undefined as never
  const near = marks.filter((m) => cue.trigger && m.kind === cue.trigger.kind)
  return (
    <More name="More about this cue">
      <Choice
        label="Step"
        value={cue.step ?? ''}
        options={named(STEPS)}
        onChange={(s) => change({ step: (s || off) as Cue['step'] & string }, 'change the step')}
      />
      <Choice
        label="Goes"
        value={cue.way ?? ''}
        options={[{ id: '', name: 'as its words say' }, ...WAYS.map((id) => ({ id, name: id }))]}
        onChange={(w) => change({ way: (w || off) as StepWay }, 'change where a step goes')}
      />
      <MetresField
        label="How far, all in all (m)"
        value={cue.metres ?? null}
        placeholder="as its words say"
        min={0}
        max={LIMITS.metres}
        keep={(m) => change({ metres: m === null ? off : m }, 'change how far a step goes')}
      />
      <Choice
        label="Turn"
        value={cue.turn ? `${cue.turn.to} ${cue.turn.eighths}` : ''}
        options={TURNS}
        onChange={(t) => {
          const [to, eighths] = t.split(' ')
          change(
            { turn: t ? { to: to as 'left' | 'right', eighths: Number(eighths) } : off },
            'change the turn',
          )
        }}
      />
      <Choice
        label="Arrives facing"
        value={cue.facing === undefined ? '' : String(cue.facing)}
        options={FACINGS}
        onChange={(f) => change({ facing: f === '' ? off : Number(f) }, 'change the facing')}
      />
      <Choice
        label="Level"
        value={cue.level ?? ''}
        options={named(LEVELS)}
        onChange={(l) => change({ level: (l || off) as 'high' }, 'change the level')}
      />
      <Choice
        label="Starts on"
        value={cue.trigger?.kind ?? 'count'}
        options={[
          { id: 'count', name: 'the count' },
          { id: 'lyric', name: 'a word sung' },
          { id: 'sound', name: 'a sound' },
        ]}
        onChange={(kind) =>
          change(
            { trigger: kind === 'count' ? off : { kind: kind as 'lyric', mark: null } },
            'change what starts it',
          )
        }
      />
      {cue.trigger && (
        <Choice
          label={near.length ? 'Which' : 'Which (none is marked on the Count station yet)'}
          value={cue.trigger.mark ?? ''}
          options={[none, ...near.map((m) => ({ id: m.id, name: `${clockText(m.at)} ${m.text}` }))]}
          onChange={(id) => {
            const mark = marks.find((m) => m.id === id)
            // It stands where the mark does, and goes where the mark goes.
            const at = mark ? { at: tickNear(page.times, page.placed, mark.at) } : {}
            if (cue.trigger)
              change({ trigger: { ...cue.trigger, mark: id || null }, ...at }, 'tie it to a mark')
          }}
        />
      )}
      <Choice
        label="Caution"
        value={cue.caution ?? ''}
        options={named(CAUTIONS)}
        onChange={(c) => change({ caution: (c || off) as 'knee' }, 'change the caution')}
      />
    </More>
  )
}
