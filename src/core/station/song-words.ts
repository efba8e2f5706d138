import { addMarks, type Edit, type NewId, writeLyrics } from '../routine'
import type { Seconds } from '../time'

/*
 * Tapping the words of a song in as a machine: one tap a line while it plays, kept in one step however it is left.
 */

export interface SongWordsState {
  /** The lines to be tapped in. */
  lines: readonly string[]
  /** When each of the first lines begins, seconds of the song. */
  tapped: readonly Seconds[]
  /** Kept, or left: nothing more is taken. */
  over: boolean
}

/** The lines of a text that hold words. */
export const linesIn = (text: string): readonly string[] =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)

export const songWordsAtFirst = (text: string): SongWordsState => ({
  lines: linesIn(text),
  tapped: [],
  over: false,
})

export type SongWordsEvent =
  /** @param at seconds of the song; null where it does not play */
  | { kind: 'tap'; at: Seconds | null }
  /** A key that taps, or Escape. @param repeat it is held down */
  | { kind: 'key'; key: 'tap' | 'Escape'; repeat: boolean; at: Seconds | null }
  /** Takes the last tap back. */
  | { kind: 'back' }
  /** Keeps what was tapped and ends; also when the page is left. */
  | { kind: 'leave' }

export type SongWordsEffect =
  | { kind: 'stop' }
  | { kind: 'edit'; did: string; change: Edit }
  | { kind: 'close' }

interface SongWordsStepped {
  state: SongWordsState
  effects: readonly SongWordsEffect[]
}

/** The line that is tapped next; null after the last. */
export const nextLine = ({ lines, tapped }: SongWordsState): string | null => lines[tapped.length] ?? null

/** Marks for the lines that were tapped; the others stay to be tapped in. */
const wordsKept =
  ({ lines, tapped }: SongWordsState, newId: NewId): Edit =>
  (r) =>
    writeLyrics(
      addMarks(
        r,
        tapped.map((at, i) => ({ kind: 'lyric' as const, at, end: null, text: lines[i] as string })),
        newId,
      ),
      lines.slice(tapped.length).join('\n'),
    )

/** The next state, and what is to be done. */
export function stepSongWords(state: SongWordsState, event: SongWordsEvent, newId: NewId): SongWordsStepped {
  const stays: SongWordsStepped = { state, effects: [] }
  if (state.over) return stays
  switch (event.kind) {
    case 'tap':
      if (event.at === null || nextLine(state) === null) return stays
      return { state: { ...state, tapped: [...state.tapped, event.at] }, effects: [] }
    case 'key':
      if (event.key === 'Escape') return stepSongWords(state, { kind: 'leave' }, newId)
      return event.repeat ? stays : stepSongWords(state, { kind: 'tap', at: event.at }, newId)
    case 'back':
      return { state: { ...state, tapped: state.tapped.slice(0, -1) }, effects: [] }
    case 'leave': {
      const n = state.tapped.length
      const did = `tap in ${n === 1 ? 'one line' : `${n} lines`}`
      return {
        state: { ...state, over: true },
        effects: [
          { kind: 'stop' },
          ...(n ? [{ kind: 'edit' as const, did, change: wordsKept(state, newId) }] : []),
          { kind: 'close' },
        ],
      }
    }
  }
}
