'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { said } from '@/core/formats/said'
import { countTable, cueTable, placesTable } from '@/core/handout'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { useBook } from '../../state/moves-store'
import { desk } from '../../theme/tokens'
import type { OutProps } from './props'
import { csvOf, xlsxOf } from './spreadsheet'

const Scroll = styled.div`
  overflow: auto;
  border: 1px solid ${desk.line};
  border-radius: 12px;
  background: ${desk.card};
  max-height: 60dvh;
  table { border-collapse: collapse; font-size: 13px; }
  th { position: sticky; top: 0; background: ${desk.card}; text-align: left; }
  td, th { padding: 5px 10px; border-bottom: 1px solid ${desk.line}; white-space: nowrap; max-width: 320px; overflow: hidden; text-overflow: ellipsis; }
`
const SHOWN = 200
const WHICH = [
  { id: 'cues', name: 'a row a cue' },
  { id: 'counts', name: 'a row a count' },
  { id: 'places', name: 'where one stands' },
] as const

const WHOSE = [
  { id: 'chosen', name: 'what is chosen' },
  { id: 'every', name: 'all roles and versions' },
] as const

/** The dance for a spreadsheet. */
export function TableOut({ page, routine, contents }: OutProps) {
  const [which, setWhich] = useState<(typeof WHICH)[number]['id']>('cues')
  const [problem, setProblem] = useState('')
  const [whose, setWhose] = useState<'chosen' | 'every'>('chosen')
  const cues = useMemo(
    () => cueTable(routine, page.times, contents, whose === 'every'),
    [routine, page, contents, whose],
  )
  const counts = useMemo(() => countTable(routine, page.times, contents), [routine, page, contents])
  const book = useBook()
  const places = useMemo(
    () => placesTable(routine, page.times, contents, book),
    [routine, page, contents, book],
  )
  const table = { cues, counts, places }[which]
  const name = fileName(routine.title)
  const excel = async () => {
    setProblem('')
    try {
      saveFile(`${name}.xlsx`, await xlsxOf([cues, counts, places]), '')
    } catch (error) {
      setProblem(`The file could not be made: ${said(error)}`)
    }
  }
  return (
    <>
      <Tools>
        <Button look="strong" onPress={excel}>
          Save all as XLSX
        </Button>
        <Button onPress={async () => saveFile(`${name} ${which}.csv`, await csvOf(table), 'text/csv')}>
          Save this as CSV
        </Button>
      </Tools>
      {problem && <p role="alert">{problem}</p>}
      <Pick label="Rows" value={which} options={WHICH} onChange={setWhich} />
      {which === 'cues' && <Pick label="Cues of" value={whose} options={WHOSE} onChange={setWhose} />}
      <Scroll tabIndex={0} role="region" aria-label="The table">
        <table data-testid="table">
          <thead>
            <tr>
              {table.columns.map((c) => (
                <th key={c}>{c}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.rows.slice(0, SHOWN).map((r, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows have no names
              <tr key={i}>
                {r.map((x, k) => (
                  <td key={table.columns[k]}>{x}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      {table.rows.length > SHOWN && (
        <p style={{ color: desk.quiet }}>{table.rows.length - SHOWN} more rows are in the file.</p>
      )}
    </>
  )
}
