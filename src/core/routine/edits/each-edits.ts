import type { Ticks, Times } from '../../time'
import { type PlacedPhrase, phraseAt } from '../counts/layout'
import { tickNear } from '../counts/marks'
import { alike } from '../document/alike'
import type { Cue } from '../document/cue-schema'
import type { Routine } from '../document/schema'
import type { SongMark } from '../document/song-schema'
import { Refused } from '../gate/refused'
import { danced } from '../repeats/repeats'
import { putCue } from './cue-edits'
import type { NewId } from './phrase-edits'

/*
 * One cue at many places: each time a word is sung, a sound is heard, or at its count in every section of a letter. Its places are
 * cues of their own that know each other: what is changed in one is changed in all, but for those that were made to differ.
 */

/** A place a cue may stand at too. */
export interface EachPlace {
  at: Ticks
  /** What starts it there; null for the count. */
  mark: SongMark | null
}

/** Where a cue may stand each time. */
export interface EachTime {
  /** What is sung or heard where it stands; null for nothing. */
  mark: SongMark | null
  marks: EachPlace[]
  /** The letter of its section, and the same count of all of that letter. */
  letter: string
  sections: EachPlace[]
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

/** So near to a mark a cue is on it: a quarter of a count. */
const ON: Ticks = 6

/** Where a cue could stand each time, itself among them. @param times when each count falls */
export function eachTime(
  routine: Pick<Routine, 'marks'>,
  placed: readonly PlacedPhrase[],
  times: Times,
  cue: Pick<Cue, 'at' | 'trigger'>,
): EachTime {
  const places = routine.marks.map((mark) => ({ mark, at: tickNear(times, placed, mark.at) }))
  const here =
    places.find(({ mark }) => mark.id === cue.trigger?.mark) ??
    places.find(({ at }) => Math.abs(at - cue.at) <= ON)
  const off = here ? cue.at - here.at : 0
  const alike = here
    ? places.filter(({ mark }) => mark.kind === here.mark.kind && plain(mark.text) === plain(here.mark.text))
    : []
  const section = phraseAt(placed, cue.at)?.section ?? null
  const inSection = section ? cue.at - section.at : 0
  const sections = [...new Set(placed.map((p) => p.section))].flatMap((s): EachPlace[] => {
    if (!s || !section || s.letter !== section.letter) return []
    const at = s.at + inSection
    return phraseAt(placed, at)?.section === s ? [{ at, mark: null }] : []
  })
  return {
    mark: here?.mark ?? null,
    marks: alike.map(({ mark, at }) => ({ mark, at: at + off })),
    letter: section?.letter ?? '',
    sections,
  }
}

/** All places of a cue, in order; itself alone where it has no others. */
export const eachOf = (cues: readonly Cue[], cue: Pick<Cue, 'id' | 'each'>): Cue[] =>
  cues
    .filter((c) => c.id === cue.id || (cue.each !== undefined && c.each === cue.each))
    .sort((a, b) => a.at - b.at)

/**
 * Lets a cue stand at other places too. Where the same is danced already it is not written a second time.
 * @throws Refused where it would stand nowhere else
 */
export function standEach(
  routine: Routine,
  cueId: string,
  places: readonly EachPlace[],
  newId: NewId,
): Routine {
  const cue = routine.cues.find((c) => c.id === cueId)
  if (!cue) throw new Refused('That cue is not there any more.')
  const taken = danced(routine).filter((c) => c.layer === cue.layer && c.move === cue.move)
  const each = cue.each ?? newId()
  const others = places.flatMap(({ at, mark }): Cue[] => {
    if (taken.some((c) => c.at === at && (c.role ?? '') === (cue.role ?? '') && c.option === cue.option))
      return []
    const { trigger: _, ...rest } = cue
    return [{ ...rest, ...startedBy(mark), id: newId(), at, each }]
  })
  if (!others.length) throw new Refused('It is danced at all of these places already.')
  const own = places.find((p) => p.at === cue.at)?.mark ?? null
  return putCue({ ...routine, cues: [...routine.cues, ...others] }, { ...cue, ...startedBy(own), each })
}

const startedBy = (mark: SongMark | null): Pick<Cue, 'trigger'> =>
  mark ? { trigger: { kind: mark.kind, mark: mark.id } } : {}

/** What is of its own place, and not said of all. */
const OWN = new Set<keyof Cue>(['id', 'at', 'trigger', 'each'])

/** Changes a cue, and so at all its places; a place that differs in what is changed keeps what it has. */
export function putEach(routine: Routine, cue: Cue): Routine {
  const before = routine.cues.find((c) => c.id === cue.id)
  const next = putCue(routine, cue)
  if (!before?.each || before.each !== cue.each) return next
  const keys = [...new Set([...Object.keys(before), ...Object.keys(cue)])] as (keyof Cue)[]
  const changed = keys.filter((k) => !OWN.has(k) && !alike(before[k], cue[k]))
  if (!changed.length) return next
  return {
    ...next,
    cues: next.cues.map((c) => {
      if (c.each !== cue.each || c.id === cue.id) return c
      const other: Record<string, unknown> = { ...c }
      for (const k of changed) {
        if (!alike(c[k], before[k])) continue
        if (cue[k] === undefined) delete other[k]
        else other[k] = cue[k]
      }
      return other as Cue
    }),
  }
}

/** Makes one place differ: it is a cue of its own from then on. */
export function setApart(routine: Routine, cueId: string): Routine {
  const cue = routine.cues.find((c) => c.id === cueId)
  if (!cue?.each) return routine
  const left = routine.cues.filter((c) => c.each === cue.each && c.id !== cueId)
  // One alone is no cue of many places.
  const alone = new Set([cueId, ...(left.length === 1 ? left.map((c) => c.id) : [])])
  return { ...routine, cues: routine.cues.map((c) => (alone.has(c.id) ? withoutEach(c) : c)) }
}

const withoutEach = ({ each: _, ...cue }: Cue): Cue => cue

/** Takes a cue away at all its places. */
export function removeEach(routine: Routine, cueId: string): Routine {
  const cue = routine.cues.find((c) => c.id === cueId)
  if (!cue) return routine
  const gone = new Set(eachOf(routine.cues, cue).map((c) => c.id))
  return { ...routine, cues: routine.cues.filter((c) => !gone.has(c.id)) }
}
