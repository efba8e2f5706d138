import { isGrid, type Seconds, TICKS_PER_COUNT, tickOfTime } from '../time'
import { repair } from './grid-edits'
import { placePhrases, totalCounts } from './layout'
import { everyEight, type NewId, reseat, splitPhrase } from './phrases'
import { repairedBeats } from './repairs'
import { type Phrase, type Routine, SECTION_KINDS, type Section, type SectionKind } from './schema'

/** A grid somebody made elsewhere. */
export interface Brought {
  beats: readonly Seconds[]
  /** What each beat is counted as, or null. */
  numbers: readonly number[] | null
  sections: readonly { start: Seconds; text: string }[]
}

/** True where the numbers count bars rather than phrases: none goes over four. */
export function countsBars(numbers: readonly number[] | null): boolean {
  return numbers !== null && Math.max(...numbers) <= 4 && numbers.filter((n) => n === 1).length > 2
}

/**
 * Takes over a grid and what it says of phrases and sections, as one repair of the beats: what was heard stays
 * available. Cues and parts keep their sound.
 * @param pair two bars make one phrase
 * @throws RangeError when the beats do not follow one another, a tenth of a second apart or more
 */
export function bringGrid(
  routine: Routine,
  heard: readonly Seconds[],
  brought: Brought,
  pair: boolean,
  newId: NewId,
): Routine {
  let next = routine
  const now = repairedBeats(heard, routine.repairs)
  if (brought.beats.length) {
    if (!isGrid([...brought.beats])) throw new RangeError('The beats do not follow one another.')
    const same = now.length === brought.beats.length && now.every((t, i) => t === brought.beats[i])
    if (!same) {
      next = repair(
        routine,
        heard,
        { kind: 'grid', from: 0, to: now.length, beats: [...brought.beats] },
        newId,
      )
      if (next === routine) throw new RangeError('Two beats lie nearer than a tenth of a second.')
    }
    if (brought.numbers) next = numbered(next, brought.numbers, pair, newId)
  }
  const grid = brought.beats.length ? brought.beats : now
  return brought.sections.length && grid.length > 1
    ? bringSections(next, grid, brought.sections, newId)
    : next
}

/** Phrases as the numbers count them: each 1 begins one. */
function numbered(routine: Routine, numbers: readonly number[], pair: boolean, newId: NewId): Routine {
  const ones = numbers.flatMap((n, i) => (n === 1 ? [i] : []))
  const starts = pair ? ones.filter((_, i) => i % 2 === 0) : ones
  const counts = numbers.length
  const old = placePhrases(routine)
  const at = (start: number) => old.find((p) => p.start === start * TICKS_PER_COUNT)?.phrase
  const phrases: Phrase[] = []
  const put = (start: number, length: number, pickUp: boolean) => {
    // No phrase has more than 32 counts: a longer gap is filled with usual ones.
    const most = length <= 32 ? length : routine.usual
    for (let done = 0; done < length; done += most) {
      const was = at(start + done)
      phrases.push({
        id: was?.id ?? newId(),
        feel: was?.feel ?? 'straight',
        length: Math.min(most, length - done),
        pickUp,
      })
    }
  }
  const list = starts.length ? starts : everyEight(0, counts, routine.usual)
  const first = list[0] ?? 0
  if (first > 0) put(0, first, true)
  for (const [i, start] of list.entries()) put(start, (list[i + 1] ?? counts) - start, false)
  return reseat(routine, phrases)
}

/** Sections by their times, each from the count nearest; a phrase that one begins inside is cut there. */
export function bringSections(
  routine: Routine,
  times: readonly Seconds[],
  sections: readonly { start: Seconds; text: string }[],
  newId: NewId,
): Routine {
  const last = totalCounts(routine.phrases) - 1
  const letters = new Map<string, string>()
  let next: Routine = { ...routine, sections: [] }
  const found: Section[] = []
  for (const { start, text } of sections) {
    const count = Math.round(tickOfTime([...times], start) / TICKS_PER_COUNT)
    if (count > last) continue
    next = splitPhrase(next, Math.max(0, count), newId)
    const phrase = placePhrases(next).find((p) => p.start === Math.max(0, count) * TICKS_PER_COUNT)
    if (!phrase || found.some((s) => s.phrase === phrase.phrase.id)) continue
    found.push({ id: newId(), phrase: phrase.phrase.id, ...readSectionLabel(text, letters) })
  }
  return found.length ? { ...next, sections: found } : routine
}

const KIND = SECTION_KINDS.join('|')
const OWN = new RegExp(`^(\\S{1,3}) (${KIND})(?:: (.*))?$`)

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
      name: (own[3] ?? '').slice(0, 200),
    }
  const plain = text.trim().slice(0, 200)
  const kind = SECTION_KINDS.find((k) => k === plain.toLowerCase().replace(/[\s\d]+$/, ''))
  const letter = letters.get(plain) ?? letterOf(letters.size)
  letters.set(plain, letter)
  return { letter, kind: kind ?? 'part', name: kind && kind === plain.toLowerCase() ? '' : plain }
}

const letterOf = (n: number) => (n < 26 ? String.fromCharCode(65 + n) : `Z${n - 25}`)

/** What each count of the page is counted as, for files that carry a number a beat. */
export function countNumbers(routine: Pick<Routine, 'phrases'>): number[] {
  return placePhrases({ phrases: routine.phrases, sections: [] }).flatMap((p) =>
    Array.from({ length: p.phrase.length }, (_, i) => p.first + i),
  )
}

/** The heard beats again in a stretch of the page, as far as they lie in it; repairs elsewhere stay. */
export function heardInStretch(
  routine: Routine,
  heard: readonly Seconds[],
  from: number,
  to: number,
  newId: NewId,
): Routine {
  const now = repairedBeats(heard, routine.repairs)
  const [a, b] = [now[from], now[to] ?? Number.POSITIVE_INFINITY]
  if (a === undefined || !routine.repairs.length) return routine
  const half = 0.5 * ((now[from + 1] ?? a + 0.5) - a)
  const beats = heard.filter((t) => t >= a - half && t < b - half)
  const next = repair(routine, heard, { kind: 'grid', from, to: Math.min(to, now.length), beats }, newId)
  return next
}
