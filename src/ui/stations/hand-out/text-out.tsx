'use client'

import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { pasteText, USUAL_PASTE } from '@/core/handout'
import { Button } from '../../parts/button'
import { Slide } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { Tick } from '../../parts/tick'
import { desk } from '../../theme/tokens'
import { FilmTimesSaid, TimesOf, useFilmTimes } from './film-times'
import type { OutProps } from './props'

export const Plain = styled.pre`
  margin: 0;
  padding: 18px 20px;
  border: 1px solid ${desk.line};
  border-radius: 12px;
  background: ${desk.card};
  font-family: inherit;
  font-size: 15px;
  line-height: 1.55;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  max-width: 640px;
`

/** A film that speaks longer before its song is rare. */
const MOST_BEFORE = 180

/** Copies a text; where the browser forbids it, it is said. */
export function useCopied(): [string, (text: string) => void] {
  const [told, setTold] = useState('')
  const copy = (text: string) => {
    const failed = () => setTold('This browser does not let it be copied: mark the text and copy it by hand.')
    if (!navigator.clipboard) return failed()
    navigator.clipboard.writeText(text).then(() => setTold('Copied.'), failed)
  }
  return [told, copy]
}

/** The text under a film, or in a message. */
export function TextOut({ id, page, routine, book, contents }: OutProps) {
  const [wish, setWish] = useState(USUAL_PASTE)
  const films = routine.films.filter((f) => f.takes.length > 0)
  const [chosen, setChosen] = useState('')
  const film = films.find((f) => f.id === chosen) ?? null
  const own = useFilmTimes(id, film, page)
  const text = useMemo(
    () => pasteText(routine, page.times, book, contents, { ...wish, stamps: own?.lines ?? null }),
    [routine, page, book, contents, wish, own],
  )
  const [told, copy] = useCopied()
  const missing = [
    !routine.credit && 'whose song it is (beside the title)',
    !routine.gear && 'what is needed (Teach, What it asks)',
  ].filter(Boolean)
  return (
    <>
      <Tools>
        <Button look="strong" onPress={() => copy(text)}>
          Copy the text
        </Button>
        <Button onPress={() => saveFile(`${fileName(routine.title)}.txt`, text, 'text/plain')}>
          Save as text
        </Button>
        {told && <span role="status">{told}</span>}
      </Tools>
      <div style={{ display: 'grid', gap: 10, maxWidth: 360 }}>
        <Tick isSelected={wish.moves} onChange={(moves) => setWish({ ...wish, moves })}>
          With the moves of every phrase
        </Tick>
        <TimesOf films={films} chosen={film?.id ?? ''} onChoose={setChosen} />
        {!film && (
          <Slide
            label="The film begins before the song by"
            name="The film begins before the song by"
            value={wish.before}
            min={0}
            max={MOST_BEFORE}
            step={1}
            onChange={(before) => setWish({ ...wish, before })}
            text={(s) => (s ? `${s} s` : 'nothing')}
          />
        )}
      </div>
      {film && own && <FilmTimesSaid film={film} page={page} by={own.by} />}
      <Plain data-testid="paste">{text}</Plain>
      {missing.length > 0 && (
        <p style={{ color: desk.quiet, fontSize: 14 }}>
          Not said, because it is not written: {missing.join('; ')}.
        </p>
      )}
    </>
  )
}
