import { TICKS_PER_COUNT, type Ticks } from '../../time'
import { placePhrases, sectionTitle } from '../counts/layout'
import { nextLetter } from '../counts/letters'
import type { Routine } from '../document/schema'
import type { Section, SectionKind } from '../document/song-schema'
import { Refused } from '../gate/refused'
import { type NewId, type ProposedSection, proposedSections, setPhraseLength } from './phrase-edits'

/** Begins a section at the phrase that begins here, or changes the one that begins there. */
export function beginSection(
  routine: Routine,
  at: Ticks,
  what: { name: string; kind: SectionKind; letter: string },
  newId: NewId,
): Routine {
  const old = routine.sections.find((s) => s.at === at)
  const sections = old
    ? routine.sections.map((s) => (s === old ? { ...s, ...what } : s))
    : [...routine.sections, { id: newId(), at, ...what }]
  return { ...routine, sections: sections.sort((a, b) => a.at - b.at) }
}

/** Begins a section without a name yet. @throws Refused where one begins already: its name is not taken from it */
export function newSection(routine: Routine, at: Ticks, newId: NewId): Routine {
  const old = routine.sections.find((s) => s.at === at)
  if (old) throw new Refused(`“${sectionTitle(old)}” begins here already.`)
  const what = { name: '', kind: 'part' as const, letter: nextLetter(routine.sections) }
  return beginSection(routine, at, what, newId)
}

/** Takes over guesses: what begins at these places is named, and begun where nothing does; the rest stays. */
export function takeSection(routine: Routine, proposed: readonly ProposedSection[], newId: NewId): Routine {
  return proposedSections(routine.phrases, proposed, newId).reduce(
    (r, { at, letter, kind }) => beginSection(r, at, { name: '', kind, letter }, newId),
    routine,
  )
}

/**
 * Says that a section is the same as another: its letter, kind and name, and the lengths of its phrases as far as it
 * goes; what follows moves on.
 */
export function sameAsSection(routine: Routine, sectionId: string, modelId: string): Routine {
  const [section, model] = [sectionId, modelId].map((id) => routine.sections.find((s) => s.id === id))
  if (!section || !model || section === model) return routine
  const placed = placePhrases(routine)
  const of = (s: Section) => placed.filter((p) => p.section?.id === s.id)
  const mine = of(section)
  let next = routine
  of(model).forEach(({ phrase }, i) => {
    const own = mine[i]
    if (own && own.phrase.length !== phrase.length && i < mine.length - 1)
      next = setPhraseLength(next, own.index, phrase.length)
  })
  const { letter, kind, name } = model
  return {
    ...next,
    sections: next.sections.map((s) => (s.id === sectionId ? { ...s, letter, kind, name } : s)),
  }
}

/** Moves where a section begins by whole phrases; it never crosses its neighbours. */
export function moveSection(routine: Routine, sectionId: string, by: number): Routine {
  const placed = placePhrases(routine)
  const i = routine.sections.findIndex((s) => s.id === sectionId)
  const section = routine.sections[i]
  const here = placed.find((p) => p.start === section?.at)
  const to = here && placed[here.index + by]
  if (!section || !to) return routine
  const [before, after] = [routine.sections[i - 1], routine.sections[i + 1]]
  if ((before && to.start <= before.at) || (after && to.start >= after.at)) return routine
  return { ...routine, sections: routine.sections.map((s) => (s === section ? { ...s, at: to.start } : s)) }
}

/**
 * Moves where a section begins by counts: the phrase before it grows or shrinks by as many, its own first phrase the
 * other way; the boundary moves with them, nothing else does.
 */
export function moveSectionByCounts(routine: Routine, sectionId: string, by: number): Routine {
  const section = routine.sections.find((s) => s.id === sectionId)
  const i = placePhrases(routine).findIndex((p) => p.start === section?.at)
  const [before, first] = [routine.phrases[i - 1], routine.phrases[i]]
  if (!section || !before || !first) return routine
  const [shorter, longer] = [before.length + by, first.length - by]
  if (Math.min(shorter, longer) < 1 || Math.max(shorter, longer) > 32)
    throw new Refused('The phrase beside it has no more counts to give.')
  const phrases = routine.phrases.toSpliced(
    i - 1,
    2,
    { ...before, length: shorter },
    { ...first, length: longer },
  )
  const at = section.at + by * TICKS_PER_COUNT
  return { ...routine, phrases, sections: routine.sections.map((s) => (s === section ? { ...s, at } : s)) }
}

/** Takes a section's beginning away: its phrases join the section before. */
export function removeSection(routine: Routine, sectionId: string): Routine {
  return { ...routine, sections: routine.sections.filter((s) => s.id !== sectionId) }
}
