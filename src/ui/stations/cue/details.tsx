'use client'

import { ChevronRight } from 'lucide-react'
import { useEffect, useState } from 'react'
import { Button as AriaButton, Disclosure, DisclosurePanel } from 'react-aria-components'
import styled from 'styled-components'
import { facingName, inEvery, optionsIn, rolesIn } from '@/core/choreo'
import { CAUTIONS, type Cue, type DancedCue, danced, LEVELS, OPTIONS, STEPS, tickNear } from '@/core/routine'
import { clockText } from '@/core/time'
import { Choice, Text } from '../../parts/field'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'
import { desk } from '../../theme/tokens'

const Box = styled(Disclosure)`
  border-top: 1px solid ${desk.line};
  h3 { margin: 0; }
`

const Opener = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 6px;
  width: 100%;
  min-height: 38px;
  border: 0;
  background: none;
  font-weight: 650;
  cursor: pointer;
  svg { transition: transform 120ms; }
  &[aria-expanded='true'] svg { transform: rotate(90deg); }
`

const Grid = styled.div`
  display: grid;
  gap: 9px;
  padding-bottom: 8px;
`

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

/** A line of text kept when it is left. */
function Line({
  label,
  value,
  keep,
  placeholder,
}: {
  label: string
  value: string
  keep: (text: string) => void
  placeholder?: string
}) {
  const [text, setText] = useState(value)
  useEffect(() => setText(value), [value])
  const done = () => text.trim() !== value && keep(text.trim())
  return (
    <Text
      label={label}
      value={text}
      onChange={setText}
      onBlur={done}
      onEnter={done}
      placeholder={placeholder ?? ''}
    />
  )
}

/** What else a cue may say: for whom, what the body does, what starts it, what to watch. */
export function Details({ page, cue, change }: Props) {
  const marks = useRoutine((s) => s.routine.marks)
  const all = useRoutine((s) => danced(s.routine))
  const show = useView((s) => s.show)
  const [isOpen, setOpen] = useState(false)
  const off = undefined as never
  const inVersion = (o: string) => {
    change({ option: o === 'base' ? off : o }, 'change the version')
    // What was just written is seen.
    if (!inEvery(o)) show({ option: o })
  }
  const near = marks.filter((m) => cue.trigger && m.kind === cue.trigger.kind)
  return (
    <Box isExpanded={isOpen} onExpandedChange={setOpen}>
      <h3>
        <Opener slot="trigger">
          <ChevronRight size={16} /> More about this cue
        </Opener>
      </h3>
      <DisclosurePanel>
        <Grid>
          <Choice
            label="Version"
            value={cue.option ?? 'base'}
            options={[...new Set([...OPTIONS, ...optionsIn(all)])].map((id) => ({ id, name: id }))}
            onChange={inVersion}
          />
          <Line
            label="A version of your own"
            value={OPTIONS.some((o) => o === cue.option) ? '' : (cue.option ?? '')}
            placeholder="its name"
            keep={(name) => inVersion(name.replace(/["\\]/g, '').slice(0, 24).trim() || 'base')}
          />
          <Line
            label={`Role${rolesIn(all).length ? ` (so far: ${rolesIn(all).join(', ')})` : ''}`}
            value={cue.role ?? ''}
            placeholder="everybody"
            keep={(role) => {
              change({ role }, 'change the role')
              if (role) show({ role })
            }}
          />
          <Choice
            label="Step"
            value={cue.step ?? ''}
            options={named(STEPS)}
            onChange={(s) => change({ step: (s || off) as Cue['step'] & string }, 'change the step')}
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
          <Line
            label="Quality"
            value={cue.quality ?? ''}
            placeholder="sharp, soft, held …"
            keep={(quality) => change({ quality }, 'change the quality')}
          />
          <Line
            label="Look"
            value={cue.look ?? ''}
            placeholder="to the hand, down …"
            keep={(look) => change({ look }, 'change the look')}
          />
          <Choice
            label="Caution"
            value={cue.caution ?? ''}
            options={named(CAUTIONS)}
            onChange={(c) => change({ caution: (c || off) as 'knee' }, 'change the caution')}
          />
          <Line
            label="Tip"
            value={cue.tip ?? ''}
            placeholder="what to say to learners"
            keep={(tip) => change({ tip }, 'change the tip')}
          />
        </Grid>
      </DisclosurePanel>
    </Box>
  )
}
