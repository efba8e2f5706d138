'use client'

import { nanoid } from 'nanoid'
import { useEffect, useState } from 'react'
import { FileTrigger } from 'react-aria-components'
import styled from 'styled-components'
import { endingsOf, readFile, type TimedText } from '@/core/formats'
import { said } from '@/core/formats/said'
import { addMarks, removeMarks, type SongMark, snapMarks, writeLyrics } from '@/core/routine'
import { linesIn } from '@/core/station'
import { TICKS_PER_COUNT, tickOfTime } from '@/core/time'
import { Area } from '../../parts/area'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { useLeave } from '../../state/use-leave'
import { MarkRow } from './mark-row'
import { TapWords } from './tap-words'

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
`

/** Words sung and sounds heard: written down, tapped in, brought from a file, named, moved and taken away. */
export function Words({ page, close }: { page: Page; close: () => void }) {
  const edit = useRoutine((s) => s.edit)
  const { marks, lyrics } = useRoutine((s) => s.routine)
  const [text, setText] = useState(lyrics)
  const [problem, setProblem] = useState('')
  const [tapping, setTapping] = useState(false)
  const to = useCursor((s) => s.to)
  useEffect(() => setText(lyrics), [lyrics])
  const keep = () => {
    if (text !== lyrics) edit('write lyrics down', (r) => writeLyrics(r, text))
  }
  // What is tapped in keeps its own lines.
  useLeave('words', () => !tapping && keep())
  const bring = async (files: FileList | null) => {
    const file = files?.[0]
    if (!file) return
    setProblem('')
    try {
      const { words, passedOver, format } = await readFile(
        file.name,
        new Uint8Array(await file.arrayBuffer()),
        'words',
      )
      const labels = format.id === 'labels'
      // A label without a length stands at a moment: a sound.
      const kind = (t: TimedText) => (labels && t.end === null ? 'sound' : 'lyric')
      if (passedOver)
        setProblem(
          `${passedOver === 1 ? 'One place' : `${passedOver} places`} in “${file.name}” could not be read and ${passedOver === 1 ? 'was' : 'were'} passed over.`,
        )
      edit(`bring ${words.length} ${labels ? 'labels' : 'lines'}`, (r) =>
        addMarks(
          r,
          words.map((t) => ({ kind: kind(t), at: t.start, end: t.end, text: t.text })),
          nanoid,
        ),
      )
    } catch (e) {
      setProblem(`“${file.name}” was not taken: ${said(e)} Nothing was changed.`)
    }
  }
  const counts = (kind: SongMark['kind']) => marks.filter((m) => m.kind === kind).length
  if (tapping) return <TapWords page={page} text={text} close={() => setTapping(false)} />
  return (
    <Part aria-label="Words and sounds">
      <h2>Words and sounds</h2>
      <Area
        label="Lyric lines still to be tapped in, one a line"
        value={text}
        rows={5}
        most={50_000}
        onChange={setText}
        onBlur={keep}
        placeholder="Type or paste the words here"
      />
      <Tools>
        <Button
          small
          look="strong"
          isDisabled={!linesIn(text).length || page.times.length < 2}
          tip="Plays from the cursor; tap once as each line begins"
          onPress={() => {
            keep()
            setTapping(true)
          }}
        >
          Tap them in
        </Button>
        <FileTrigger acceptedFileTypes={endingsOf('words')} onSelect={bring}>
          <Button
            small
            tip="Time-synced lyrics (LRC), captions (WebVTT, SRT), or labels (start, end, text, with tabs): a label with a length is a line, one without a sound"
          >
            Bring from a file
          </Button>
        </FileTrigger>
      </Tools>
      {problem && <p role="alert">{problem}</p>}
      {counts('lyric') > 0 && (
        <Tools>
          <Button
            small
            tip="Every line goes to the named count or sub-count nearest to it"
            onPress={() =>
              edit('lyrics onto the counts', (r) => snapMarks(r, page.times, page.placed, 'lyric'))
            }
          >
            Lines onto counts
          </Button>
          <Button
            small
            look="quiet"
            onPress={() =>
              edit('take all lyric lines away', (r) => removeMarks(r, (m) => m.kind === 'lyric'))
            }
          >
            Take all lines away
          </Button>
        </Tools>
      )}
      {marks.length > 0 ? (
        <List aria-label="Marks in the song">
          {marks.map((m) => (
            <MarkRow
              key={m.id}
              mark={m}
              page={page}
              go={() =>
                to(Math.max(0, Math.round(tickOfTime(page.times, m.at) / TICKS_PER_COUNT) * TICKS_PER_COUNT))
              }
            />
          ))}
        </List>
      ) : (
        <p>Nothing is marked yet. K marks a sound at the cursor, or where the song plays.</p>
      )}
      <Tools>
        <Button small look="quiet" onPress={close} hotkey="unmark">
          Back to the counts
        </Button>
      </Tools>
    </Part>
  )
}
