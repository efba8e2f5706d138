'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { inEvery, optionsIn } from '@/core/choreo'
import { REACHES, type Reach } from '@/core/lesson'
import {
  danced,
  HOWS,
  LEAD_INS,
  type LessonStep,
  LIMITS,
  PASSES,
  type Pass,
  passWords,
  STEP_CALLS,
  STEP_KINDS,
  VIEWS,
} from '@/core/routine'
import { FASTEST, SLOWEST } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Pick, Slide } from '../../parts/field'
import { KeptArea } from '../../parts/kept-area'
import { KeptLine } from '../../parts/kept-line'
import { Part, Tools } from '../../parts/panel'
import { minutesText } from '../../parts/step-words'
import { SayCounts } from '../../say/say-counts'
import { PlaceField } from '../../sheet/place-field'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { PromptText } from './prompt-text'

const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
`

const options = <T extends string>(list: readonly T[], names: Partial<Record<T, string>> = {}) =>
  list.map((id) => ({ id, name: names[id] ?? (id as string) }))
const RUN_UPS = ['0', '2', '4', '8', '16']
const SOUNDS = [
  { id: 'counts', name: 'counts' },
  { id: 'both', name: 'both' },
  { id: 'music', name: 'song' },
] as const
const PASS_NAMES = Object.fromEntries(PASSES.map((p) => [p, passWords(p) || 'the whole body']))

const REACH_NAMES: Record<Reach, string> = {
  'pick-up': '+ pick-up',
  '1 after': '+ 1 after',
  'as counted': 'as counted',
}

const REACH_TIPS: Record<Reach, string> = {
  'pick-up': 'With what leads into it: the 8& before',
  '1 after': 'With the 1 it lands on',
  'as counted': 'As its phrases are counted',
}

interface Props {
  page: Page
  /** The chosen steps, one at least: all are changed alike. */
  steps: readonly LessonStep[]
  onChange: (did: string, what: Partial<LessonStep>) => void
  onReach: (reach: Reach) => void
  onDone: () => void
  /** The passes of the chosen place, in their order; null for the usual ones. */
  passes: readonly Pass[] | null
  onPasses: (passes: readonly Pass[] | null) => void
}

/** What leads in, by how it is called; the rest speaks for itself. */
const LEADS = {
  song: 'the song’s bars',
  '8': 'the song, an eight',
  '16': 'the song, two eights',
  '32': 'the song, four eights',
  beginning: 'the song from its beginning',
}

/** Every field of a step, or of several at once. */
export function StepPart({ page, steps, onChange, onReach, onDone, passes, onPasses }: Props) {
  const routine = useRoutine((s) => s.routine)
  const [first] = steps as [LessonStep, ...LessonStep[]]
  const [speed, setSpeed] = useState<number | null>(null)
  const versions = useMemo(() => optionsIn(danced(routine)).filter((o) => !inEvery(o)), [routine])
  const dances = first.stretch !== null
  const many = steps.length > 1
  return (
    <Part aria-label="The chosen steps" data-testid="step-part">
      <h2>{many ? `${steps.length} steps` : 'This step'}</h2>
      {many && <p>What is changed here is changed in all of them.</p>}
      <Choice
        label="What"
        value={first.kind}
        options={options(STEP_KINDS)}
        onChange={(kind) => onChange('change what a step is', { kind })}
      />
      {dances && (
        <>
          {!many && (
            <PlaceField
              label="Which counts"
              page={page}
              stretch={first.stretch}
              onChoose={(stretch) => onChange('other counts for a step', { stretch })}
            />
          )}
          <Tools role="group" aria-label="How far it reaches">
            {REACHES.map((reach) => (
              <Button key={reach} small tip={REACH_TIPS[reach]} onPress={() => onReach(reach)}>
                {REACH_NAMES[reach]}
              </Button>
            ))}
          </Tools>
          <Two>
            <Choice
              label="Run-up"
              value={String(first.runUp)}
              options={[...new Set([...RUN_UPS, String(first.runUp)])].map((id) => ({
                id,
                name: id === '0' ? 'none' : `${id} counts`,
              }))}
              onChange={(n) => onChange('change the run-up', { runUp: Number(n) })}
            />
            <Choice
              label="How"
              value={first.how}
              options={options(HOWS, { watch: 'watch me', small: 'small, marked', walk: 'walk it: places' })}
              onChange={(how) => onChange('change how a step is danced', { how })}
            />
          </Two>
          <Choice
            label="Danced by"
            value={first.pass}
            options={options(PASSES, PASS_NAMES)}
            onChange={(pass) => onChange('change the pass', { pass })}
          />
          {versions.length > 0 && (
            <Choice
              label="Version"
              value={first.version || ''}
              options={[{ id: '', name: 'as chosen' }, ...versions.map((id) => ({ id, name: id }))]}
              onChange={(version) => onChange('change the version', { version })}
            />
          )}
          <Slide
            label="Speed"
            name="Speed of the step"
            value={speed ?? first.speed}
            min={SLOWEST}
            max={FASTEST}
            step={0.05}
            onChange={setSpeed}
            onEnd={(v) => {
              setSpeed(null)
              onChange('change the speed', { speed: Math.round(v * 100) / 100 })
            }}
            text={(v) => `${Math.round(v * 100)} %`}
          />
          <Pick
            label="What sounds"
            value={first.sound}
            options={SOUNDS}
            onChange={(sound) => onChange('change what sounds', { sound })}
          />
          <Two>
            <Choice
              label="Called"
              value={first.calls}
              options={options(STEP_CALLS, {
                'as set': 'as the routine',
                own: 'my own voice',
                none: 'nothing',
              })}
              onChange={(calls) => onChange('change what is called', { calls })}
            />
            <Choice
              label="Led in by"
              value={first.leadIn}
              options={options(LEAD_INS, LEADS)}
              onChange={(leadIn) => onChange('change the lead-in', { leadIn })}
            />
            <Choice
              label="Times"
              value={String(first.repetitions)}
              options={[...new Set([0, 1, 2, 3, 4, 6, 8, 12, first.repetitions])]
                .sort((a, b) => a - b)
                .map((n) => ({ id: String(n), name: n ? `${n}` : 'not danced' }))}
              onChange={(n) => onChange('change how often', { repetitions: Number(n) })}
            />
            <Choice
              label="Seen"
              value={first.view}
              options={options(VIEWS, { true: 'true sides', behind: 'from behind' })}
              onChange={(view) => onChange('change how it is seen', { view })}
            />
          </Two>
        </>
      )}
      {first.calls === 'own' && first.stretch && (
        <Tools>
          <SayCounts page={page} stretch={first.stretch} look="plain" />
        </Tools>
      )}
      <KeptLine
        label="Minutes of talk"
        value={minutesText(first.talk)}
        keep={(text) => {
          const [m = '', s = '0'] = text.replace(',', '.').split(':')
          const seconds = text.includes(':') ? 60 * Number(m) + Number(s) : 60 * Number(m)
          if (Number.isFinite(seconds) && seconds >= 0 && seconds <= 7200)
            onChange('change the talk', { talk: Math.round(seconds) })
        }}
      />
      <KeptArea
        label="What to say"
        rows={3}
        value={first.note}
        most={LIMITS.note}
        keep={(note) => onChange('write what to say', { note })}
      />
      {dances && !many && <PromptText page={page} step={first} />}
      {dances && <PassOrder passes={passes} onPasses={onPasses} />}
      <Tools>
        <Button small onPress={onDone}>
          Back to the settings
        </Button>
      </Tools>
    </Part>
  )
}

/** In which order a place is taken apart, where that is not the usual one. */
function PassOrder({ passes, onPasses }: Pick<Props, 'passes' | 'onPasses'>) {
  const list = passes ?? []
  return (
    <>
      <h3>Taken apart here</h3>
      <p data-testid="pass-order">{passes ? list.join(', then ') || 'not at all' : 'As everywhere.'}</p>
      <Tools>
        {PASSES.filter((p) => p !== 'all').map((p) => (
          <Button
            key={p}
            small
            look={list.includes(p) ? 'plain' : 'quiet'}
            aria-pressed={list.includes(p)}
            onPress={() => onPasses(list.includes(p) ? list.filter((x) => x !== p) : [...list, p])}
          >
            {p}
          </Button>
        ))}
        {passes && (
          <Button small look="quiet" onPress={() => onPasses(null)}>
            As everywhere
          </Button>
        )}
      </Tools>
    </>
  )
}
