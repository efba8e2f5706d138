'use client'

import { useRef, useState } from 'react'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { Progress } from '../../parts/progress'
import { said } from '../../parts/said'
import { useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { keepSoundOf } from '../../state/song-sound'
import { Tick } from './contents-part'
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
  const [share, setShare] = useState<number | null>(null)
  const [told, setTold] = useState('')
  const stop = useRef<AbortController | null>(null)
  const saving = useUnsaved()
  const query = [song && 'song', lessons && 'lessons'].filter(Boolean).join('&')
  const save = async () => {
    const mine = new AbortController()
    stop.current = mine
    setTold('')
    setShare(0)
    try {
      // How the song sounds goes with it, so that another copy of it is known where it is opened; worked out once.
      await keepSoundOf(songOf.id, () => player.audio(), setShare, mine.signal)
    } catch (error) {
      if (error instanceof DOMException && error.name === 'AbortError') return setShare(null)
      setTold(`It is saved without how the song sounds: ${said(error)}`)
    }
    setShare(null)
    follow(`/api/routines/${id}/file${query ? `?${query}` : ''}`)
  }
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
      {song ? (
        <p role="status">The song belongs to its owners: passing it on can need a licence.</p>
      ) : (
        <p>Whoever opens it chooses their own copy of the song: it is known by its sound.</p>
      )}
      <Unsaved />
      {told && <p role="alert">{told}</p>}
      <Tools>
        {share === null ? (
          <Button look="strong" onPress={save} isDisabled={saving}>
            Save the routine
          </Button>
        ) : (
          <>
            <div style={{ flex: 1 }}>
              <Progress label="Listening to the song" share={share} />
            </div>
            <Button onPress={() => stop.current?.abort()}>Cancel</Button>
          </>
        )}
      </Tools>
    </Part>
  )
}
