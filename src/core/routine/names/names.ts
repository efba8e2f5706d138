import {
  namedOffsets,
  type Stretch,
  subCountName,
  TICKS_PER_COUNT,
  type Ticks,
  usualLength,
} from '../../time'
import { wordEnds } from '../../writing/word-edges'
import { labelIn, type PlacedPhrase, phraseAt, phraseName, placeName } from '../counts/layout'
import { borderOfBeginning, borderOfEnd } from '../counts/pieces'
import { Refused } from '../gate/refused'

/*
 * How people say a piece of the dance, printed and read back. `to` includes the count it names, `until` ends just before
 * it: "Chorus, eight 2", "Chorus", "Chorus, eight 2, 3 to 8", "Verse, eight 4, 8& to Chorus, eight 1, 4",
 * "eight 2, 3 until 3&". Names are unique in a routine, and reading a printed one gives the same stretch.
 */

/** The phrases of a section, when a stretch is exactly that section. */
function wholeSection(placed: readonly PlacedPhrase[], a: PlacedPhrase, b: PlacedPhrase): boolean {
  return (
    a.section !== null &&
    a.section === b.section &&
    placed[a.index - 1]?.section !== a.section &&
    placed[b.index + 1]?.section !== a.section
  )
}

/** What a stretch is called, by the phrases it lies in. @param placed all phrases of the page */
export function stretchName(placed: readonly PlacedPhrase[], { from, to }: Stretch): string {
  const [a, b] = [phraseAt(placed, from), phraseAt(placed, to - 1)]
  if (!a || !b) return 'nothing counted yet'
  const over = overBorders(placed, { from, to })
  if (over) return over
  const later = a.title === b.title ? phraseName(b) : placeName(b)
  if (from === a.start && to === b.end) {
    if (a === b) return placeName(a)
    return wholeSection(placed, a, b) ? a.title : `${placeName(a)} to ${later}`
  }
  const begin = `${placeName(a)}, ${labelIn(a, from)}`
  const inB = a === b ? '' : `${later}, `
  if (to === from + usualLength(from - a.start, a.phrase.feel) && a === b) return begin
  if (mod(to - b.start) === 0 && to - TICKS_PER_COUNT >= from)
    return `${begin} to ${inB}${labelIn(b, to - TICKS_PER_COUNT)}`
  // Ends inside a count: named by the first place that does not belong to it, in the phrase it lies in.
  const c = phraseAt(placed, to) ?? b
  const inC = a === c ? '' : `${a.title === c.title ? phraseName(c) : placeName(c)}, `
  return `${begin} until ${inC}${labelIn(c, to)}`
}

/** "Chorus, eight 2, from 8&", "Chorus to the 1 after", "eight 1 until 8&": whole phrases with what goes over their borders; null for others. */
function overBorders(placed: readonly PlacedPhrase[], { from, to }: Stretch): string | null {
  const whole = { from: borderOfBeginning(placed, from), to: borderOfEnd(placed, to) }
  const [begin, led] = [phraseAt(placed, whole.from), phraseAt(placed, from)]
  const [after, last] = [phraseAt(placed, whole.to), phraseAt(placed, to)]
  if (!begin || !led || !after || !last || whole.to <= whole.from) return null
  const before = whole.from === from ? '' : labelIn(led, from)
  const ends = after.start === whole.to || placed.at(-1)?.end === whole.to
  if (begin.start !== whole.from || !ends || (whole.from === from && whole.to === to))
    return before && whole.to === to
      ? `${stretchName(placed, { from: whole.from, to })} with the ${before} before`
      : null
  const end =
    to === whole.to
      ? ''
      : to > whole.to
        ? to - whole.to === TICKS_PER_COUNT
          ? ` to the ${labelIn(after, whole.to)} after`
          : ` until the ${labelIn(last, to)} after`
        : ` until ${labelIn(last, to)}`
  // A pick-up before others, or an end elsewhere, is said by counts.
  if (to > whole.to && to >= after.end) return null
  return `${stretchName(placed, whole)}${before && `, from ${before}`}${end}`
}

const mod = (tick: Ticks) => ((tick % TICKS_PER_COUNT) + TICKS_PER_COUNT) % TICKS_PER_COUNT

/** "Chorus, eight 2, 3&": one place of the page. */
export function tickName(placed: readonly PlacedPhrase[], tick: Ticks): string {
  const at = phraseAt(placed, tick)
  return at ? `${placeName(at)}, ${labelIn(at, tick)}` : 'nothing counted yet'
}

const LABEL = new RegExp(String.raw`^(-?\d{1,4})(?:(e|&|a)${wordEnds()}|\+(\d{1,2})\/24)?`, 'u')

/** What has been read so far of a name: the rest of the text, and the phrase that is meant. */
class Reader {
  constructor(
    private readonly placed: readonly PlacedPhrase[],
    public rest: string,
    public here: PlacedPhrase,
  ) {}

  /** Takes something off the front, with a comma or blanks after it. */
  private take(size: number) {
    this.rest = this.rest.slice(size).replace(/^\s*,?\s*/, '')
  }

  /** A section's title, then a phrase of it, each where it is said. @returns what was named */
  place(): 'section' | 'phrase' | 'nothing' {
    let named: 'section' | 'phrase' | 'nothing' = 'nothing'
    const lower = this.rest.toLowerCase()
    const titled = [...new Set(this.placed.map((p) => p.title).filter(Boolean))]
      .sort((a, b) => b.length - a.length)
      .find((t) => lower.startsWith(t.toLowerCase()) && /^(?:\s|,|$)/.test(lower.slice(t.length)))
    if (titled) {
      this.here = this.placed.find((p) => p.title === titled) as PlacedPhrase
      this.take(titled.length)
      named = 'section'
    }
    const m = /^(?:eight\s+(\d+)|(\d+)\s+counts?\s*\((\d+)\)|pick-?up(?:\s+(\d+))?)(?=\s|,|$)/i.exec(
      this.rest,
    )
    if (!m) return named
    const [length, number, pickUp] = m[1]
      ? [8, Number(m[1]), false]
      : m[2]
        ? [Number(m[2]), Number(m[3]), false]
        : [null, Number(m[4] ?? 1), true]
    const found = this.placed.find(
      (p) =>
        p.title === this.here.title &&
        p.phrase.pickUp === pickUp &&
        p.inSection === number &&
        (length === null || p.phrase.length === length),
    )
    if (!found)
      throw new Refused(`There is no “${m[0]}” ${this.here.title ? `in ${this.here.title}` : 'here'}.`)
    this.here = found
    this.take(m[0].length)
    return 'phrase'
  }

  /** A count of the phrase that is meant; null where none is said. */
  label(): Ticks | null {
    const m = LABEL.exec(this.rest)
    if (!m) return null
    const { feel } = this.here.phrase
    const offset = m[3]
      ? Number(m[3])
      : namedOffsets(feel).find((o) => subCountName(o, feel) === (m[2] ?? ''))
    if (offset === undefined || offset > 23) throw new Refused(`“${m[0]}” is no count of this phrase.`)
    this.take(m[0].length)
    return this.here.start + (Number(m[1]) - this.here.first) * TICKS_PER_COUNT + offset
  }

  word(pattern: RegExp): string | null {
    const m = pattern.exec(this.rest)
    if (!m) return null
    this.rest = this.rest.slice(m[0].length).trimStart()
    return (m[1] ?? m[0]).toLowerCase()
  }

  /** The same count in the phrase after, where it would lie before a place. */
  after(tick: Ticks, least: Ticks): Ticks {
    const next = this.placed[this.here.index + 1]
    if (tick >= least || !next) return tick
    const there = tick - this.here.start + (this.here.first - next.first) * TICKS_PER_COUNT + next.start
    this.here = next
    return there
  }
}

/** The unit a label names: a whole count, or its sub-count up to the next. */
const endOf = (tick: Ticks, p: PlacedPhrase): Ticks => tick + usualLength(tick - p.start, p.phrase.feel)

/**
 * Reads what `stretchName` prints, and shorter ways to say it: "3 to 8" in the phrase that is meant, "7 8 and the 1
 * after", "1 to 4 with the 8& before".
 * @param here the phrase that is meant where none is named
 * @throws Refused naming what cannot be read
 */
export function readStretch(
  placed: readonly PlacedPhrase[],
  text: string,
  here: PlacedPhrase | null,
): Stretch {
  const start = here ?? placed[0]
  if (!start) throw new Refused('Nothing is counted yet.')
  const led = /^(.*?)[\s,]+with\s+the\s+(\S+)\s+before\s*$/i.exec(text.trim())
  const r = new Reader(placed, led ? (led[1] as string) : text.trim(), start)
  if (!r.rest) throw new Refused('Say which counts, as in “3 to 8”.')
  const read = readPlain(placed, r)
  if (r.rest) throw new Refused(`“${r.rest}” was not understood.`)
  const from = led ? before(placed, read.from, led[2] as string) : read.from
  if (read.to <= from) throw new Refused('That ends before it begins.')
  return { from, to: read.to }
}

function readPlain(placed: readonly PlacedPhrase[], r: Reader): Stretch {
  const named = r.place()
  const first = r.label()
  if (first === null) {
    if (named === 'nothing') throw new Refused(`“${r.rest}” names no place of the page.`)
    const a = r.here
    const rows = named === 'section' ? placed.filter((p) => p.title === a.title) : [a]
    const whole = { from: (rows[0] ?? a).start, to: (rows.at(-1) ?? a).end }
    const over = readOver(placed, r, whole)
    if (over || !r.word(/^(to|-|–)\s*/i)) return over ?? whole
    const second = r.place()
    if (second === 'nothing') throw new Refused(`“${r.rest}” names no phrase.`)
    const last = second === 'section' ? placed.findLast((p) => p.title === r.here.title) : r.here
    const several = { from: whole.from, to: (last ?? r.here).end }
    return readOver(placed, r, several) ?? several
  }
  const phrase = r.here
  const until = r.word(/^(to|until|-|–)\s*/i)
  if (until) {
    r.place()
    const label = r.label()
    if (label === null) throw new Refused(`“${r.rest}” is no count.`)
    const last = r.here === phrase ? r.after(label, first) : label
    return { from: first, to: until === 'until' ? last : endOf(last, r.here) }
  }
  // Counts said one after another; one that is lower than the one before lies in the next phrase.
  let last = first
  for (;;) {
    r.word(/^(?:and\s+)?(?:the\s+)?(?=-?\d)/i)
    const label = r.label()
    if (label === null) break
    last = r.after(label, last)
    r.word(/^after\b\s*/i)
  }
  return { from: first, to: endOf(last, r.here) }
}

/** What is said to go over the borders of whole phrases: "from 8&", "to the 1 after", "until 8&"; null for nothing. */
function readOver(placed: readonly PlacedPhrase[], r: Reader, whole: Stretch): Stretch | null {
  const led = r.word(/^from\s+(?:the\s+)?(-?\d\S*?)(?=,?(?:\s|$)),?\s*/i)
  const from = led ? before(placed, whole.from, led) : whole.from
  const after = /^(to|until)\s+the\s+(?=-?\d\S*\s+after\b)/i.exec(r.rest)
  const until = /^until\s+(?=-?\d)/i.exec(r.rest)
  if (!after && !until) return led ? { from, to: whole.to } : null
  const next = placed.find((p) => p.start === whole.to)
  const row = after ? next : phraseAt(placed, whole.to - 1)
  if (!row) throw new Refused(`“${r.rest}” is no count.`)
  r.rest = r.rest.slice((after ?? until)?.[0].length ?? 0)
  r.here = row
  const label = r.label()
  if (label === null) throw new Refused(`“${r.rest}” is no count.`)
  r.word(/^after\b\s*/i)
  return { from, to: after?.[1]?.toLowerCase() === 'to' ? endOf(label, row) : label }
}

/** The last place of a name that lies before a tick. */
function before(placed: readonly PlacedPhrase[], tick: Ticks, label: string): Ticks {
  for (let p = phraseAt(placed, tick); p; p = placed[p.index - 1] ?? null) {
    const r = new Reader(placed, label, p)
    const at = r.label()
    if (at === null || r.rest) break
    if (at < tick && at >= p.start && at < p.end) return at
  }
  throw new Refused(`There is no ${label} before that.`)
}
