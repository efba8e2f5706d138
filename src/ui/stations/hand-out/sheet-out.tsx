'use client'

import { useMemo, useState } from 'react'
import { cueSheet } from '@/core/handout'
import { stillsOf } from '../../film/stills-of'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { Tick } from '../../parts/tick'
import { fetchSheet } from '../../state/sheet'
import { useTask } from '../../state/task'
import { Made, Making } from './making'
import { PicturesChoice, usePictures } from './pictures-choice'
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
  const { task, state } = useTask()
  const pictures = usePictures(routine.films)
  const saving = useUnsaved()
  const make = () =>
    task.begin('Setting the sheet', async (tell, signal) => {
      const { film } = pictures
      const stills =
        film &&
        (await stillsOf(
          film,
          page.times,
          contents.stretch,
          (share) => tell(share, 'Taking its pictures'),
          signal,
        ))
      tell(null, 'Setting the sheet')
      const paper = { size, across: way === 'across', wall }
      const { pdf, missing } = await fetchSheet(id, { contents, paper, stills }, tell, signal)
      saveFile(`${fileName(routine.title)}.pdf`, pdf, 'application/pdf')
      return missing
        ? `Saved. No font of the app has these letters, their places are empty: ${missing}`
        : 'Saved.'
    })
  return (
    <>
      <div data-screen style={{ display: 'grid', gap: 12 }}>
        <Tools style={{ alignItems: 'end' }}>
          <Making task={task} state={state}>
            <Button look="strong" onPress={make} isDisabled={saving}>
              Save as PDF
            </Button>
            <Button onPress={() => window.print()}>Print</Button>
          </Making>
          <Pick label="Paper" value={size} options={SIZES} onChange={setSize} />
          <Pick label="Held" value={way} options={WAYS} onChange={setWay} />
          <Tick isSelected={wall} onChange={setWall}>
            Big, for the wall
          </Tick>
        </Tools>
        <PicturesChoice {...pictures} />
        <Unsaved />
        <Made state={state} />
      </div>
      <SheetRows rows={rows} title={routine.title} credit={routine.credit} big={wall} />
    </>
  )
}
