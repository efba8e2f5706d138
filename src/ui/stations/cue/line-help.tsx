'use client'

import { memo } from 'react'
import styled from 'styled-components'
import { Part } from '../../parts/panel'
import { desk, font } from '../../theme/tokens'

const Table = styled.dl`
  margin: 0;
  display: grid;
  gap: 3px;
  font-size: 13.5px;
  dt { font: 600 14px/1.3 ${font.text}; }
  dd { margin: 0 0 7px; color: ${desk.quiet}; }
`

const FORMS = [
  ['1 step R', 'a count, the move, its side: L, R or LR'],
  ['3& ball-change L', 'on the &; e and a are quarters'],
  ['5-6 slow roll', 'from 5 to the end of 6'],
  ['7& 8 clap x2', 'the same on both'],
  ['1-4 walk R/L', 'one a count, right and left in turn'],
  ['5-8 as 1-4', 'the same again; … other side'],
  ['5-8 as chorus 2, first four', 'what is danced there; … other side'],
  ['5-8 as 1-4, all layers', 'in every layer at once'],
  ['1*1/2 tap R', 'half a count long'],
  ['2 cross behind L [back]', 'the word to call'],
  ['8 clap @rows #easier', 'a role, a version'],
  ['5-8 free #easier #open', 'free (or held) in that version'],
  ['1 "an L overhead"', 'in quotes a letter is a shape'],
] as const

const KEYS = [
  ['enter', 'keeps the line'],
  ['tab', 'keeps it, then the next layer'],
  ['↑ ↓', 'keeps it, then another phrase'],
  ['→', 'takes the move that is offered'],
  ['esc', 'leaves it; what was typed is offered next time'],
  ['ctrl ↑', 'takes that back'],
] as const

/** How a line is written; beside the sheet while one is open. */
export const LineHelp = memo(function LineHelp() {
  const list = (rows: readonly (readonly [string, string])[]) => (
    <Table>{rows.map(([what, means]) => [<dt key={what}>{what}</dt>, <dd key={means}>{means}</dd>])}</Table>
  )
  return (
    <>
      <Part>
        <h2>Writing a line</h2>
        <p>Cues stand between semicolons. They appear in the lanes while you type.</p>
        {list(FORMS)}
      </Part>
      <Part>
        <h3>Keys</h3>
        {list(KEYS)}
        <p>
          Several lines can be pasted at once: one a phrase, or “arms: …” for a layer. They are shown before
          they are put in.
        </p>
      </Part>
    </>
  )
})
