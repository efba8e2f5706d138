import { common, holds, type Stretch, type Ticks, without } from '../../time'
import { LIMITS } from '../document/limits'
import type { Routine } from '../document/schema'
import type { Voice, VoicePiece } from '../document/voice-schema'
import { circleIn } from '../repeats/repeat-ways'
import type { NewId } from './phrase-edits'

/** A voice without a stretch: none, one or two of them, each with its pieces. */
function cutVoice(voice: Voice, taken: Stretch, newId: NewId): Voice[] {
  return without(voice.stretch, taken).flatMap((stretch, i) => {
    const pieces = voice.pieces.filter((p) => holds(stretch, p.at))
    return pieces.length ? [{ ...voice, id: i === 0 ? voice.id : newId(), stretch, pieces }] : []
  })
}

/** Keeps a recording; what was recorded of its counts before gives way to it. */
export const keepVoice = (routine: Routine, voice: Voice, newId: NewId): Routine => ({
  ...routine,
  voices: [
    ...routine.voices
      .filter((x) => x.id !== voice.id)
      .flatMap((x) => (common(x.stretch, voice.stretch) ? cutVoice(x, voice.stretch, newId) : [x])),
    voice,
  ].sort((a, b) => a.stretch.from - b.stretch.from),
})

/** Takes a recording out of the dance. */
export const removeVoice = (routine: Routine, id: string): Routine => ({
  ...routine,
  voices: routine.voices.filter((x) => x.id !== id),
})

/** Moves all pieces of a recording against the counts, or says whether they sound exactly where they were said. */
export const changeVoice = (
  routine: Routine,
  id: string,
  { later = 0, exact }: { later?: Ticks; exact?: boolean },
): Routine => ({
  ...routine,
  voices: routine.voices.map((x) =>
    x.id === id
      ? {
          ...x,
          exact: exact ?? x.exact,
          pieces: x.pieces.map((p) => ({
            ...p,
            at: Math.max(LIMITS.place.min, Math.min(LIMITS.place.max, p.at + later)),
          })),
        }
      : x,
  ),
})

/** A recording over counts where it is called: its own, or those danced as in its own. */
export interface CalledVoice {
  recording: string
  exact: boolean
  stretch: Stretch
  pieces: readonly VoicePiece[]
}

/**
 * What is called in the instructor's own voice, also where the same is danced again: to the same side, and without a
 * difference written in.
 */
export function calledVoices(routine: Pick<Routine, 'voices' | 'repeats' | 'cues'>): CalledVoice[] {
  const repeats = circleIn(routine.repeats) === null ? routine.repeats : []
  const plain = repeats.filter((r) => !r.mirrored && !routine.cues.some((c) => holds(r.to, c.at)))
  const within = (s: Stretch): CalledVoice[] => {
    const own = routine.voices.flatMap((x): CalledVoice[] => {
      const stretch = common(x.stretch, s)
      // What is said just before the first count belongs to it.
      const pieces = stretch
        ? x.pieces.filter(
            (p) => p.at < stretch.to && (p.at >= stretch.from || stretch.from === x.stretch.from),
          )
        : []
      return stretch ? [{ recording: x.recording, exact: x.exact, stretch, pieces }] : []
    })
    const brought = plain.flatMap((r) => {
      const piece = common(r.to, s)
      if (!piece || own.some((o) => common(o.stretch, piece))) return []
      const away = r.from - r.to.from
      return within({ from: piece.from + away, to: piece.to + away }).map((b) => ({
        ...b,
        stretch: { from: b.stretch.from - away, to: b.stretch.to - away },
        pieces: b.pieces.map((p) => ({ ...p, at: p.at - away })),
      }))
    })
    return [...own, ...brought]
  }
  return routine.voices.length ? within({ from: LIMITS.place.min, to: LIMITS.place.max }) : []
}
