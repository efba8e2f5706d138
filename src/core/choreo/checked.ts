import {
  type Cue,
  type DancedCue,
  type FindingAbout,
  type FindingKind,
  findingKey,
  labelIn,
  type PlacedPhrase,
  phraseAt,
  placeName,
  placePhrases,
  putCue,
  type Routine,
} from '../routine'
import { oneLine } from '../routine/document/text-schema'
import type { Ticks, Times } from '../time'
import { type LeastGap, leastGapOf } from './least-gap'
import type { MoveBook } from './moves'

/** Something to look at in a choreography. */
export interface Finding {
  /** Stays the same as long as its cues do: a finding let stand comes back when they change. */
  about: FindingAbout
  kind: FindingKind
  /** Where to go. */
  at: Ticks
  layer: Cue['layer']
  /** What is wrong and on which counts. */
  says: string
  why: string
  /** A change that mends it, where there is one. */
  mend: { name: string; change: (routine: Routine) => Routine } | null
}

/** A routine that is checked: what all checks look at, and how they say where something is. */
export class Checked {
  /** Actions of a layer that are nearer to each other are too fast. */
  readonly gap: LeastGap
  private readonly placed: PlacedPhrase[]
  private readonly byId: ReadonlyMap<string, Cue>
  private readonly letStand: ReadonlySet<string>
  /** @param all its cues as they are danced, in order of place */
  constructor(
    readonly routine: Routine,
    readonly times: Times,
    readonly book: MoveBook,
    readonly all: readonly DancedCue[],
  ) {
    this.placed = placePhrases(routine)
    this.gap = leastGapOf(routine, times)
    this.byId = new Map(routine.cues.map((c) => [c.id, c]))
    this.letStand = new Set(routine.dismissed.map((d) => findingKey(d.about)))
  }

  /** True for a finding somebody looked at and let stand. */
  isLetStand(about: FindingAbout): boolean {
    return this.letStand.size > 0 && this.letStand.has(findingKey(about))
  }

  /** "5& of Chorus, eight 2"; '' outside of all phrases. */
  where(tick: Ticks): string {
    const at = phraseAt(this.placed, tick)
    return at ? `${labelIn(at, tick)} of ${placeName(at)}` : ''
  }

  /** A mend of a cue where it is written; a linked cue is mended where it comes from only by going there. */
  own(cue: Cue, name: string, change: (cue: Cue) => Cue): Finding['mend'] {
    const written = this.byId.get(cue.id)
    return written ? { name, change: (r) => putCue(r, change(written)) } : null
  }
}

/** Places, words and feet of the cues a finding is about. */
export const aboutCues = (kind: FindingKind, cues: readonly Cue[]): FindingAbout => ({
  kind,
  places: cues.map((c) => ({
    at: c.at,
    length: c.length,
    // As it is kept where it is let stand: half of a character is cut off with the other.
    says: oneLine(
      [
        ...[c.layer, c.move.slice(0, 60), c.side, c.step ?? ''],
        c.turn ? `${c.turn.to}${c.turn.eighths}` : '',
        ...[c.facing ?? '', c.level ?? '', c.caution ?? ''],
      ].join(','),
    ),
  })),
})
