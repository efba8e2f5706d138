import { nanoid } from 'nanoid'
import { soundsFor } from '@/audio/practice'
import { SONG_RATE } from '@/audio/song'
import { voiceFile, voiceRoom } from '@/audio/voice-file'
import { type PageStills, type PageVoice, pageWords, practicePage } from '@/core/handout'
import type { Film } from '@/core/routine'
import { stillsOf } from '../../film/stills-of'
import { fetchPracticePage } from '../../state/fetch-made'
import type { Player } from '../../state/player'
import { keepSoundOf } from '../../state/song-sound'
import type { Tell } from '../../state/task'
import type { OutProps } from './props'

/** A page stays below this, so that it goes through a mail or a message. */
const LARGEST = 2_000_000
/** Kept free of voice: what may still be put in. */
const SPARE = 20_000
/** What is counted, also where the voice is in no other words. */
const COUNTED = [...Array.from({ length: 8 }, (_, i) => String(i + 1)), '&', 'e', 'a']

/** What a practice page is put together from. */
export interface PageParts {
  /** The page without its voice and pictures. */
  plain: string
  voice: PageVoice
  stills: PageStills | null
  /** Words there was no room for. */
  left: readonly string[]
}

/** Works out what a practice page is put together from, in the browser: its voice and its pictures are nowhere else. */
export async function pageParts(
  { id, page, routine, book, contents }: OutProps,
  { player, songId, film }: { player: Player; songId: string; film: Film | null },
  tell: Tell,
  signal: AbortSignal,
): Promise<PageParts> {
  const step = (what: string, from: number, to: number) => (share: number) =>
    tell(from + (to - from) * share, what)
  step('Listening to the song', 0, 0.5)(0)
  await keepSoundOf(songId, () => player.audio(), step('Listening to the song', 0, 0.5), signal)
  const plain = await fetchPracticePage(id, contents, signal)
  const stills = film && (await stillsOf(film, page.times, contents.stretch, () => {}, signal))
  const made = practicePage(id, routine, page.times, book, contents, '', nanoid)
  const context = new OfflineAudioContext(1, 1, SONG_RATE)
  const {
    voice: known,
    own,
    recordings,
  } = await soundsFor(
    context,
    { words: pageWords(made), recordings: made.routine.voices.map((x) => x.recording) },
    await player.voices(),
    step('Getting the words', 0.5, 0.9),
    signal,
  )
  const longest = Math.max(8, ...page.placed.map((p) => p.phrase.length))
  const counted = [...COUNTED, ...Array.from({ length: longest }, (_, i) => String(i + 1))]
  const wanted = new Set([...counted, ...pageWords(made)])
  const calls = new Map(
    [...wanted].flatMap((w) => {
      const spoken = own?.get(w) ?? known.get(w)
      return spoken ? [[w, spoken] as const] : []
    }),
  )
  step('Putting the page together', 0.9, 1)(0)
  const used = new TextEncoder().encode(plain).length + (stills ? JSON.stringify(stills).length : 0)
  const { voice, left } = await voiceFile({ calls, recordings }, voiceRoom(LARGEST - SPARE - used))
  signal.throwIfAborted()
  return { plain, voice, stills, left }
}

/** What is told of words there was no room for; '' where all are in it. */
export const leftSaid = ({ left }: PageParts): string =>
  left.length ? ` So that it stays below 2 MB, these are not spoken in it: ${left.join(', ')}.` : ''
