'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import { Dialog, FileTrigger, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { type BroughtGrid, printBeats, printLabels, readBeats, readLabels } from '@/core/formats/beat-text'
import { printSrt, printVtt } from '@/core/formats/captions'
import { printJams, readJams } from '@/core/formats/jams'
import { printLrc } from '@/core/formats/lyrics'
import { readMidiGrid, writeMidiGrid } from '@/core/formats/midi-grid'
import type { TimedText } from '@/core/formats/problem'
import {
  beginsSection,
  bringGrid,
  countNumbers,
  countsBars,
  placePhrases,
  type Routine,
  sectionLabel,
} from '@/core/routine'
import { gridTempo, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { said } from '../../parts/said'
import { saveFile } from '../../parts/save-file'
import { Card, Veil } from '../../parts/window'
import { type Page, useSong } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { Tools } from '../frame'

const Halves = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 28px;
  section { display: grid; gap: 10px; align-content: start; }
  p { font-size: 14px; color: ${desk.quiet}; }
`

const Found = styled.div`
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1.5px solid ${desk.azalea};
  border-radius: 12px;
  background: #fff;
`

interface Ready {
  name: string
  grid: BroughtGrid
}

/** Reads a grid by the file's ending. */
async function gridOf(file: File): Promise<BroughtGrid> {
  if (/\.(mid|midi|smf)$/i.test(file.name)) return readMidiGrid(new Uint8Array(await file.arrayBuffer()))
  const text = await file.text()
  if (/\.jams$/i.test(file.name)) return readJams(text)
  if (/\.lab(el)?s?$/i.test(file.name) || text.split(/\r?\n/, 1)[0]?.split('\t').length === 3)
    return { beats: [], numbers: null, sections: readLabels(text) }
  return readBeats(text)
}

/** The sections of a routine as labelled stretches of the song. */
function labelled(routine: Routine, page: Page): TimedText[] {
  const begun = placePhrases(routine).filter(beginsSection)
  return begun.map((p, i) => ({
    start: timeOfTick(page.times, p.start),
    end: timeOfTick(page.times, begun[i + 1]?.start ?? page.placed.at(-1)?.end ?? p.end),
    text: p.section ? sectionLabel(p.section) : '',
  }))
}

/** Beats, phrases and sections from files of other programs, and to them. */
export function Files({ page, isOpen, close }: { page: Page; isOpen: boolean; close: () => void }) {
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && close()} isDismissable>
      <Card $width={820}>
        <Dialog>
          <Heading slot="title" level={2}>
            Grid from and to files
          </Heading>
          <Halves>
            <Bring page={page} close={close} />
            <Save page={page} />
          </Halves>
          <Tools>
            <Button onPress={close}>Close</Button>
          </Tools>
        </Dialog>
      </Card>
    </Veil>
  )
}

function Bring({ page, close }: { page: Page; close: () => void }) {
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const [ready, setReady] = useState<Ready | null>(null)
  const [pair, setPair] = useState(false)
  const [problem, setProblem] = useState('')
  const read = async (files: FileList | null) => {
    const file = files?.[0]
    if (!file) return
    setProblem('')
    setReady(null)
    try {
      const grid = await gridOf(file)
      setPair(countsBars(grid.numbers))
      setReady({ name: file.name, grid })
    } catch (e) {
      setProblem(`“${file.name}” was not taken. ${said(e)} Nothing was changed.`)
    }
  }
  const take = () => {
    if (!ready) return
    const { name, grid } = ready
    // Why it could not be taken is told on the page.
    edit(`bring the grid of ${name}`, (r) => bringGrid(r, heard?.hearing.beats ?? [], grid, pair, nanoid))
    close()
  }
  return (
    <section>
      <h3>Bring</h3>
      <p>
        Beat times as text (one a line, with the beat's number if you have it), a label file (start, end,
        text, with tabs), a MIDI file's tempo map and markers, or a JAMS file. You see what is in it before it
        is taken.
      </p>
      <Tools>
        <FileTrigger
          acceptedFileTypes={['.txt', '.beats', '.csv', '.lab', '.mid', '.midi', '.jams']}
          onSelect={read}
        >
          <Button look="strong">Choose a file</Button>
        </FileTrigger>
      </Tools>
      {problem && <p role="alert">{problem}</p>}
      {ready && (
        <Found data-testid="brought">
          <strong style={{ overflowWrap: 'anywhere' }}>{ready.name}</strong>
          <p>{contentOf(ready.grid, page)}</p>
          {ready.grid.numbers && countsBars(ready.grid.numbers) && (
            <Pick
              label="Its numbers count bars"
              value={pair ? 'pair' : 'plain'}
              options={[
                { id: 'pair', name: 'Two bars a phrase' },
                { id: 'plain', name: 'One bar a phrase' },
              ]}
              onChange={(v) => setPair(v === 'pair')}
            />
          )}
          <Tools>
            <Button look="strong" onPress={take}>
              Take it
            </Button>
            <Button look="quiet" onPress={() => setReady(null)}>
              Leave it
            </Button>
          </Tools>
        </Found>
      )}
    </section>
  )
}

function contentOf({ beats, numbers, sections }: BroughtGrid, page: Page): string {
  const said = []
  if (beats.length > 1) {
    said.push(
      `${beats.length} beats at about ${gridTempo(beats).toFixed(1)} BPM, from ${(beats[0] as number).toFixed(2)} to ${(beats.at(-1) as number).toFixed(2)} s`,
    )
    said.push(
      numbers
        ? `${numbers.filter((n) => n === 1).length} of them numbered 1`
        : 'without numbers: phrases stay where they are',
    )
    if (page.duration && (beats.at(-1) as number) > page.duration + 1)
      said.push('it goes on longer than this song')
  }
  if (sections.length) said.push(`${sections.length} sections, which replace those there are`)
  return `${said.join('; ')}.`
}

function Save({ page }: { page: Page }) {
  const routine = useRoutine((s) => s.routine)
  const name = routine.title.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'routine'
  const numbers = countNumbers(routine)
  // The page may end inside the last phrase's last count; every count has a time.
  const beats = numbers.map((_, i) => timeOfTick(page.times, i * 24))
  const words = routine.marks
    .filter((m) => m.kind === 'lyric')
    .map((m) => ({ start: m.at, end: m.end, text: m.text }))
  const marked = routine.marks.map((m) => ({ start: m.at, end: m.end, text: m.text }))
  const has = page.times.length > 1 && numbers.length > 0
  const midi = () => {
    const placed = placePhrases(routine)
    return writeMidiGrid(
      beats,
      routine.phrases.map((p) => ({ counts: p.length, pickUp: p.pickUp })),
      placed.flatMap((p) =>
        p.section && beginsSection(p) ? [{ beat: p.start / 24, text: sectionLabel(p.section) }] : [],
      ),
    )
  }
  const song = { title: routine.title, artist: routine.credit, duration: page.duration }
  return (
    <section>
      <h3>Save</h3>
      <p>The grid as it stands on the page. Brought back, each gives the same counts again.</p>
      <Tools>
        <Button
          isDisabled={!has}
          onPress={() => saveFile(`${name} beats.txt`, printBeats(beats, numbers), 'text/plain')}
        >
          Beats as text
        </Button>
        <Button
          isDisabled={!routine.sections.length}
          onPress={() => saveFile(`${name} sections.lab`, printLabels(labelled(routine, page)), 'text/plain')}
        >
          Sections as labels
        </Button>
        <Button isDisabled={!has} onPress={() => saveFile(`${name}.mid`, midi(), 'audio/midi')}>
          MIDI tempo map
        </Button>
        <Button
          isDisabled={!has}
          onPress={() =>
            saveFile(
              `${name}.jams`,
              printJams(song, beats, numbers, labelled(routine, page)),
              'application/json',
            )
          }
        >
          JAMS
        </Button>
      </Tools>
      {marked.length > 0 && (
        <Tools>
          <Button onPress={() => saveFile(`${name} marks.lab`, printLabels(marked), 'text/plain')}>
            Words and sounds as labels
          </Button>
        </Tools>
      )}
      <p>{words.length ? 'The lyric lines:' : 'Lyric lines can be saved once there are some.'}</p>
      {words.length > 0 && (
        <Tools>
          <Button onPress={() => saveFile(`${name}.lrc`, printLrc(words), 'text/plain')}>LRC</Button>
          <Button onPress={() => saveFile(`${name}.vtt`, printVtt(words), 'text/vtt')}>WebVTT</Button>
          <Button onPress={() => saveFile(`${name}.srt`, printSrt(words), 'text/plain')}>SRT</Button>
        </Tools>
      )}
    </section>
  )
}
