'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { Part } from '../../parts/panel'
import { useOutbox } from '../../state/outbox-window'
import { desk } from '../../theme/tokens'
import { Tick } from './contents-part'
import type { OutProps } from './props'

const Link = styled.a`
  display: inline-flex;
  align-items: center;
  min-height: 40px;
  padding: 0 16px;
  border-radius: 10px;
  background: ${desk.azalea};
  color: #fff;
  font-weight: 600;
  text-decoration: none;
  justify-self: start;
`

/** The routine to be taken along: opened on another machine, or kept safe. */
export function RoutineOut({ id, routine }: OutProps) {
  const [song, setSong] = useState(false)
  const [lessons, setLessons] = useState(true)
  const waiting = useOutbox((s) => s.waiting > 0)
  const query = [song && 'song', lessons && 'lessons'].filter(Boolean).join('&')
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
      {song && <p role="status">The song belongs to its owners: passing it on can need a licence.</p>}
      {!song && <p>Whoever opens it needs the same song: it is known by its very file.</p>}
      {waiting && (
        <p role="status">What you did last is still being saved; it is in the file a moment later.</p>
      )}
      <Link href={`/api/routines/${id}/file${query ? `?${query}` : ''}`} download>
        Save the routine
      </Link>
    </Part>
  )
}
