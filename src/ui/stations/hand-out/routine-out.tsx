'use client'

import { useState } from 'react'
import { said } from '@/core/formats/said'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { Tick } from '../../parts/tick'
import { useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { keepSoundOf } from '../../state/song-sound'
import { useTask } from '../../state/task'
import { Made, Making } from './making'
import type { OutProps } from './props'
import { Unsaved, useUnsaved } from './unsaved'

/** Follows an address that saves a file. */
function follow(address: string) {
  const link = document.createElement('a')
  link.href = address
  link.download = ''
  link.click()
}

/** The routine to be taken along: opened on another machine, or kept safe. */
export function RoutineOut({ id, routine }: OutProps) {
  const player = usePlayer()
  const songOf = useSong()
  const [song, setSong] = useState(false)
  const [lessons, setLessons] = useState(true)
  const [films, setFilms] = useState(false)
  const { task, state } = useTask()
  const saving = useUnsaved()
  const query = [song && 'song', lessons && 'lessons', song && films && 'films'].filter(Boolean).join('&')
  const save = () =>
    task.begin('Listening to the song', async (tell, signal) => {
      tell(0)
      let told = ''
      try {
        // How the song sounds goes with it, so that another copy of it is known where it is opened; worked out once.
        await keepSoundOf(songOf.id, () => player.audio(), tell, signal)
      } catch (error) {
        signal.throwIfAborted()
        told = `It is saved without how the song sounds: ${said(error)}`
      }
      follow(`/api/routines/${id}/file${query ? `?${query}` : ''}`)
      return told
    })
  return (
    <Part style={{ maxWidth: 560 }}>
      <h2>“{routine.title}” to take along</h2>
      <p>
        Counts, sections, cues, repeats, versions, the moves it uses and your recorded calls. The log stays
        here. It is opened by dropping it on the shelf of any Azalea.
      </p>
      <Tick isSelected={lessons} onChange={setLessons}>
        With its lessons and courses (they name your classes)
      </Tick>
      <Tick isSelected={song} onChange={setSong}>
        With the song itself, as one zip
      </Tick>
      {song && routine.films.length > 0 && (
        <Tick isSelected={films} onChange={setFilms}>
          With its films (they show people: ask them first)
        </Tick>
      )}
      {song ? (
        <p role="status">The song belongs to its owners: passing it on can need a licence.</p>
      ) : (
        <p>Whoever opens it chooses their own copy of the song: it is known by its sound.</p>
      )}
      <Unsaved />
      <Made state={state} />
      <Tools>
        <Making task={task} state={state}>
          <Button look="strong" onPress={save} isDisabled={saving}>
            Save the routine
          </Button>
        </Making>
      </Tools>
    </Part>
  )
}
