'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import { Dialog, FileTrigger, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { endingsOf, FORMATS, type Format, type Printed, readFile } from '@/core/formats'
import { said } from '@/core/formats/said'
import { bringGrid, countsBars } from '@/core/routine'
import { gridTempo } from '@/core/time'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { Card, Veil } from '../../parts/window'
import { type Page, useSong } from '../../state/page'
import { contentOf } from '../../state/printed'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'

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
  background: ${desk.card};
`

type Ready = Awaited<ReturnType<typeof readFile>> & { name: string }

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
      const grid = await readFile(file.name, new Uint8Array(await file.arrayBuffer()), 'grid')
      setPair(countsBars(grid.numbers))
      setReady({ ...grid, name: file.name })
    } catch (e) {
      setProblem(`“${file.name}” was not taken. ${said(e)} Nothing was changed.`)
    }
  }
  const take = () => {
    if (!ready) return
    // Why it could not be taken is told on the page.
    edit(`bring the grid of ${ready.name}`, (r) =>
      bringGrid(r, heard?.hearing.beats ?? [], ready, pair, nanoid),
    )
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
        <FileTrigger acceptedFileTypes={endingsOf('grid')} onSelect={read}>
          <Button look="strong">Choose a file</Button>
        </FileTrigger>
      </Tools>
      {problem && <p role="alert">{problem}</p>}
      {ready && (
        <Found data-testid="brought">
          <strong style={{ overflowWrap: 'anywhere' }}>{ready.name}</strong>
          <p>{toldOf(ready, page)}</p>
          {countsBars(ready.numbers) && (
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

function toldOf({ beats, numbers, sections }: Ready, page: Page): string {
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
  const content = contentOf(routine, page)
  const marked = routine.marks.map((m) => ({ start: m.at, end: m.end, text: m.text }))
  const has = page.times.length > 1 && content.numbers.length > 0
  const save = (format: Format, what: Partial<Printed> = {}, named = '') =>
    saveFile(
      `${fileName(routine.title)}${named}.${format.endings[0]}`,
      format.print({ ...content, ...what }),
      format.type,
    )
  return (
    <section>
      <h3>Save</h3>
      <p>The grid as it stands on the page. Brought back, each gives the same counts again.</p>
      <Tools>
        <Button isDisabled={!has} onPress={() => save(FORMATS.beats, {}, ' beats')}>
          {FORMATS.beats.name}
        </Button>
        <Button
          isDisabled={!routine.sections.length}
          onPress={() => save(FORMATS.labels, { words: [] }, ' sections')}
        >
          Sections as labels
        </Button>
        <Button isDisabled={!has} onPress={() => save(FORMATS.midi)}>
          {FORMATS.midi.name}
        </Button>
        <Button isDisabled={!has} onPress={() => save(FORMATS.jams)}>
          {FORMATS.jams.name}
        </Button>
      </Tools>
      {marked.length > 0 && (
        <Tools>
          <Button onPress={() => save(FORMATS.labels, { words: marked }, ' marks')}>
            Words and sounds as labels
          </Button>
        </Tools>
      )}
      <p>{content.words.length ? 'The lyric lines:' : 'Lyric lines can be saved once there are some.'}</p>
      {content.words.length > 0 && (
        <Tools>
          {[FORMATS.lrc, FORMATS.vtt, FORMATS.srt].map((f) => (
            <Button key={f.id} onPress={() => save(f)}>
              {f.name}
            </Button>
          ))}
        </Tools>
      )}
    </section>
  )
}
