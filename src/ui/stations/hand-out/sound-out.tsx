'use client'

import { useMemo, useState } from 'react'
import { practiceSound, WORDS } from '@/audio/practice'
import { SOUND_FILES, type SoundFile } from '@/audio/sound-file'
import { FORMATS } from '@/core/formats'
import { LONGEST_SOUND, type SoundWish, soundCaptions, soundPlan, USUAL_SOUND } from '@/core/handout'
import { UNMEASURED } from '@/core/stretch'
import { clockText } from '@/core/time'
import { Button } from '../../parts/button'
import { Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { usePlayer } from '../../state/player'
import { contentOf } from '../../state/printed'
import { stretchInWorker } from '../../state/stretch'
import { type Tell, useTask } from '../../state/task'
import { Made, Making } from './making'
import type { OutProps } from './props'
import { Lasts, WishPart } from './wish-part'

const CAPTION_FILES = [FORMATS.vtt, FORMATS.srt]
const FILE_NAMES: Record<SoundFile, string> = { wav: 'WAV', mp3: 'MP3', opus: 'Opus' }

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
      <WishPart wish={wish} set={set} />
      <Tools>
        {CAPTION_FILES.map((f) => (
          <Button key={f.id} onPress={() => captions(f)} isDisabled={long}>
            Captions for it, {f.name}
          </Button>
        ))}
      </Tools>
      <Lasts plan={plan} times={wish.times} />
    </>
  )
}
