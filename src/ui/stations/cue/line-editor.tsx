'use client'

import { useLayoutEffect, useMemo, useRef } from 'react'
import styled from 'styled-components'
import { movesLike } from '@/core/choreo'
import { footHint } from '@/core/routine'
import {
  isSeveralLines,
  type LineGo,
  leftBefore,
  type OpenLine,
  type ReadLine,
  type SheetLine,
} from '@/core/station'
import { useMoves } from '../../state/moves-store'
import { desk, font } from '../../theme/tokens'
import { useCue, useCueLine } from './cue-store'
import { TOP } from './row-layout'

const Box = styled.div`
  position: absolute;
  left: -4px;
  right: 0;
  top: -2px;
  z-index: 6;
  label { position: absolute; left: -62px; top: 9px; width: 54px; text-align: right; font-size: 11.5px; font-weight: 700; color: ${desk.azalea}; }
  input {
    user-select: text;
    width: 100%;
    height: 34px;
    border: 2px solid ${desk.azalea};
    border-radius: 9px;
    background: ${desk.card};
    padding: 0 10px;
    font: 550 15px/1 ${font.text};
    outline: none;
    box-shadow: 0 4px 16px ${desk.shade};
  }
`

const Below = styled.div<{ $bad: boolean }>`
  position: absolute;
  left: 0;
  max-width: 100%;
  padding: 4px 10px;
  border-radius: 8px;
  background: ${(p) => (p.$bad ? desk.amberSoft : desk.card)};
  border: 1.5px solid ${(p) => (p.$bad ? desk.amber : desk.line)};
  font-size: 13px;
  box-shadow: 0 4px 16px ${desk.shade};
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  mark { background: ${desk.amber}; color: ${desk.on}; border-radius: 3px; padding: 0 2px; }
  button { font: inherit; color: inherit; background: none; border: 0; padding: 0; cursor: pointer; }
  kbd { font: 600 11.5px/1 ${font.text}; border: 1px solid ${desk.edge}; border-radius: 5px; padding: 1px 5px; margin-left: 6px; }
`

/** One layer of a phrase as a line to type; the cues appear in the lanes below while typing. */
export function LineEditor({ line: row }: { line: SheetLine }) {
  const line = useCueLine((s) => s.open)
  const read = useCue((s) => s.read)
  const before = useCueLine(leftBefore)
  const asked = useCueLine((s) => s.asked)
  const below = useCue((s) => TOP + s.layoutOf(row).height + 2)
  const send = useCue((s) => s.send)
  return (
    line && (
      <Editor
        {...{ line, asked, read, below, before }}
        onTakeBack={() => send({ kind: 'line', line: 'take back' })}
        onText={(text) => send({ kind: 'line', line: 'type', text })}
        onKeep={(go) => send({ kind: 'line', line: 'keep', go })}
        onLeave={() => send({ kind: 'line', line: 'leave' })}
        onPaste={(text) => {
          if (isSeveralLines(text)) send({ kind: 'line', line: 'paste', text })
          return isSeveralLines(text)
        }}
      />
    )
  )
}

interface Props {
  line: OpenLine
  /** How often it was asked for: each time it gets the keys. */
  asked: number
  read: ReadLine | null
  /** Where its help stands, below the lanes. */
  below: number
  /** What was typed here before and left without keeping it; null for nothing. */
  before: string | null
  onTakeBack: () => void
  onText: (text: string) => void
  onKeep: (go: LineGo) => void
  onLeave: () => void
  onPaste: (text: string) => boolean
}

function Editor({ line, asked, read, below, before, onTakeBack, onText, onKeep, onLeave, onPaste }: Props) {
  const ref = useRef<HTMLInputElement>(null)
  const moves = useMoves((s) => s.moves)
  // biome-ignore lint/correctness/useExhaustiveDependencies: each line that is opened begins at its end
  useLayoutEffect(() => {
    // Before the next key is pressed.
    ref.current?.focus()
    ref.current?.setSelectionRange(line.text.length, line.text.length)
  }, [line.phrase, line.layer, asked])
  const word = /(?:^|;)\s*(?:[\d&ea+*/-]+\s+)+([^;"[\]@#]{2,})$/.exec(line.text)?.[1]?.trim() ?? ''
  const offered = useMemo(() => {
    const list = movesLike(word, moves, 1)
    const name = list[0]?.name
    return name && name.toLowerCase() !== word.toLowerCase() ? name : null
  }, [word, moves])
  const problem = read && 'problem' in read && line.text.trim() ? read.problem : null
  const keys: Record<string, () => void> = {
    Enter: () => onKeep('stay'),
    ArrowDown: () => onKeep('phrase+'),
    ArrowUp: () => onKeep('phrase-'),
    Escape: onLeave,
  }
  return (
    <Box onPointerDown={(e) => e.stopPropagation()}>
      <label htmlFor="line">{line.layer}</label>
      <input
        id="line"
        ref={ref}
        value={line.text}
        maxLength={2000}
        spellCheck={false}
        autoComplete="off"
        aria-label={`${line.layer} of this phrase as a line`}
        aria-invalid={problem !== null}
        aria-describedby="line-help"
        onChange={(e) => onText(e.target.value)}
        onPaste={(e) => {
          if (onPaste(e.clipboardData.getData('text/plain'))) e.preventDefault()
        }}
        onKeyDown={(e) => {
          const atEnd = e.currentTarget.selectionStart === line.text.length
          if (e.key === 'Tab') {
            e.preventDefault()
            onKeep(e.shiftKey ? 'layer-' : 'layer+')
          } else if (e.key === 'ArrowRight' && offered && atEnd) {
            e.preventDefault()
            onText(line.text.slice(0, line.text.length - word.length) + offered)
          } else if (e.key === 'ArrowUp' && (e.ctrlKey || e.metaKey) && before !== null) {
            e.preventDefault()
            onTakeBack()
          } else if (keys[e.key]) {
            e.preventDefault()
            keys[e.key]?.()
          }
        }}
      />
      <Below id="line-help" role="status" $bad={problem !== null} style={{ top: below }}>
        {problem ? (
          <>
            {line.text.slice(Math.max(0, problem.at - 14), problem.at)}
            <mark>{line.text.slice(problem.at, problem.at + 6) || ' end '}</mark> {problem.why}
          </>
        ) : offered ? (
          <>
            {offered}
            <kbd>→</kbd>
          </>
        ) : before !== null ? (
          <button type="button" data-testid="left-before" onClick={onTakeBack}>
            Left before: {before.slice(0, 60) || 'an empty line'}
            {before.length > 60 && ' …'}
            <kbd>ctrl ↑</kbd>
          </button>
        ) : (
          (read && 'cues' in read && footHint(read.cues)) ||
          'Counts, then the move: 1 step R; 3& ball-change L; 5-6 slow roll'
        )}
      </Below>
    </Box>
  )
}
