'use client'

import { useMemo, useState } from 'react'
import { practiceSound, WORDS } from '@/audio/practice'
import { asDanced, followBody, START } from '@/core/choreo'
import type { FilmScene } from '@/core/film'
import { type SoundWish, soundPlan, USUAL_SOUND } from '@/core/handout'
import { cuesIn, danced, ofPass } from '@/core/routine'
import { UNMEASURED } from '@/core/stretch'
import { clockText, type Seconds } from '@/core/time'
import { filmTitle } from '../../film/film-title'
import {
  FILM_FILES,
  type FilmFileKind,
  type FilmPicture,
  makePracticeFilm,
} from '../../film/make-practice-film'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Pick } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { usePlayer } from '../../state/player'
import { stretchInWorker } from '../../state/stretch'
import { type Tell, useTask } from '../../state/task'
import { Made, Making } from './making'
import type { OutProps } from './props'
import { Lasts, WishPart } from './wish-part'

/** A film is in memory as a whole until it is saved: longer ones are made in parts. */
const LONGEST: Seconds = 10 * 60
/** Of the work, making the sound takes so much. */
const SOUND = 0.25

const FILE_NAMES: Record<FilmFileKind, string> = { mp4: 'MP4', webm: 'WebM' }
const HEIGHTS = [
  { id: '720', name: '1280 × 720' },
  { id: '480', name: '854 × 480' },
  { id: '360', name: '640 × 360' },
] as const

const USUAL: SoundWish = { ...USUAL_SOUND, speeds: [0.75], times: 2 }

/** A practice film: a stretch, or a ladder of it, as a film for any player. */
export function FilmOut({ page, routine, contents, book }: OutProps) {
  const player = usePlayer()
  const [wish, setWish] = useState<SoundWish>(USUAL)
  const [as, setAs] = useState<FilmFileKind>('mp4')
  const [height, setHeight] = useState<(typeof HEIGHTS)[number]['id']>('720')
  const films = routine.films.filter((f) => f.takes.length > 0)
  const [chosen, setChosen] = useState<string>(films[0]?.id ?? 'figure')
  const { task, state } = useTask()
  const plan = useMemo(() => soundPlan(routine, page.times, contents, wish), [routine, page, contents, wish])
  const set = (what: Partial<SoundWish>) => setWish((w) => ({ ...w, ...what }))
  const long = plan.seconds > LONGEST
  const picture: FilmPicture =
    films.find((f) => f.id === chosen) ?? (chosen === 'counts' ? 'counts' : 'figure')
  const scene = (): FilmScene => {
    const shown = ofPass(asDanced(danced(routine), contents.role, contents.version), contents.pass)
    return {
      ...{ plan, times: page.times, placed: page.placed, mirrored: contents.mirrored },
      cues: cuesIn(shown, contents.stretch),
      steps: followBody(shown, book, START, routine.positions).steps,
    }
  }
  const work = async (tell: Tell, signal: AbortSignal) => {
    const song = wish.song
      ? { song: await player.audio(), measure: await player.measure().catch(() => UNMEASURED) }
      : null
    const told = (share: number) =>
      tell(SOUND * share, share < WORDS ? 'Getting the words' : 'Making its sound')
    const { stepBack } = player.state.getState()
    const { title } = routine
    const voices = await player.voices()
    const wanted = { plan, song, stepBack, file: 'wav' as const, title, voices }
    const sound = await practiceSound(wanted, stretchInWorker, told, signal)
    const blob = await makePracticeFilm(
      { scene: scene(), picture, sound, as, height: Number(height), title },
      (share) => tell(SOUND + (1 - SOUND) * share, 'Making its pictures'),
      signal,
    )
    signal.throwIfAborted()
    saveFile(`${fileName(title)}.${as}`, blob, blob.type)
    return `Saved: ${clockText(plan.seconds)} of film, ${(blob.size / 1e6).toFixed(1)} MB.`
  }
  const make = () => task.begin('Getting the words', work, (why) => `The film could not be made: ${why}`)
  return (
    <>
      <Tools style={{ alignItems: 'end' }}>
        <Making task={task} state={state}>
          <Button look="strong" onPress={make} isDisabled={long}>
            Make the film
          </Button>
          <Pick
            label="File"
            value={as}
            options={FILM_FILES.map((id) => ({ id, name: FILE_NAMES[id] }))}
            onChange={setAs}
          />
        </Making>
      </Tools>
      <Made state={state} />
      {long && (
        <p role="alert">
          It would last {clockText(plan.seconds)}; {LONGEST / 60} minutes are made at once. Take fewer counts,
          speeds or repetitions.
        </p>
      )}
      <div style={{ display: 'grid', gap: 12, maxWidth: 560 }}>
        <Choice
          label="What is seen"
          value={typeof picture === 'string' ? picture : picture.id}
          options={[
            ...films.map((f) => ({ id: f.id, name: filmTitle(f) })),
            { id: 'figure', name: 'the drawn figure' },
            { id: 'counts', name: 'the counts alone' },
          ]}
          onChange={setChosen}
        />
        <Choice label="How large" value={height} options={HEIGHTS} onChange={setHeight} />
      </div>
      <WishPart wish={wish} set={set} />
      <Lasts plan={plan} times={wish.times} />
    </>
  )
}
