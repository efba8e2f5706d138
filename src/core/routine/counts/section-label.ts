import { LIMITS } from '../document/limits'
import { SECTION_KINDS, type Section, type SectionKind } from '../document/song-schema'
import { cutText } from '../edits/cut'
import { letterOf } from './letters'

const KIND = SECTION_KINDS.join('|')
const OWN = new RegExp(`^(-|(?=.{1,3} )[A-Z]+[0-9]*) (${KIND})(?:: (.*))?$`)

/** "B chorus: the big one": a section in one line, as files carry it. */
export function sectionLabel(s: Pick<Section, 'letter' | 'kind' | 'name'>): string {
  return `${s.letter || '-'} ${s.kind}${s.name ? `: ${s.name}` : ''}`
}

/** Reads what `sectionLabel` prints; any other text becomes the name, equal texts get equal letters. */
export function readSectionLabel(
  text: string,
  letters: Map<string, string>,
): Pick<Section, 'letter' | 'kind' | 'name'> {
  const own = OWN.exec(text)
  if (own)
    return {
      letter: own[1] === '-' ? '' : (own[1] as string),
      kind: own[2] as SectionKind,
      name: cutText(own[3] ?? '', LIMITS.text),
    }
  const plain = cutText(text.trim(), LIMITS.text)
  const kind = SECTION_KINDS.find((k) => k === plain.toLowerCase().replace(/[\s\d]+$/, ''))
  const letter = letters.get(plain) ?? letterOf(letters.size)
  letters.set(plain, letter)
  return { letter, kind: kind ?? 'part', name: kind && kind === plain.toLowerCase() ? '' : plain }
}

/** True where the numbers of a grid count bars rather than phrases: none goes over four. */
export function countsBars(numbers: readonly number[] | null): boolean {
  return numbers !== null && !numbers.some((n) => n > 4) && numbers.filter((n) => n === 1).length > 2
}
