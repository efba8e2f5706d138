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
import { KIND_LOOKS, minutesText, rangeOfStep, stepName, stepWords, whatOfStep } from '../../parts/step-words'
import { desk, NARROW } from '../../theme/tokens'

/** It scrolls by itself: only the rows in sight are there, a lesson of two counts at a time has hundreds. */
const List = styled(GridList)`
  flex: 1 1 200px;
  min-height: 200px;
  overflow-y: auto;
  outline-offset: -2px;
  ${NARROW} { flex: none; height: 60dvh; }
`

const StepItem = styled(GridListItem)`
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
  outline-offset: -3px;
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
  onChoose: (keys: ReadonlySet<string> | 'all') => void
  onMove: (keys: readonly string[], target: string, after: boolean) => void
  onChange: (step: LessonStep, what: Partial<LessonStep>) => void
  onDelete: (step: LessonStep) => void
}

/** What the list itself knows of a step. Where none of it changes, the list and its rows are not drawn again. */
interface Item {
  id: string
  kind: LessonStep['kind']
  name: string
}

/** What a row shows of its step. */
interface Row {
  step: LessonStep
  begins: number
  long: number
  /** Said once for all that is done there; '' in the rows after. */
  heading: string
}

interface Lesson {
  rows: ReadonlyMap<string, Row>
  placed: readonly PlacedPhrase[]
  onChange: Props['onChange']
  onDelete: Props['onDelete']
}

/** Rows ask for what they show by themselves: so a change of one draws that one. */
const LessonContext = createContext<Lesson | null>(null)

/** The rows of a lesson by their steps' keys, in order. */
function rowsOf(
  steps: readonly LessonStep[],
  seconds: readonly number[],
  placed: readonly PlacedPhrase[],
): ReadonlyMap<string, Row> {
  const rows = new Map<string, Row>()
  let begins = 0
  let before = ''
  for (const [i, step] of steps.entries()) {
    const where = rangeOfStep(step, placed)
    const long = seconds[i] ?? 0
    rows.set(stepKey(step), { step, begins, long, heading: i > 0 && where === before ? '' : where })
    begins += long
    before = where
  }
  return rows
}

/** The items of a list: each the very same as before where it says the same, and so the list of them. */
function useItems(steps: readonly LessonStep[], placed: readonly PlacedPhrase[]): readonly Item[] {
  const [items, setItems] = useState<readonly Item[]>([])
  const known = new Map(items.map((item) => [item.id, item]))
  const now = steps.map((step): Item => {
    const item = { id: stepKey(step), kind: step.kind, name: stepName(step, placed) }
    const old = known.get(item.id)
    return old && old.kind === item.kind && old.name === item.name ? old : item
  })
  if (now.length === items.length && now.every((item, i) => item === items[i])) return items
  setItems(now)
  return now
}

/** What a list says to all buttons of its rows, said anew with each change, is not for these: they are drawn only when their row changes. */
const APART = {}
/** A row is so high until it was seen. */
const LAYOUT = { estimatedRowHeight: 44, gap: 3 }

/** The lesson step by step: moved by drag (also by keyboard), made longer, slower, or taken out. */
export function StepList({ steps, seconds, placed, chosen, onChoose, onMove, onChange, onDelete }: Props) {
  const items = useItems(steps, placed)
  return (
    <LessonContext value={{ rows: rowsOf(steps, seconds, placed), placed, onChange, onDelete }}>
      <Items {...{ items, chosen, onChoose, onMove }} />
    </LessonContext>
  )
}

function Items({
  items,
  chosen,
  onChoose,
  onMove,
}: { items: readonly Item[] } & Pick<Props, 'chosen' | 'onChoose' | 'onMove'>) {
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((k) => ({ 'text/plain': String(k) })),
    onReorder: (e) =>
      onMove([...e.keys].map(String), String(e.target.key), e.target.dropPosition === 'after'),
  })
  return (
    <Virtualizer layout={ListLayout} layoutOptions={LAYOUT} shouldObserveItemSize>
      <List
        aria-label="Steps of the lesson"
        selectionMode="multiple"
        selectionBehavior="replace"
        selectedKeys={chosen}
        onSelectionChange={(keys) => onChoose(keys === 'all' ? keys : new Set([...keys].map(String)))}
        dragAndDropHooks={dragAndDropHooks}
        items={items}
      >
        {(item) => {
          const { id, name, kind } = item as Item
          return (
            <StepItem id={id} textValue={name} data-testid="step" data-kind={kind}>
              <StepRow {...{ id, name }} />
            </StepItem>
          )
        }}
      </List>
    </Virtualizer>
  )
}

/** A row of the list; nothing while its step is being taken out. */
function StepRow({ id, name }: { id: string; name: string }) {
  const lesson = useContext(LessonContext)
  const row = lesson?.rows.get(id)
  if (!lesson || !row) return null
  const { step, begins, long, heading } = row
  const { placed, onChange, onDelete } = lesson
  return (
    <>
      {heading && <h3>{heading}</h3>}
      <Grip slot="drag" aria-label={`Move ${name}`}>
        <GripVertical size={15} />
      </Grip>
      <time>{minutesText(begins)}</time>
      <StepWords step={step} />
      <ButtonContext value={APART}>
        <StepTools {...{ step, long, placed, onChange, onDelete }} />
      </ButtonContext>
    </>
  )
}

/** What is done and how fast. */
function StepWords({ step }: { step: LessonStep }) {
  const { sign, colour } = KIND_LOOKS[step.kind]
  return (
    <>
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
    </>
  )
}

/** Times or minutes more and fewer, and taking out. */
function StepTools({
  step,
  long,
  placed,
  onChange,
  onDelete,
}: { step: LessonStep; long: number } & Pick<Props, 'placed' | 'onChange' | 'onDelete'>) {
  const words = stepWords(step, placed)
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
