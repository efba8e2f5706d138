'use client'

import { GripVertical, Minus, Plus, Trash2 } from 'lucide-react'
import { createContext, useContext, useMemo, useRef } from 'react'
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
  flex: 1 1 260px;
  min-height: 260px;
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
  background: #fff;
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

/** The rows of a lesson: those that say what they said before are the same, and are not drawn again. */
function useRows(
  steps: readonly LessonStep[],
  seconds: readonly number[],
  placed: readonly PlacedPhrase[],
): readonly Row[] {
  const known = useRef(new Map<string, Row>())
  return useMemo(() => {
    const rows = steps.map((step, i): Row => {
      const where = rangeOfStep(step, placed)
      const before = steps[i - 1]
      // Said once for all that is done there.
      const heading = before && rangeOfStep(before, placed) === where ? '' : where
      const row = { id: stepKey(step), step, long: seconds[i] ?? 0, heading }
      const old = known.current.get(stepKey(step))
      return old && old.step === step && old.long === row.long && old.heading === heading ? old : row
    })
    known.current = new Map(rows.map((r) => [r.id, r]))
    return rows
  }, [steps, seconds, placed])
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
  const rows = useRows(steps, seconds, placed)
  const starts = useMemo(() => {
    let at = 0
    return new Map(
      steps.map((s, i) => {
        const from = at
        at += seconds[i] ?? 0
        return [stepKey(s), from]
      }),
    )
  }, [steps, seconds])
  // Rows that are not drawn again call what is to be done now.
  const acts = useRef({ onChange, onDelete })
  acts.current = { onChange, onDelete }
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
          {(item) => {
            const { step, long, heading } = item as Row
            const words = stepWords(step, placed)
            const { sign, colour } = KIND_LOOKS[step.kind]
            return (
              <Item textValue={words} data-testid="step" data-kind={step.kind}>
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
                  <div className="tools">
                    {step.repetitions > 0 && (
                      <>
                        <Button
                          small
                          look="quiet"
                          aria-label={`Once fewer: ${words}`}
                          isDisabled={step.repetitions <= 1}
                          onPress={() => acts.current.onChange(step, { repetitions: step.repetitions - 1 })}
                        >
                          <Minus size={14} />
                        </Button>
                        <span>× {step.repetitions}</span>
                        <Button
                          small
                          look="quiet"
                          aria-label={`Once more: ${words}`}
                          onPress={() => acts.current.onChange(step, { repetitions: step.repetitions + 1 })}
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
                          onPress={() => acts.current.onChange(step, { talk: step.talk - 60 })}
                        >
                          <Minus size={14} />
                        </Button>
                        <Button
                          small
                          look="quiet"
                          aria-label={`A minute more: ${words}`}
                          onPress={() => acts.current.onChange(step, { talk: step.talk + 60 })}
                        >
                          <Plus size={14} />
                        </Button>
                      </>
                    )}
                    <span>{minutesText(long)}</span>
                    <Button
                      small
                      look="quiet"
                      aria-label={`Take out: ${words}`}
                      onPress={() => acts.current.onDelete(step)}
                    >
                      <Trash2 size={14} />
                    </Button>
                  </div>
                </ButtonContext>
              </Item>
            )
          }}
        </List>
      </Virtualizer>
    </Starts>
  )
}
