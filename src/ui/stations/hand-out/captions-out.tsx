'use client'

import { useMemo, useState } from 'react'
import { captionsOnFilm } from '@/core/film'
import { FORMATS } from '@/core/formats'
import { CAPTIONS, type CaptionKind, captionsOf } from '@/core/handout'
import { FASTEST, SLOWEST } from '@/core/time'
import { Button } from '../../parts/button'
import { Pick, Slide } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { contentOf } from '../../state/printed'
import { desk } from '../../theme/tokens'
import { FilmTimesSaid, TimesOf, useFilmTimes } from './film-times'
import type { OutProps } from './props'
import { Plain } from './text-out'

const NAMES: Record<CaptionKind, string> = {
  counts: 'counts and calls',
  cues: 'the moves',
  lyric: 'the words sung',
  chapters: 'chapters',
}
const ON = [
  { id: 'song', name: 'the song' },
  { id: 'drill', name: 'a drill of it' },
] as const
const SHOWN = 60

/** Captions for a player: of the song, or of the stretch as it is drilled at a speed. */
export function CaptionsOut({ id, page, routine, contents }: OutProps) {
  const [kind, setKind] = useState<CaptionKind>('counts')
  const [on, setOn] = useState<'song' | 'drill'>('song')
  const [speed, setSpeed] = useState(0.75)
  const films = routine.films.filter((f) => f.takes.length > 0)
  const [chosen, setChosen] = useState('')
  const film = on === 'song' ? (films.find((f) => f.id === chosen) ?? null) : null
  const own = useFilmTimes(id, film, page)
  const list = useMemo(() => {
    const time = on === 'song' ? { speed: 1, lead: null } : { speed, lead: 0 }
    // Chapters of a film are its own.
    if (film && own && kind === 'chapters')
      return own.stamps.map(({ at, name }, i) => ({
        ...{ start: at, text: name },
        end: own.stamps[i + 1]?.at ?? film.seconds,
      }))
    const song = captionsOf(routine, page.times, contents, kind, time)
    return film ? captionsOnFilm(song, film) : song
  }, [routine, page, contents, kind, on, speed, film, own])
  const formats = kind === 'lyric' ? [FORMATS.vtt, FORMATS.srt, FORMATS.lrc] : [FORMATS.vtt, FORMATS.srt]
  const content = contentOf(routine, page)
  const textOf = (f: (typeof formats)[number]) => f.print({ ...content, words: list })
  return (
    <>
      <Pick
        label="What is shown"
        value={kind}
        options={CAPTIONS.map((id) => ({ id, name: NAMES[id] }))}
        onChange={setKind}
      />
      <Pick label="Over" value={on} options={ON} onChange={setOn} />
      {on === 'song' && (
        <div style={{ maxWidth: 360 }}>
          <TimesOf films={films} chosen={film?.id ?? ''} onChoose={setChosen} />
        </div>
      )}
      {film && own && kind === 'chapters' && <FilmTimesSaid film={film} page={page} by={own.by} />}
      {on === 'drill' && (
        <Slide
          label="Speed"
          name="Speed of the drill"
          value={speed}
          min={SLOWEST}
          max={FASTEST}
          step={0.05}
          onChange={setSpeed}
          text={(x) => `${Math.round(x * 100)} %`}
        />
      )}
      {list.length === 0 ? (
        <p role="status" style={{ color: desk.quiet }}>
          {kind === 'lyric'
            ? 'No words are written in these counts: they are put on Count, Words and sounds.'
            : 'There is nothing to show in these counts.'}
        </p>
      ) : (
        <>
          <Tools>
            {formats.map((f, i) => (
              <Button
                key={f.id}
                look={i === 0 ? 'strong' : 'plain'}
                onPress={() =>
                  saveFile(`${fileName(routine.title)} ${kind}.${f.endings[0]}`, textOf(f), f.type)
                }
              >
                Save as {f.name}
              </Button>
            ))}
          </Tools>
          <Plain data-testid="captions" style={{ fontVariantNumeric: 'tabular-nums' }}>
            {FORMATS.vtt.print({ ...content, words: list.slice(0, SHOWN) })}
            {list.length > SHOWN && `… and ${list.length - SHOWN} more.`}
          </Plain>
        </>
      )}
    </>
  )
}
