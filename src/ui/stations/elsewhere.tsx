'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { MoveBook } from '@/core/choreo'
import { movesOf, ROUTINE_FILE_VERSION, type RoutineFile, withoutLearners } from '@/core/handout'
import { cutText, type Routine, repairedBeats } from '@/core/routine'
import { Trouble } from '../parts/bar'
import { Button } from '../parts/button'
import { Ask } from '../parts/confirm'
import { Tools } from '../parts/panel'
import { said as saidError } from '../parts/said'
import { fileName, saveFile } from '../parts/save-file'
import { useBook } from '../state/moves-store'
import { SendFailure } from '../state/outbox'
import { outbox } from '../state/outbox-window'
import { type SongState, useSong } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { addRoutine, copyRoutine, putRoutine, routineDocument } from '../state/saved'

interface Props {
  id: string
  why: string
  /** It was taken away; else it was changed. */
  gone: boolean
}

/** A routine that was changed or taken away elsewhere while this window worked on it: nothing of it is saved until the person chose. */
export function Elsewhere({ id, why, gone }: Props) {
  const routine = useRoutine((s) => s.routine)
  const song = useSong()
  const book = useBook()
  const [failed, setFailed] = useState('')
  const [asking, setAsking] = useState(false)
  const giveUp = () => outbox().giveUp(routineDocument(id))
  const keep = async () => {
    try {
      // Where it was taken away elsewhere there is nothing to copy: it becomes a new one on the song.
      const copy = await copyRoutine(id).catch((error: unknown) => {
        if (isMissing(error)) return addRoutine(song.id)
        throw error
      })
      const title = `${cutText(routine.title, 180)} (from this window)`
      await putRoutine(copy, { revision: 0, writer: nanoid(12), save: 1 }, { ...routine, title })
      giveUp()
      location.assign(`/r/${copy}/cue`)
    } catch (error) {
      if (!isMissing(error)) return setFailed(saidError(error))
      saveFile(
        `${fileName(routine.title)}.azalea.json`,
        JSON.stringify(fileOf(id, routine, song, book)),
        'application/json',
      )
      setFailed(
        'Its song was taken away too. The routine is saved as a file: drop the song on the shelf, then this file.',
      )
    }
  }
  const leave = () => {
    giveUp()
    if (gone) location.assign('/')
    else location.reload()
  }
  return (
    <Trouble role="alert">
      <span>
        {failed ||
          (gone ? `${why} It was taken away in another window; what you see is in this one alone.` : why)}
      </span>
      <Tools>
        <Button small onPress={() => setAsking(true)}>
          {gone ? 'Let it go' : 'Load the other'}
        </Button>
        <Button
          small
          onPress={keep}
          tip={
            gone
              ? 'What is on this page becomes a routine of its own'
              : 'What is on this page becomes a routine of its own; the other stays'
          }
        >
          {gone ? 'Keep mine as a new one' : 'Keep mine as a copy'}
        </Button>
      </Tools>
      <Ask
        isOpen={asking}
        title={gone ? 'Let this routine go?' : 'Load what the other window saved?'}
        onClose={() => setAsking(false)}
        actions={[
          { name: 'Stay here', onPress: () => setAsking(false) },
          { name: gone ? 'Let it go' : 'Load the other', look: 'danger', onPress: leave },
        ]}
      >
        {gone
          ? 'It is in this window alone, and cannot be brought back afterwards.'
          : 'What was done in this window since then is not saved, and cannot be brought back afterwards.'}
      </Ask>
    </Trouble>
  )
}

const isMissing = (error: unknown) => error instanceof SendFailure && error.code === 'missing'

/** A routine as a file, made of what this window has: the server has it no more. */
function fileOf(id: string, routine: Routine, song: SongState, book: MoveBook): RoutineFile {
  const hearing = song.heard?.hearing ?? null
  return {
    ...{ azalea: 'routine', version: ROUTINE_FILE_VERSION, made: new Date().toISOString(), id },
    routine: withoutLearners(routine),
    song: { sha256: song.hash, seconds: hearing?.duration ?? 0 },
    beats: repairedBeats(hearing?.beats ?? [], routine.repairs),
    hearing,
    ...{ sound: '', moves: movesOf(routine, book), recordings: [] },
  }
}
