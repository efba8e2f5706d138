import { decodeSong } from '@/audio/song'
import { bytesOf } from '@/core/formats/base64'
import { readRoutineFile } from '@/core/handout'
import { hearingBody } from '../../state/api'
import { hearSong } from '../../state/hear'
import { matchSong } from '../../state/match'
import { putHearing, removeRoutine } from '../../state/saved'
import { openRoutineFile, uploadSong } from '../../state/send-file'

/**
 * Opens a routine on another copy of its song: the copy is listened to here, and taken in only where the song plays in it.
 * @param told begins a piece of work, and gives what tells how far it is
 * @throws Error in words for people; DOMException where it was stopped
 */
export async function openOnCopy(
  file: File,
  copy: File,
  as: string | null,
  told: (what: string) => (share: number) => void,
  signal: AbortSignal,
): Promise<{ id: string; said: readonly string[] }> {
  const { sound } = readRoutineFile(await file.text())
  if (!sound)
    throw new Error(
      'This file does not say how its song sounds: it needs the very file it was made on, dropped first.',
    )
  const listening = told(`Looking for the song in ${copy.name}`)
  listening(0)
  const audio = await decodeSong(await copy.arrayBuffer())
  const { takes } = await matchSong(audio, bytesOf(sound), listening, signal)
  if (!takes.length)
    throw new Error(`“${copy.name}” is another song: the one it was made on does not play in it.`)
  const taken = await uploadSong(copy, told(`Taking in ${copy.name}`), signal)
  const [begun] = taken.routines
  try {
    if (taken.fresh) {
      const heard = await hearSong(audio, told(`Listening to ${copy.name}`), signal)
      await putHearing(taken.songId, hearingBody(heard))
    }
    const on = { song: taken.songId, takes }
    return await openRoutineFile(file, as, on, told('Laying the dance on it'), signal)
  } finally {
    // What was begun on the song only because it was taken in.
    if (taken.fresh && begun) await removeRoutine(begun.id).catch(() => {})
  }
}
