'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import { said as saidError } from '@/core/formats/said'
import { cutText, type Follows } from '@/core/routine'
import { Trouble } from '../parts/bar'
import { Button } from '../parts/button'
import { Ask } from '../parts/confirm'
import { Tools } from '../parts/panel'
import { useBook } from '../state/moves-store'
import { type Conflict, SendFailure } from '../state/outbox-state'
import { outbox } from '../state/outbox-window'
import { useSong } from '../state/page'
import { routineIn } from '../state/routine-saves'
import { useRoutine, useRoutineStore, useStandsOn } from '../state/routine-store'
import { addRoutine, copyRoutine, putRoutine, routineDocument } from '../state/saved'
import { BothChanged } from './both-changed'
import { saveRoutineHere } from './unsaved-file'

const LEFT =
  'A window that was closed had not saved everything, and this routine was changed since. What it had is kept here.'

/** What the person is told, and may do. */
const wordsOf = (mine: boolean, { gone, why }: Conflict) => {
  if (!mine)
    return {
      ...{ why: LEFT, leave: 'Let it go', keep: 'Keep it as a copy', title: 'Let go of what was left?' },
      tip: 'What was left becomes a routine of its own; the one on this page stays',
      lost: 'It was not saved, and cannot be brought back afterwards.',
    }
  if (gone)
    return {
      why: `${why} It was taken away in another window; what you see is in this one alone.`,
      ...{ leave: 'Let it go', keep: 'Keep mine as a new one', title: 'Let this routine go?' },
      tip: 'What is on this page becomes a routine of its own',
      lost: 'It is in this window alone, and cannot be brought back afterwards.',
    }
  return {
    why,
    ...{ leave: 'Load the other', keep: 'Keep mine as a copy', title: 'Load what the other window saved?' },
    tip: 'What is on this page becomes a routine of its own; the other stays',
    lost: 'What was done in this window since then is not saved, and cannot be brought back afterwards.',
  }
}

/** A routine that was changed or taken away elsewhere while this window, or one that is gone, worked on it: that work is not saved until the person chose. */
export function Elsewhere({ id, conflict }: { id: string; conflict: Conflict }) {
  const document = routineDocument(id)
  const here = useRoutine((s) => s.routine)
  const mine = useStandsOn(conflict.writer)
  const song = useSong()
  const book = useBook()
  const [failed, setFailed] = useState('')
  const [asking, setAsking] = useState(false)
  const left = mine ? null : outbox().newestOf(document, conflict.writer)
  const routine = (left && routineIn(left.body)) ?? here
  const words = wordsOf(mine, conflict)
  const clashes = useRoutine((s) => s.clashes)
  const { saves } = useRoutineStore()
  const both = mine && !conflict.gone && clashes.length > 0
  const follow = async (who: Follows) => setFailed(await saves.bringTogether(who))
  const asFile = () => saveRoutineHere(routine, { id, song, book })
  const keep = async () => {
    try {
      // Where it was taken away elsewhere there is nothing to copy: it becomes a new one on the song.
      const copy = await copyRoutine(id).catch((error: unknown) => {
        if (isMissing(error)) return addRoutine(song.id)
        throw error
      })
      const title = `${cutText(routine.title, 180)} (from ${mine ? 'this' : 'a closed'} window)`
      await putRoutine(copy, { revision: 0, writer: nanoid(12), save: 1 }, { ...routine, title })
      outbox().giveUp(document)
      location.assign(`/r/${copy}/cue`)
    } catch (error) {
      if (!isMissing(error)) return setFailed(saidError(error))
      asFile()
      setFailed(
        'Its song was taken away too. The routine is saved as a file: drop the song on the shelf, then this file.',
      )
    }
  }
  const leave = () => {
    outbox().giveUp(document)
    setAsking(false)
    if (mine && conflict.gone) location.assign('/')
    else if (mine) location.reload()
  }
  return (
    <Trouble role="alert">
      <span>
        {failed ||
          (both
            ? 'The same was changed elsewhere, and otherwise. All else of both is brought together once you choose:'
            : words.why)}
        {both && <BothChanged clashes={clashes} />}
      </span>
      <Tools>
        {both && (
          <>
            <Button small look="strong" onPress={() => follow('mine')}>
              As I have it
            </Button>
            <Button small onPress={() => follow('theirs')} tip="Undo brings back what you have">
              As they have it
            </Button>
          </>
        )}
        {!both && (
          <Button small onPress={() => setAsking(true)}>
            {words.leave}
          </Button>
        )}
        <Button small onPress={asFile} tip="To be dropped on a shelf, here or elsewhere">
          Save as a file
        </Button>
        <Button small onPress={keep} tip={words.tip}>
          {words.keep}
        </Button>
      </Tools>
      <Ask
        isOpen={asking}
        title={words.title}
        onClose={() => setAsking(false)}
        actions={[
          { name: 'Stay here', onPress: () => setAsking(false) },
          { name: words.leave, look: 'danger', onPress: leave },
        ]}
      >
        {words.lost}
      </Ask>
    </Trouble>
  )
}

const isMissing = (error: unknown) => error instanceof SendFailure && error.code === 'missing'
