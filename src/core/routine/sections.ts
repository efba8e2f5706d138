import type { NewId } from './phrases'
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
