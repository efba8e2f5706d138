import * as v from 'valibot'
import type { MoveBook } from '@/core/choreo'
import { bytesOf } from '@/core/formats/base64'
import { movesOf, ROUTINE_FILE_VERSION, type RoutineFile, withoutLearners } from '@/core/handout'
import { type Routine, repairedBeats } from '@/core/routine'
import { fileName, saveFile } from '../parts/save-file'
import { bodyOf, type Entry } from '../state/entry'
import type { SongState } from '../state/page'

/** What belongs to an open routine beside its document. */
export interface Belongings {
  id: string
  song: SongState
  book: MoveBook
}

/** Saves a routine as a file, made of what this window has. */
export function saveRoutineHere(routine: Routine, { id, song, book }: Belongings): void {
  const hearing = song.heard?.hearing ?? null
  const file: RoutineFile = {
    ...{ azalea: 'routine', version: ROUTINE_FILE_VERSION, made: new Date().toISOString(), id },
    routine: withoutLearners(routine),
    song: { sha256: song.hash, seconds: hearing?.duration ?? 0 },
    beats: repairedBeats(hearing?.beats ?? [], routine.repairs),
    hearing,
    ...{ sound: '', moves: movesOf(routine, book), recordings: [], films: [] },
  }
  saveFile(`${fileName(routine.title)}.azalea.json`, JSON.stringify(file), 'application/json')
}

const Recorded = v.pipe(v.string(), v.parseJson(), v.object({ wav: v.string() }))

/** Saves something else that cannot be saved to the server: a recording as sound, the rest as what was sent. */
export function saveEntry(entry: Entry): void {
  const recorded = v.safeParse(Recorded, entry.body)
  if (recorded.success) saveFile(`Azalea, ${entry.what}.wav`, bytesOf(recorded.output.wav), 'audio/wav')
  else saveFile(`Azalea, ${entry.what}.json`, bodyOf(entry), 'application/json')
}
