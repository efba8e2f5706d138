'use client'

import { GripVertical, Minus, Plus, Trash2 } from 'lucide-react'
import { createContext, useContext, useState } from 'react'
import {
  Button as AriaButton,
  ButtonContext,
  GridList,
  GridListItem,
  ListLayout,
  useDragAndDrop,
  Virtualizer,
} from 'react-aria-components'
import styled from 'styled-components'
import { type LessonStep, type PlacedPhrase, stepKey } from '@/core/routine'
import { Button } from '../../parts/button'
import { KIND_LOOKS, minutesText, rangeOfStep, stepWords, whatOfStep } from '../../parts/step-words'
import { desk, NARROW } from '../../theme/tokens'

/** It scrolls by itself: only the rows in sight are there, a lesson of two counts at a time has hundreds. */
const List = styled(GridList)`
  flex: 1 1 200px;
  min-height: 200px;
  overflow-y: auto;
  outline-offset: -2px;
  ${NARROW} { flex: none; height: 60dvh; }
`

const Item = styled(GridListItem)`
  display: grid;
  grid-template-columns: 18px 46px 18px minmax(0, 1fr) 46px auto;
  align-items: center;
  gap: 8px;
  padding: 4px 6px;
  border: 1.5px solid transparent;
  border-radius: 9px;
  background: ${desk.card};
  font-size: 14px;
  cursor: default;
  &[data-selected] { border-color: ${desk.azalea}; background: ${desk.azaleaSoft}; }
  &[data-dragging] { opacity: 0.5; }
  time { font-size: 12.5px; color: ${desk.quiet}; text-align: right; }
  b { text-align: center; }
  h3 { grid-column: 3 / -1; margin: 8px 0 0; font-size: 15px; overflow-wrap: anywhere; }
  em { font-style: normal; text-align: right; font-variant-numeric: tabular-nums; }
  p { margin: 0; overflow-wrap: anywhere; }
  small { display: block; color: ${desk.quiet}; font-size: 12.5px; }
  .tools { display: flex; gap: 2px; align-items: center; }
  .tools button { padding: 0 5px; min-height: 28px; }
  @media (max-width: 420px) { grid-template-columns: 18px 40px minmax(0, 1fr) 44px; .tools { grid-column: 3 / -1; } > i, > svg { display: none; } }
  .tools span { font-size: 12.5px; min-width: 34px; text-align: center; font-variant-numeric: tabular-nums; }
`

const Grip = styled(AriaButton)`
  border: 0;
  background: none;
  padding: 0;
  cursor: grab;
  color: ${desk.quiet};
`

interface Props {
  steps: readonly LessonStep[]
  seconds: readonly number[]
  placed: readonly PlacedPhrase[]
  chosen: ReadonlySet<string>
  onChoose: (ids: ReadonlySet<string>) => void
  onMove: (ids: readonly string[], target: string, after: boolean) => void
  onChange: (step: LessonStep, what: Partial<LessonStep>) => void
  onDelete: (step: LessonStep) => void
}

/** What a row shows of its step, but for when it begins: that changes with every step before it. */
interface Row {
  id: string
  step: LessonStep
  long: number
  heading: string
}

const Starts = createContext<ReadonlyMap<string, number>>(new Map())

/** When a step begins, from the beginning of the lesson. */
function Begins({ id }: { id: string }) {
  return <time>{minutesText(useContext(Starts).get(id) ?? 0)}</time>
}

/** Remembers the rows it gave last. */
class RowMemory {
  private known = new Map<string, Row>()

  /** The rows of a lesson: those that say what they said before are the same, and are not drawn again. */
  rowsOf(
    steps: readonly LessonStep[],
    seconds: readonly number[],
    placed: readonly PlacedPhrase[],
  ): readonly Row[] {
    const rows = steps.map((step, i): Row => {
      const where = rangeOfStep(step, placed)
      const before = steps[i - 1]
      // Said once for all that is done there.
      const heading = before && rangeOfStep(before, placed) === where ? '' : where
      const row = { id: stepKey(step), step, long: seconds[i] ?? 0, heading }
      const old = this.known.get(row.id)
      return old && old.step === step && old.long === row.long && old.heading === heading ? old : row
    })
    this.known = new Map(rows.map((r) => [r.id, r]))
    return rows
  }
}

/** When each step begins, from the beginning of the lesson. */
function startsOf(steps: readonly LessonStep[], seconds: readonly number[]): ReadonlyMap<string, number> {
  const starts = new Map<string, number>()
  let at = 0
  for (const [i, step] of steps.entries()) {
    starts.set(stepKey(step), at)
    at += seconds[i] ?? 0
  }
  return starts
}

/** What a list says to all buttons of its rows, said anew with each change, is not for these: they are drawn only when their row changes. */
const APART = {}
/** A row is so high until it was seen. */
const LAYOUT = { estimatedRowHeight: 44, gap: 3 }

/** The lesson step by step: moved by drag (also by keyboard), made longer, slower, or taken out. */
export function StepList({ steps, seconds, placed, chosen, onChoose, onMove, onChange, onDelete }: Props) {
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((k) => ({ 'text/plain': String(k) })),
    onReorder: (e) =>
      onMove([...e.keys].map(String), String(e.target.key), e.target.dropPosition === 'after'),
  })
  const [memory] = useState(() => new RowMemory())
  const rows = memory.rowsOf(steps, seconds, placed)
  const starts = startsOf(steps, seconds)
  return (
    <Starts value={starts}>
      <Virtualizer layout={ListLayout} layoutOptions={LAYOUT}>
        <List
          aria-label="Steps of the lesson"
          selectionMode="multiple"
          selectionBehavior="replace"
          selectedKeys={chosen}
          onSelectionChange={(keys) =>
            onChoose(new Set(keys === 'all' ? steps.map(stepKey) : [...keys].map(String)))
          }
          dragAndDropHooks={dragAndDropHooks}
          items={rows}
          dependencies={[placed]}
        >
          {(item) => <StepRow {...{ placed, onChange, onDelete }} row={item as Row} />}
        </List>
      </Virtualizer>
    </Starts>
  )
}

interface RowProps {
  row: Row
  placed: readonly PlacedPhrase[]
  onChange: Props['onChange']
  onDelete: Props['onDelete']
}

/** One step: when it begins, what is done, how fast, and what can be done to it. */
function StepRow({ row, placed, onChange, onDelete }: RowProps) {
  const { step, heading } = row
  const words = stepWords(step, placed)
  const { sign, colour } = KIND_LOOKS[step.kind]
  return (
    <Item id={row.id} textValue={words} data-testid="step" data-kind={step.kind}>
      {heading && <h3>{heading}</h3>}
      <Grip slot="drag" aria-label={`Move ${words}`}>
        <GripVertical size={15} />
      </Grip>
      <Begins id={stepKey(step)} />
      <b style={{ color: colour }} aria-hidden>
        {sign}
      </b>
      <p>
        {whatOfStep(step)}
        {(step.why || step.own) && (
          <small>
            {step.own && 'Changed by hand. '}
            {step.why}
          </small>
        )}
      </p>
      <em>{step.repetitions > 0 ? `${Math.round(step.speed * 100)} %` : ''}</em>
      <ButtonContext value={APART}>
        <RowTools {...{ row, words, onChange, onDelete }} />
      </ButtonContext>
    </Item>
  )
}

/** Times or minutes more and fewer, and taking out. */
function RowTools({ row, words, onChange, onDelete }: Omit<RowProps, 'placed'> & { words: string }) {
  const { step, long } = row
  return (
    <div className="tools">
      {step.repetitions > 0 && (
        <>
          <Button
            small
            look="quiet"
            aria-label={`Once fewer: ${words}`}
            isDisabled={step.repetitions <= 1}
            onPress={() => onChange(step, { repetitions: step.repetitions - 1 })}
          >
            <Minus size={14} />
          </Button>
          <span>× {step.repetitions}</span>
          <Button
            small
            look="quiet"
            aria-label={`Once more: ${words}`}
            onPress={() => onChange(step, { repetitions: step.repetitions + 1 })}
          >
            <Plus size={14} />
          </Button>
        </>
      )}
      {!step.stretch && (
        <>
          <Button
            small
            look="quiet"
            aria-label={`A minute less: ${words}`}
            isDisabled={step.talk <= 60}
            onPress={() => onChange(step, { talk: step.talk - 60 })}
          >
            <Minus size={14} />
          </Button>
          <Button
            small
            look="quiet"
            aria-label={`A minute more: ${words}`}
            onPress={() => onChange(step, { talk: step.talk + 60 })}
          >
            <Plus size={14} />
          </Button>
        </>
      )}
      <span>{minutesText(long)}</span>
      <Button small look="quiet" aria-label={`Take out: ${words}`} onPress={() => onDelete(step)}>
        <Trash2 size={14} />
      </Button>
    </div>
  )
}
