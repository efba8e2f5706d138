'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import styled from 'styled-components'
import { placeInFilm } from '@/core/film'
import { type Film, type FilmNote, LIMITS, phraseAt, tickName, writeFilmNote } from '@/core/routine'
import { timeOfTick } from '@/core/time'
import { Button } from '../parts/button'
import { Text } from '../parts/field'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'
import { filmTitle } from './film-title'
import { useStill } from './stills-strip'

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
  gap: 8px;
  li { display: grid; grid-template-columns: 96px minmax(0, 1fr) auto; gap: 10px; align-items: center; font-size: 14px; overflow-wrap: anywhere; }
  img { width: 96px; border-radius: 7px; background: #000; display: block; }
  img[data-turned] { transform: scaleX(-1); }
  span { color: ${desk.quiet}; font-size: 13px; }
`

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: end;
`

/** What is said of counts, each with the picture it was said of. */
export function CompareNotes({ page, one, other }: { page: Page; one: Film; other: Film }) {
  const edit = useRoutine((s) => s.edit)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const [text, setText] = useState('')
  const here = phraseAt(page.placed, tick)
  // What is said is said of who learns.
  const about = one.whose && !other.whose ? one : other
  const at = page.times.length > 1 ? placeInFilm(about, timeOfTick(page.times, tick)) : null
  const keep = () => {
    if (!at || !text.trim()) return
    const note: FilmNote = { id: nanoid(), at: tick, seconds: at.at, text: text.trim() }
    if (edit('note on a film', (r) => writeFilmNote(r, about.id, note))) setText('')
  }
  const notes = [one, other].flatMap((film) => film.notes.map((note) => ({ film, note })))
  return (
    <>
      {here && at && (
        <Line>
          <Text
            label={`${about.whose ? `What to say to ${about.whose}` : `What to say of ${about.name}`} on ${tickName(page.placed, tick)}`}
            value={text}
            onChange={setText}
            onEnter={keep}
            most={LIMITS.note}
          />
          <Button onPress={keep} isDisabled={!text.trim()}>
            Note it
          </Button>
        </Line>
      )}
      {notes.length > 0 && (
        <List aria-label="Notes on counts">
          {notes
            .sort((a, b) => a.note.at - b.note.at)
            .map(({ film, note }) => (
              <li key={note.id}>
                <NotePicture film={film} note={note} />
                <div>
                  <span>
                    {tickName(page.placed, note.at)} · {filmTitle(film)}
                  </span>
                  <br />
                  {note.text}
                </div>
                <div>
                  <Button small look="quiet" onPress={() => to(note.at)}>
                    Look
                  </Button>
                  <Button
                    small
                    look="quiet"
                    aria-label={`Take the note on ${tickName(page.placed, note.at)} out`}
                    onPress={() =>
                      edit('take a note out', (r) => writeFilmNote(r, film.id, { ...note, text: '' }))
                    }
                  >
                    Out
                  </Button>
                </div>
              </li>
            ))}
        </List>
      )}
    </>
  )
}

function NotePicture({ film, note }: { film: Film; note: FilmNote }) {
  const picture = useStill(film.file, note.seconds)
  // biome-ignore lint/performance/noImgElement: it is made here, out of a film
  return picture ? <img src={picture} alt="" data-turned={film.mirrored || undefined} /> : <i />
}
