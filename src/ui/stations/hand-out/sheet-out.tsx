'use client'

import { useMemo, useRef, useState } from 'react'
import { cueSheet } from '@/core/handout'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { said } from '../../parts/said'
import { fileName, saveFile } from '../../parts/save-file'
import { fetchSheet } from '../../state/api'
import { Tick } from './contents-part'
import type { OutProps } from './props'
import { SheetRows } from './sheet-rows'
import { Unsaved, useUnsaved } from './unsaved'

const SIZES = [
  { id: 'A4', name: 'A4' },
  { id: 'LETTER', name: 'Letter' },
] as const
const WAYS = [
  { id: 'up', name: 'upright' },
  { id: 'across', name: 'across' },
] as const

/** The cue sheet: as it will be, and as a PDF or on paper. */
export function SheetOut({ id, page, routine, book, contents }: OutProps) {
  const rows = useMemo(() => cueSheet(routine, page.times, book, contents), [routine, page, book, contents])
  const [size, setSize] = useState<'A4' | 'LETTER'>('A4')
  const [way, setWay] = useState<'up' | 'across'>('up')
  const [wall, setWall] = useState(false)
  const [state, setState] = useState<{ making: boolean; told: string; problem: string }>({
    ...{ making: false, told: '', problem: '' },
  })
  const stop = useRef<AbortController | null>(null)
  const saving = useUnsaved()
  const make = async () => {
    const mine = new AbortController()
    stop.current = mine
    setState({ making: true, told: '', problem: '' })
    try {
      const { pdf, missing } = await fetchSheet(
        id,
        contents,
        { size, across: way === 'across', wall },
        mine.signal,
      )
      saveFile(`${fileName(routine.title)}.pdf`, pdf, 'application/pdf')
      setState({
        making: false,
        told: missing
          ? `Saved. No font of the app has these letters, their places are empty: ${missing}`
          : 'Saved.',
        problem: '',
      })
    } catch (error) {
      const stopped = error instanceof DOMException
      setState({ making: false, told: '', problem: stopped ? '' : said(error) })
    }
  }
  return (
    <>
      <div data-screen style={{ display: 'grid', gap: 12 }}>
        <Tools style={{ alignItems: 'end' }}>
          {state.making ? (
            <>
              <span role="status">Setting the sheet …</span>
              <Button onPress={() => stop.current?.abort()}>Cancel</Button>
            </>
          ) : (
            <>
              <Button look="strong" onPress={make} isDisabled={saving}>
                Save as PDF
              </Button>
              <Button onPress={() => window.print()}>Print</Button>
            </>
          )}
          <Pick label="Paper" value={size} options={SIZES} onChange={setSize} />
          <Pick label="Held" value={way} options={WAYS} onChange={setWay} />
          <Tick isSelected={wall} onChange={setWall}>
            Big, for the wall
          </Tick>
        </Tools>
        <Unsaved />
        {state.told && <p role="status">{state.told}</p>}
        {state.problem && <p role="alert">{state.problem}</p>}
      </div>
      <SheetRows rows={rows} title={routine.title} credit={routine.credit} big={wall} />
    </>
  )
}
