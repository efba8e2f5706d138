'use client'

import { useState } from 'react'
import type { Film } from '@/core/routine'
import { filmTitle } from '../../film/film-title'
import { Choice } from '../../parts/choice'

/** Which film the pictures of a hand-out come from; null for none, as it is until somebody chooses. */
export function usePictures(films: readonly Film[]) {
  const taken = films.filter((f) => f.takes.length > 0)
  const [chosen, choose] = useState('')
  const film = taken.find((f) => f.id === chosen) ?? null
  return { film, films: taken, choose }
}

/** Chooses the film; nothing where there is none. */
export function PicturesChoice({ film, films, choose }: ReturnType<typeof usePictures>) {
  if (!films.length) return null
  return (
    <div style={{ maxWidth: 360, display: 'grid', gap: 6 }}>
      <Choice
        label="Pictures of the counts"
        value={film?.id ?? ''}
        options={[
          { id: '', name: 'none' },
          ...films.map((f) => ({ id: f.id, name: `from ${filmTitle(f)}` })),
        ]}
        onChange={choose}
      />
      {film && <p role="status">They show people: ask them before it leaves your hands.</p>}
    </div>
  )
}
