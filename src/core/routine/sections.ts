import { placePhrases } from './layout'
import { type NewId, type ProposedSection, seated, setPhraseLength } from './phrases'
import type { Routine, Section, SectionKind } from './schema'

/** Begins a section at a phrase, or changes the one that begins there. */
export function beginSection(
  routine: Routine,
  phraseId: string,
  what: { name: string; kind: SectionKind; letter: string },
  newId: NewId,
): Routine {
  const old = routine.sections.find((s) => s.phrase === phraseId)
  const sections = old
    ? routine.sections.map((s) => (s === old ? { ...s, ...what } : s))
    : [...routine.sections, { id: newId(), phrase: phraseId, ...what }]
  const order = new Map(routine.phrases.map((p, i) => [p.id, i]))
  sections.sort((a, b) => (order.get(a.phrase) ?? 0) - (order.get(b.phrase) ?? 0))
  return { ...routine, sections }
}

/** Takes over proposed sections: each begins at the phrase its count lies in; what was named by hand before is replaced. */
export function takeSections(routine: Routine, proposed: readonly ProposedSection[], newId: NewId): Routine {
  const sections = seated(routine.phrases, proposed, newId)
  return sections.length ? { ...routine, sections } : routine
}

/**
 * Says that a section is the same as another: its letter, kind and name, and the lengths of its phrases as far as it
 * goes; what follows moves on.
 */
export function sameAsSection(routine: Routine, sectionId: string, modelId: string, newId: NewId): Routine {
  const [section, model] = [sectionId, modelId].map((id) => routine.sections.find((s) => s.id === id))
  if (!section || !model || section === model) return routine
  const placed = placePhrases(routine)
  const of = (s: Section) => placed.filter((p) => p.section?.id === s.id)
  let next = routine
  of(model).forEach(({ phrase }, i) => {
    const mine = of(section)[i]
    if (mine && mine.phrase.length !== phrase.length && i < of(section).length - 1)
      next = setPhraseLength(next, mine.phrase.id, phrase.length, newId)
  })
  const { letter, kind, name } = model
  return {
    ...next,
    sections: next.sections.map((s) => (s.id === sectionId ? { ...s, letter, kind, name } : s)),
  }
}

/** Moves where a section begins by whole phrases; it never crosses its neighbours. */
export function moveSection(routine: Routine, sectionId: string, by: number): Routine {
  const order = new Map(routine.phrases.map((p, i) => [p.id, i]))
  const i = routine.sections.findIndex((s) => s.id === sectionId)
  const section = routine.sections[i]
  if (!section) return routine
  const to = (order.get(section.phrase) ?? 0) + by
  const before = routine.sections[i - 1]
  const after = routine.sections[i + 1]
  const phrase = routine.phrases[to]
  if (!phrase || (before && to <= (order.get(before.phrase) ?? 0))) return routine
  if (after && to >= (order.get(after.phrase) ?? 0)) return routine
  return {
    ...routine,
    sections: routine.sections.map((s) => (s === section ? { ...s, phrase: phrase.id } : s)),
  }
}

/**
 * Moves where a section begins by counts: the phrase before it grows or shrinks by as many, its own first phrase the
 * other way; the boundary moves with them, nothing else does.
 */
export function moveSectionByCounts(routine: Routine, sectionId: string, by: number): Routine {
  const section = routine.sections.find((s) => s.id === sectionId)
  const i = routine.phrases.findIndex((p) => p.id === section?.phrase)
  const [before, first] = [routine.phrases[i - 1], routine.phrases[i]]
  if (!section || !before || !first) return routine
  const lengths = [before.length + by, first.length - by]
  if (lengths.some((n) => n < 1 || n > 32)) return routine
  const phrases = routine.phrases.toSpliced(
    i - 1,
    2,
    { ...before, length: lengths[0] as number },
    { ...first, length: lengths[1] as number },
  )
  return { ...routine, phrases }
}

/** Takes a section's beginning away: its phrases join the section before. */
export function removeSection(routine: Routine, sectionId: string): Routine {
  return { ...routine, sections: routine.sections.filter((s) => s.id !== sectionId) }
}

/** The next unused letter. */
export function nextLetter(sections: readonly Section[]): string {
  const used = new Set(sections.map((s) => s.letter))
  for (let i = 0; i < 26; i++) if (!used.has(String.fromCharCode(65 + i))) return String.fromCharCode(65 + i)
  return `Z${sections.length}`
}
