'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import type { MoveBook } from '@/core/choreo'
import { movesOf, ROUTINE_FILE_VERSION, type RoutineFile, withoutLearners } from '@/core/handout'
import { cutText, NEWER_WORDS, type Routine, repairedBeats } from '@/core/routine'
import { Button } from '../parts/button'
import { Tools } from '../parts/panel'
import { said as saidError } from '../parts/said'
import { fileName, saveFile } from '../parts/save-file'
import { useBook } from '../state/moves-store'
import { outboxWords, SendFailure } from '../state/outbox'
import { outbox, useOutbox } from '../state/outbox-window'
import { type SongState, useSong } from '../state/page'
import { useRoutine, useUndo } from '../state/routine-store'
import { addRoutine, copyRoutine, putRoutine, routineDocument } from '../state/saved'
import { desk } from '../theme/tokens'

const Save = styled.span<{ $bad: boolean }>`
  font-size: 12.5px;
  color: ${(p) => (p.$bad ? desk.danger : desk.quiet)};
  font-weight: ${(p) => (p.$bad ? 650 : 400)};
  max-width: 260px;
`

/** Whether the work is in the database, in words; all of it comes from the outbox. */
export function SaveState() {
  const state = useOutbox((s) => s)
  const pending = useRoutine((s) => s.pending)
  const why = outboxWords(state)
  const newer = useRoutine((s) => s.newer)
  const said = newer ? 'To look at' : why ? 'Not saved' : pending || state.waiting ? 'Saving …' : 'Saved'
  return (
    <Save $bad={why !== ''} role="status" title={why} data-testid="saving">
      {said}
    </Save>
  )
}

const Trouble = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 8px 20px;
  background: ${desk.amberSoft};
  border-bottom: 2px solid ${desk.amber};
`

/** What kept the work from being saved, and what to do. */
export function SaveTrouble({ id }: { id: string }) {
  const state = useOutbox((s) => s)
  const routine = useRoutine((s) => s.routine)
  const song = useSong()
  const book = useBook()
  const [failed, setFailed] = useState('')
  const newer = useRoutine((s) => s.newer)
  const why = outboxWords(state)
  if (newer && !why)
    return (
      <Told role="status" data-testid="newer">
        <span>{NEWER_WORDS}</span>
      </Told>
    )
  if (!why) return null
  const mine = routineDocument(id)
  const refused = state.refused.at(-1)
  const again = () => {
    outbox().giveUp(mine)
    location.reload()
  }
  const keep = async () => {
    try {
      // Where it was taken away elsewhere there is nothing to copy: it becomes a new one on the song.
      const copy = await copyRoutine(id).catch((error: unknown) => {
        if (isMissing(error)) return addRoutine(song.id)
        throw error
      })
      const title = `${cutText(routine.title, 180)} (from this window)`
      await putRoutine(copy, { revision: 0, writer: nanoid(12), save: 1 }, { ...routine, title })
      outbox().giveUp(mine)
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
  return (
    <Trouble role="alert">
      <span>{failed || why}</span>
      <Tools>
        {state.conflicts.has(mine) ? (
          <>
            <Button small onPress={again}>
              Load it again
            </Button>
            <Button
              small
              onPress={keep}
              tip="What is on this page becomes a routine of its own; the other stays"
            >
              Keep mine as a copy
            </Button>
          </>
        ) : refused ? (
          <Button small onPress={() => outbox().dismiss(refused.id)}>
            I have read it
          </Button>
        ) : (
          state.trouble && (
            <Button small onPress={() => outbox().now()}>
              Try now
            </Button>
          )
        )}
      </Tools>
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

const Told = styled(Trouble)`
  background: #fff;
  border-bottom: 2px solid ${desk.azalea};
`

/** What the last edit took away or could not do, where the person looks, with undo beside it. */
export function EditNotice() {
  const notice = useRoutine((s) => s.notice)
  const read = useRoutine((s) => s.read)
  const { undo } = useUndo()
  if (!notice) return null
  return (
    <Told role="alert" data-testid="notice">
      <span>{notice.text}</span>
      <Tools>
        {notice.kind === 'took' && undo && (
          <Button small onPress={undo} hotkey="undo">
            Undo
          </Button>
        )}
        <Button small look="quiet" onPress={read}>
          Close
        </Button>
      </Tools>
    </Told>
  )
}
