'use client'

import { type KeyboardEvent, useEffect, useRef } from 'react'
import styled from 'styled-components'
import { placeName } from '@/core/routine'
import { MOST_PASTED, type PastedLine, type PastedLines } from '@/core/station'
import { cuesText } from '@/core/time'
import { Area } from '../../parts/area'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { desk, font } from '../../theme/tokens'
import { useCue, useCueLine } from './cue-store'

const Keys = styled(Tools)`
  kbd { font: 600 11.5px/1 ${font.text}; border: 1px solid currentcolor; border-radius: 5px; padding: 1px 5px; margin-left: 6px; opacity: 0.8; }
`

const List = styled.ol`
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 4px;
  font-size: 13.5px;
  li { padding: 4px 8px; border-radius: 7px; border: 1.5px solid ${desk.line}; overflow-wrap: anywhere; }
  li.bad { border-color: ${desk.amber}; background: ${desk.amberSoft}; }
  small { color: ${desk.quiet}; }
`

/** Why a line cannot be put in; empty where it can. */
function whyNot({ phrase, problem }: PastedLine): string {
  if (!phrase) return 'there is no phrase left for it'
  return problem ? `character ${problem.at + 1}: ${problem.why}` : ''
}

const cuesInWords = (n: number) => (n === 0 ? 'empties it' : cuesText(n))

/** What is the matter with all of them. @param read null where the phrase they were pasted at is there no more */
function inWords(read: PastedLines | null, bad: number): string {
  if (!read) return 'The phrase they were pasted at is gone. Copy them, and paste them into another line.'
  if (bad) return `${bad} of ${read.list.length} cannot be put in yet.`
  if (!read.list.length) return 'There is nothing to put in.'
  return read.good ? 'All of them can be put in.' : 'They are too long to be put in at once.'
}

/** Lines that were pasted: changed here, seen in the lanes, put in at once. */
export function SeveralLines() {
  const text = useCueLine((s) => s.several ?? '')
  const read = useCue((s) => s.several)
  const send = useCue((s) => s.send)
  const box = useRef<HTMLDivElement>(null)
  const asked = useCueLine((s) => s.asked)
  // biome-ignore lint/correctness/useExhaustiveDependencies: each time it is asked for
  useEffect(() => box.current?.querySelector('textarea')?.focus(), [asked])
  const keep = () => send({ kind: 'line', line: 'keep', go: 'stay' })
  const leave = () => send({ kind: 'line', line: 'leave' })
  const onKey = (e: KeyboardEvent) => {
    const does = e.key === 'Escape' ? leave : e.key === 'Enter' && (e.ctrlKey || e.metaKey) ? keep : null
    if (!does) return
    e.preventDefault()
    e.stopPropagation()
    does()
  }
  const list = read?.list ?? []
  const bad = list.filter(whyNot)
  return (
    <Part ref={box} onKeyDown={onKey}>
      <h2>Lines to put in</h2>
      <p>They stand in the lanes already; nothing is kept yet.</p>
      <Area
        label="One a phrase, or “arms: …” for a layer"
        value={text}
        rows={Math.min(9, Math.max(4, text.split('\n').length))}
        most={MOST_PASTED}
        onChange={(next) => send({ kind: 'line', line: 'type', text: next })}
      />
      <p role="status">{inWords(read, bad.length)}</p>
      <Keys>
        <Button look="strong" isDisabled={!read?.good} onPress={keep}>
          Put in <kbd>ctrl enter</kbd>
        </Button>
        <Button onPress={leave}>
          Leave <kbd>esc</kbd>
        </Button>
      </Keys>
      <List aria-label="What each line says">
        {/* What is to be mended comes first: a long list ends out of sight. */}
        {[...bad, ...list.filter((l) => !whyNot(l))].map((l, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name
          <li key={i} className={whyNot(l) ? 'bad' : ''}>
            {l.phrase ? `${placeName(l.phrase)}, ` : ''}
            {l.layer}: {whyNot(l) || cuesInWords(l.cues)}
            {whyNot(l) && (
              <>
                <br />
                <small>{l.text.slice(0, 80)}</small>
              </>
            )}
          </li>
        ))}
      </List>
    </Part>
  )
}
