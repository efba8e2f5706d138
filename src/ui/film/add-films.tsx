'use client'

import { X } from 'lucide-react'
import type { ReactNode } from 'react'
import { DropZone, type FileDropItem, FileTrigger } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from '../parts/button'
import { Progress } from '../parts/progress'
import { useFilms, useFilmsState } from '../state/films'
import { desk } from '../theme/tokens'

const Zone = styled(DropZone)`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 9px;
  border-radius: 12px;
  outline-offset: 4px;
  &[data-drop-target] { outline: 2.5px dashed ${desk.azalea}; }
`

const Task = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 8px;
  align-items: start;
  font-size: 13.5px;
  strong { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  > :not(strong, button) { grid-column: 1 / -1; }
`

const ENDINGS = ['video/*', '.mp4', '.mov', '.m4v', '.webm', '.mkv']

/** Whatever is in it, films may be dropped onto it. */
export function FilmZone({ children }: { children: ReactNode }) {
  const films = useFilms()
  return (
    <Zone
      aria-label="Drop films here"
      getDropOperation={() => 'copy'}
      onDrop={async (e) => {
        const items = e.items.filter((i): i is FileDropItem => i.kind === 'file')
        films.add(await Promise.all(items.map((i) => i.getFile())))
      }}
    >
      {children}
    </Zone>
  )
}

/** Chooses films to be added. */
export function AddFilms({ strong = false }: { strong?: boolean }) {
  const films = useFilms()
  return (
    <FileTrigger allowsMultiple acceptedFileTypes={ENDINGS} onSelect={(list) => list && films.add([...list])}>
      <Button small look={strong ? 'strong' : 'plain'}>
        Add a film
      </Button>
    </FileTrigger>
  )
}

/** Films on their way, how far they are, and what did not work. */
export function FilmTasks() {
  const films = useFilms()
  const tasks = useFilmsState((s) => s.tasks)
  if (!tasks.length) return null
  return (
    <ul style={{ listStyle: 'none', margin: 0, padding: 0, display: 'grid', gap: 10 }}>
      {tasks.map((t) => (
        <Task key={t.id}>
          <strong title={t.name}>{t.name}</strong>
          <Button
            small
            look="quiet"
            aria-label={t.problem ? `Put away what was said of ${t.name}` : `Stop: ${t.name}`}
            onPress={() => films.stop(t.id)}
          >
            <X size={15} />
          </Button>
          {t.problem ? (
            <span role="alert">{t.problem}</span>
          ) : t.share === null ? (
            <span role="status">{t.doing} …</span>
          ) : (
            <Progress label={t.doing} share={t.share} />
          )}
        </Task>
      ))}
    </ul>
  )
}
