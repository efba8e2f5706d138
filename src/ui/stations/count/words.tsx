'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { FileTrigger } from 'react-aria-components'
import styled from 'styled-components'
import { endingsOf, readFile, type TimedText } from '@/core/formats'
import { said } from '@/core/formats/said'
import { addMarks, removeMarks, type SongMark, snapMarks, writeLyrics } from '@/core/routine'
import { type Seconds, TICKS_PER_COUNT, tickOfTime, timeOfTick } from '@/core/time'
import { TAPS } from '../../keys/taps'
import { Area } from '../../parts/area'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { MarkRow } from './mark-row'

const Next = styled.div`
  border: 2px dashed ${desk.azalea};
  border-radius: 14px;
  background: ${desk.azaleaSoft};
  padding: 12px;
  display: grid;
  gap: 4px;
  strong { font-size: 17px; }
  span { font-size: 13px; color: ${desk.quiet}; }
`

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
`

/** The lines of a text that hold words. */
const linesIn = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)

/** Words sung and sounds heard: written down, tapped in, brought from a file, named, moved and taken away. */
export function Words({ page, close }: { page: Page; close: () => void }) {
  const edit = useRoutine((s) => s.edit)
  const { marks, lyrics } = useRoutine((s) => s.routine)
  const [text, setText] = useState(lyrics)
  const [problem, setProblem] = useState('')
  const [tapped, setTapped] = useState<Seconds[] | null>(null)
  const to = useCursor((s) => s.to)
  useEffect(() => setText(lyrics), [lyrics])
  const keep = () => text !== lyrics && edit('write lyrics down', (r) => writeLyrics(r, text))
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
  if (tapped !== null)
    return <TapWords page={page} lines={linesIn(text)} tapped={tapped} setTapped={setTapped} />
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
            setTapped([])
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

interface TapProps {
  page: Page
  lines: readonly string[]
  tapped: readonly Seconds[]
  setTapped: (tapped: Seconds[] | null) => void
}

/** One tap a line while the song plays; what was tapped is kept in one step, also when it is left early. */
function TapWords({ page, lines, tapped, setTapped }: TapProps) {
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const edit = useRoutine((s) => s.edit)
  const [from] = useState(() => useCursor.getState().tick)
  const started = useRef(false)
  const finish = () => {
    player.stop()
    if (tapped.length)
      edit(`tap in ${tapped.length} lines`, (r) =>
        writeLyrics(
          addMarks(
            r,
            tapped.map((at, i) => ({ kind: 'lyric' as const, at, end: null, text: lines[i] as string })),
            nanoid,
          ),
          lines.slice(tapped.length).join('\n'),
        ),
      )
    setTapped(null)
  }
  const tap = () => {
    const now = player.tickNow(page)
    if (now === null || tapped.length >= lines.length) return
    setTapped([...tapped, timeOfTick(page.times, now)])
  }
  const press = useEffectEvent((e: KeyboardEvent) => {
    if (e.key !== 'Escape' && !TAPS.has(e.key)) return
    // Before the transport and the sheet, which use the same keys.
    e.preventDefault()
    e.stopImmediatePropagation()
    if (e.key === 'Escape') finish()
    else if (!e.repeat) tap()
  })
  useEffect(() => {
    if (!started.current) {
      started.current = true
      player.playFrom(page, from, [])
      player.mute('music')
    }
  }, [player, page, from])
  useEffect(() => {
    const listen = (e: KeyboardEvent) => press(e)
    window.addEventListener('keydown', listen, true)
    return () => window.removeEventListener('keydown', listen, true)
  }, [])
  const next = lines[tapped.length]
  return (
    <Part aria-label="Tapping words in">
      <h2>Tap the words in</h2>
      <p>Tap as each line begins: space, Enter or a pedal. Escape keeps what was tapped and ends.</p>
      <Next role="status" data-testid="tap-words" data-playing={playing}>
        <span>
          {tapped.length} of {lines.length} tapped{playing ? '' : ', the song is not playing'}
        </span>
        <strong>{next ?? 'That was the last line.'}</strong>
        {lines[tapped.length + 1] && <span>then: {lines[tapped.length + 1]}</span>}
      </Next>
      <Tools>
        <Button look="strong" onPress={tap} isDisabled={!next}>
          Tap
        </Button>
        <Button
          small
          isDisabled={!tapped.length}
          onPress={() => setTapped(tapped.slice(0, -1))}
          tip="Takes the last tap back; tap that line again"
        >
          Take one back
        </Button>
        <Button small onPress={finish} hotkey="unmark">
          {tapped.length ? 'Keep these' : 'Leave'}
        </Button>
      </Tools>
    </Part>
  )
}
