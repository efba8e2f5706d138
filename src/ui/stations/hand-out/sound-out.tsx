'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { practiceSound, WORDS } from '@/audio/practice'
import { SOUND_FILES, type SoundFile } from '@/audio/sound-file'
import { FORMATS } from '@/core/formats'
import {
  LONGEST_SOUND,
  SOUND_CALLS,
  type SoundWish,
  soundCaptions,
  soundPlan,
  USUAL_SOUND,
} from '@/core/handout'
import { UNMEASURED } from '@/core/stretch'
import { clockText } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice, Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { Tick } from '../../parts/tick'
import { usePlayer } from '../../state/player'
import { contentOf } from '../../state/printed'
import { stretchInWorker } from '../../state/stretch'
import { type Tell, useTask } from '../../state/task'
import { desk } from '../../theme/tokens'
import { Made, Making } from './making'
import { OwnNumbers } from './own-numbers'
import type { OutProps } from './props'

const CALLS: Record<(typeof SOUND_CALLS)[number], string> = {
  numbers: 'numbers',
  words: 'the moves',
  own: 'your own voice, else numbers',
  fading: 'less and less: moves, first words, numbers, nothing',
  none: 'nothing',
}
const LADDERS = [
  { id: '0.6 0.75 0.9 1', name: '60, 75, 90, 100 %' },
  { id: '0.5 0.6 0.7 0.8 0.9 1', name: '50 to 100 % in six' },
  { id: '0.75 1', name: '75, 100 %' },
  { id: '0.6', name: '60 % alone' },
  { id: '0.75', name: '75 % alone' },
  { id: '1', name: '100 % alone' },
] as const
const TIMES = ['1', '2', '3', '4', '6', '8'].map((id) => ({ id, name: id }))
const COUNT_INS = ['2', '4', '8'].map((id) => ({ id, name: id }))
const CAPTION_FILES = [FORMATS.vtt, FORMATS.srt]
const FILE_NAMES: Record<SoundFile, string> = { wav: 'WAV', mp3: 'MP3', opus: 'Opus' }

const Rungs = styled.ol`
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 3px;
  max-width: 560px;
  li { display: grid; grid-template-columns: 60px minmax(0, 1fr); gap: 12px; padding: 7px 12px; background: ${desk.card}; border: 1px solid ${desk.line}; border-radius: 9px; }
  time { color: ${desk.quiet}; font-variant-numeric: tabular-nums; }
`

/** A practice sound: one stretch, or a ladder of it, in a file for any player. */
export function SoundOut({ page, routine, contents }: OutProps) {
  const player = usePlayer()
  const [wish, setWish] = useState<SoundWish>(USUAL_SOUND)
  const [file, setFile] = useState<SoundFile>('mp3')
  const { task, state } = useTask()
  const plan = useMemo(() => soundPlan(routine, page.times, contents, wish), [routine, page, contents, wish])
  const set = (what: Partial<SoundWish>) => setWish((w) => ({ ...w, ...what }))
  const long = plan.seconds > LONGEST_SOUND
  const work = async (tell: Tell, signal: AbortSignal) => {
    tell(0)
    const song = wish.song
      ? { song: await player.audio(), measure: await player.measure().catch(() => UNMEASURED) }
      : null
    const told = (share: number) => tell(share, share < WORDS ? 'Getting the words' : 'Making the sound')
    const voices = await player.voices()
    const { stepBack } = player.state.getState()
    const wanted = { plan, song, stepBack, file, title: routine.title, voices }
    const blob = await practiceSound(wanted, stretchInWorker, told, signal)
    signal.throwIfAborted()
    saveFile(`${fileName(routine.title)}.${file === 'opus' ? 'ogg' : file}`, blob, blob.type)
    return `Saved: ${clockText(plan.seconds)} of sound, ${(blob.size / 1e6).toFixed(1)} MB.`
  }
  /** Named as the sound is: players then take them by themselves. */
  const captions = (f: (typeof CAPTION_FILES)[number]) => {
    const words = soundCaptions(routine, page.times, contents, wish)
    const content = { ...contentOf(routine, page), words }
    saveFile(`${fileName(routine.title)}.${f.endings[0]}`, f.print(content), f.type)
  }
  const make = () => task.begin('Getting the words', work, (why) => `The sound could not be made: ${why}`)
  return (
    <>
      <Tools style={{ alignItems: 'end' }}>
        <Making task={task} state={state}>
          <Button look="strong" onPress={make} isDisabled={long}>
            Make the sound
          </Button>
          <Pick
            label="File"
            value={file}
            options={SOUND_FILES.map((id) => ({ id, name: FILE_NAMES[id] }))}
            onChange={setFile}
          />
        </Making>
      </Tools>
      <Made state={state} />
      {long && (
        <p role="alert">
          It would last {clockText(plan.seconds)}; {LONGEST_SOUND / 60} minutes are made at once. Take fewer
          counts, speeds or repetitions.
        </p>
      )}
      <div style={{ display: 'grid', gap: 12, maxWidth: 560 }}>
        <Choice
          label="Speeds"
          value={wish.speeds.join(' ') as (typeof LADDERS)[number]['id']}
          options={LADDERS}
          onChange={(l) => set({ speeds: l.split(' ').map(Number) })}
        />
        <Tools>
          <Pick
            label="Each so often"
            value={String(wish.times)}
            options={TIMES}
            onChange={(n) => set({ times: Number(n) })}
          />
          <Pick
            label="Counted in with"
            value={String(wish.countIn)}
            options={COUNT_INS}
            onChange={(n) => set({ countIn: Number(n) })}
          />
        </Tools>
        <Choice
          label="Called"
          value={wish.calls}
          options={SOUND_CALLS.map((id) => ({ id, name: CALLS[id] }))}
          onChange={(calls) => set({ calls })}
        />
        <Tick isSelected={wish.announced} onChange={(announced) => set({ announced })}>
          Each speed is said before it
        </Tick>
        <Tick isSelected={wish.song} onChange={(song) => set({ song })}>
          With the song
        </Tick>
        <OwnNumbers />
        {wish.song && <p role="status">The song belongs to its owners: passing it on can need a licence.</p>}
      </div>
      <Tools>
        {CAPTION_FILES.map((f) => (
          <Button key={f.id} onPress={() => captions(f)} isDisabled={long}>
            Captions for it, {f.name}
          </Button>
        ))}
      </Tools>
      <h3>It lasts {clockText(plan.seconds)}</h3>
      <Rungs data-testid="rungs">
        {plan.chapters.map((c) => (
          <li key={c.at}>
            <time>{clockText(c.at)}</time>
            {c.name}, {wish.times === 1 ? 'once' : `${wish.times} times`}
          </li>
        ))}
      </Rungs>
    </>
  )
}
