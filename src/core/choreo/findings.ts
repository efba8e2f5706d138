import {
  type Cue,
  cueText,
  type DancedCue,
  danced,
  danceOf,
  type FindingAbout,
  type FindingKind,
  findingKey,
  labelIn,
  mayBeShape,
  mirrorText,
  otherSide,
  type PlacedPhrase,
  phraseAt,
  placeName,
  placePhrases,
  putCue,
  type Routine,
  setExcerpt,
  sidesApart,
  sidesNamed,
  withShapes,
} from '../routine'
import { oneLine } from '../routine/document/text-schema'
import { holds, type Seconds, TICKS_PER_COUNT, type Ticks, type Times, timeOfTick } from '../time'
import { type BodyConflict, facingName, followBody, START } from './body'
import { factsOf, isFooted, stepOf } from './effects'
import { asDanced, inEvery, optionsIn, rolesIn } from './filters'
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

/** Levels from high to the floor; farther apart than one within this time is a jump. Common practice, no published source. */
const HEIGHT = { high: 3, middle: 2, low: 1, floor: 0 } as const
const LEVEL_SECONDS = 0.9
/** Counts without any cue that look forgotten. */
const EMPTY_COUNTS = 16
/** Two starts of one layer nearer than a quarter count clash. */
const CLASH_TICKS: Ticks = 6

/** The left arm and the right arm do two things at one time. */
const goTogether = (a: Cue, b: Cue) =>
  sidesApart(a.layer) &&
  ((a.side === 'left' && b.side === 'right') || (a.side === 'right' && b.side === 'left'))

/** Every finding of a routine, in order of place; those let stand are left out. */
export function findings(routine: Routine, times: Times, book: MoveBook): Finding[] {
  if (times.length < 2) return []
  const all = danced(routine)
  const check = new Checker(routine, times, book, all)
  const found = new Map<string, Finding>()
  const take = (f: Finding) => {
    const key = findingKey(f.about)
    if (!found.has(key)) found.set(key, f)
  }
  const roles = ['', ...rolesIn(all)]
  const options = ['base' as const, ...optionsIn(all).filter((o) => !inEvery(o))]
  for (const role of roles)
    for (const option of options) {
      const cues = asDanced(all, role, option)
      for (const f of check.danced(cues, role, option)) take(f)
    }
  for (const f of check.written()) take(f)
  for (const d of routine.dismissed) found.delete(findingKey(d.about))
  return [...found.values()].sort((a, b) => a.at - b.at)
}

/** "Left hand": the side of a limb, not the way it goes. */
const LIMB_NAMED =
  /\b(?:left|right)\s+(?:arms?|hands?|elbows?|fists?|palms?|wrists?|shoulders?|hips?|knees?|legs?|f[eo]{2}t)\b/i

/** Actions of a layer that come too fast, one after another. */
interface FastRun {
  first: DancedCue
  last: DancedCue
  pairs: number
  nearest: { before: DancedCue; after: DancedCue; gap: Seconds }
}
/** What is no further apart than this is one stretch. */
const ONE_STRETCH: Ticks = 8 * TICKS_PER_COUNT

class Checker {
  private readonly gap: LeastGap
  private readonly placed: PlacedPhrase[]
  private readonly byId: ReadonlyMap<string, Cue>
  constructor(
    private readonly routine: Routine,
    private readonly times: Times,
    private readonly book: MoveBook,
    private readonly all: readonly DancedCue[],
  ) {
    this.placed = placePhrases(routine)
    this.gap = leastGapOf(routine, times)
    this.byId = new Map(routine.cues.map((c) => [c.id, c]))
  }

  /** Findings of one way to dance it. */
  danced(cues: readonly DancedCue[], role: string, option: string): Finding[] {
    const who = [role, option === 'base' ? '' : option].filter(Boolean).join(', ')
    const out: Finding[] = []
    for (const c of followBody(cues, this.book, START, this.routine.positions).conflicts)
      out.push(this.conflict(c, who))
    out.push(...this.fast(cues), ...this.levels(cues), ...this.clashes(cues))
    return out
  }

  /** Findings of the cues as they are written, and of what is not. */
  written(): Finding[] {
    return [...this.cautions(), ...this.sides(), ...this.shapes(), ...this.empty(), ...this.outside()]
  }

  private where(tick: Ticks): string {
    const at = phraseAt(this.placed, tick)
    return at ? `${labelIn(at, tick)} of ${placeName(at)}` : ''
  }

  private conflict(c: BodyConflict, who: string): Finding {
    const here = this.where(c.at)
    const forWho = who ? ` (${who})` : ''
    if (c.kind === 'facing')
      return {
        about: aboutCues('facing', [c.cue]),
        kind: 'facing',
        at: c.cue.at,
        layer: c.cue.layer,
        says: `On ${here}${forWho} “${cueText(c.cue)}” is to arrive facing ${facingName(c.cue.facing ?? 0)}, but the turns so far lead to ${facingName(c.computed)}.`,
        why: 'A dancer who does what is written faces another wall.',
        mend: this.own(c.cue, `Face ${facingName(c.computed)}`, (cue) => ({ ...cue, facing: c.computed })),
      }
    const free = c.foot === 'left' ? 'right' : 'left'
    const before = c.before
      ? `, which has carried the weight since “${cueText(c.before)}” on ${this.where(c.before.at)}`
      : ''
    const simple = factsOf(c.cue, this.book).subs.length === 1
    return {
      about: aboutCues('weight', c.before ? [c.before, c.cue] : [c.cue]),
      kind: 'weight',
      at: c.cue.at,
      layer: c.cue.layer,
      says: `On ${here}${forWho} “${cueText(c.cue)}” needs the ${c.foot} foot${before}.`,
      why: `Only the ${free} foot is free there.`,
      mend: simple
        ? this.own(c.cue, `Use the ${free} foot`, (cue) => ({ ...cue, side: otherSide(cue.side) }))
        : null,
    }
  }

  /** A mend of a cue where it is written; a linked cue is mended where it comes from only by going there. */
  private own(cue: Cue, name: string, change: (cue: Cue) => Cue): Finding['mend'] {
    const written = this.byId.get(cue.id)
    return written ? { name, change: (r) => putCue(r, change(written)) } : null
  }

  /** Actions that come faster than learners need, one finding for a stretch of a layer. */
  private fast(cues: readonly DancedCue[]): Finding[] {
    const out: Finding[] = []
    const last = new Map<string, DancedCue>()
    const runs = new Map<string, FastRun>()
    const { seconds: limit } = this.gap
    for (const c of cues) {
      if (!factsOf(c, this.book).action) continue
      const before = last.get(c.layer)
      last.set(c.layer, c)
      if (!before || before.at === c.at) continue
      const gap = timeOfTick(this.times, c.at) - timeOfTick(this.times, before.at)
      if (gap >= limit - 1e-9 || this.isLetStand({ ...aboutCues('fast', [before, c]), limit })) continue
      const pair = { before, after: c, gap }
      const run = runs.get(c.layer)
      if (run && before.at - run.last.at <= ONE_STRETCH) {
        run.last = c
        run.pairs++
        if (gap < run.nearest.gap) run.nearest = pair
      } else {
        if (run) out.push(this.fastRun(run))
        runs.set(c.layer, { first: before, last: c, pairs: 1, nearest: pair })
      }
    }
    for (const run of runs.values()) out.push(this.fastRun(run))
    return out
  }

  private fastRun({ first, last, pairs, nearest: { before, after, gap } }: FastRun): Finding {
    const { seconds: limit, said, grade } = this.gap
    const nearest = `“${cueText(before)}” to “${cueText(after)}” on ${this.where(after.at)}`
    return {
      about: { ...aboutCues('fast', [first, last]), limit },
      kind: 'fast',
      at: first.at,
      layer: first.layer,
      says:
        pairs === 1
          ? `From ${nearest} there are ${gap.toFixed(2)} s at full tempo.`
          : `From ${this.where(first.at)} to ${this.where(last.at)} actions of the ${first.layer} come ${pairs} times less than ${limit.toFixed(2)} s apart; the nearest are ${nearest}, ${gap.toFixed(2)} s at full tempo.`,
      why: said
        ? `You asked for at least ${limit.toFixed(2)} s between two actions of a layer.`
        : `Azalea takes ${limit.toFixed(2)} s for ${grade} at this tempo; say below what yours need.`,
      mend: null,
    }
  }

  private isLetStand(about: FindingAbout): boolean {
    const key = findingKey(about)
    return this.routine.dismissed.some((d) => findingKey(d.about) === key)
  }

  private levels(cues: readonly DancedCue[]): Finding[] {
    const out: Finding[] = []
    let before: DancedCue | null = null
    for (const c of cues) {
      if (!c.level) continue
      if (before?.level && Math.abs(HEIGHT[before.level] - HEIGHT[c.level]) > 1) {
        const gap = timeOfTick(this.times, c.at) - timeOfTick(this.times, before.at)
        if (gap < LEVEL_SECONDS)
          out.push({
            about: aboutCues('level', [before, c]),
            kind: 'level',
            at: c.at,
            layer: c.layer,
            says: `From ${before.level} (“${cueText(before)}”) to ${c.level} (“${cueText(c)}”, ${this.where(c.at)}) in ${gap.toFixed(2)} s.`,
            why: `A change of level by more than one takes most people ${LEVEL_SECONDS} s.`,
            mend: null,
          })
      }
      before = c
    }
    return out
  }

  private clashes(cues: readonly DancedCue[]): Finding[] {
    const out: Finding[] = []
    const near = new Map<string, DancedCue[]>()
    for (const c of cues) {
      const others = (near.get(c.layer) ?? []).filter((o) => c.at - o.at < CLASH_TICKS)
      near.set(c.layer, [...others, c])
      const before = others.findLast((o) => !goTogether(o, c))
      if (!before) continue
      out.push({
        about: aboutCues('clash', [before, c]),
        kind: 'clash',
        at: before.at,
        layer: c.layer,
        says: `“${cueText(before)}” and “${cueText(c)}” both stand on ${this.where(before.at)} in ${c.layer}.`,
        why: 'One layer can do one thing at a time; arms, body and head have layers of their own.',
        mend: null,
      })
    }
    return out
  }

  private cautions(): Finding[] {
    return this.routine.cues.flatMap((c): Finding[] =>
      c.caution && !c.tip
        ? [
            {
              about: aboutCues('caution', [c]),
              kind: 'caution',
              at: c.at,
              layer: c.layer,
              says: `“${cueText(c)}” on ${this.where(c.at)} is marked ${c.caution}, without a tip.`,
              why: 'Whoever teaches it should know what to say for safety.',
              mend: null,
            },
          ]
        : [],
    )
  }

  /** A letter that may be a shape: asked once, since to the other side it would be another. */
  private shapes(): Finding[] {
    return this.routine.cues.flatMap((c): Finding[] =>
      mayBeShape(c.move)
        ? [
            {
              about: aboutCues('side', [c]),
              kind: 'side',
              at: c.at,
              layer: c.layer,
              says: `“${c.move}” on ${this.where(c.at)}: to the other side it would be “${mirrorText(c.move)}”.`,
              why: 'If the letter is a shape and not a side, it stays as it is.',
              mend: this.own(c, 'It is a shape', (cue) => ({ ...cue, move: withShapes(cue.move) })),
            },
          ]
        : [],
    )
  }

  private sides(): Finding[] {
    return this.routine.cues.flatMap((c): Finding[] => {
      if (c.side !== 'left' && c.side !== 'right') return []
      const words = [...new Set(sidesNamed(c.move))]
      const [word] = words
      if (words.length !== 1 || word === undefined || word === c.side) return []
      const step = stepOf(c, this.book)
      // Of arms, head and body the word names the way, but for the limb it stands before; the side names the limb.
      if (!isFooted(c) && !LIMB_NAMED.test(c.move)) return []
      // In a turn the word names the way, the side the foot.
      if (step === 'pivot' || step === 'turn' || c.turn) return []
      const side = word
      return [
        {
          about: aboutCues('side', [c]),
          kind: 'side',
          at: c.at,
          layer: c.layer,
          says: `“${c.move}” on ${this.where(c.at)} says ${side}, its side says ${c.side}.`,
          why: 'Called and drawn, it would be two different things.',
          mend: this.own(c, `Set the side to ${side}`, (cue) => ({ ...cue, side })),
        },
      ]
    })
  }

  /** Cues before the dance begins, or after it ends, as that was set by hand. */
  private outside(): Finding[] {
    const { excerpt } = this.routine
    if (!excerpt) return []
    const { from, to } = excerpt
    const side = (cues: readonly DancedCue[], edge: 'start' | 'end'): Finding[] => {
      const [first, last] = [cues[0], cues.at(-1)]
      if (!first || !last) return []
      const [what, stand] = cues.length === 1 ? ['A cue', 'stands'] : [`${cues.length} cues`, 'stand']
      const whole =
        edge === 'start' ? first.at : Math.ceil((last.at + last.length) / TICKS_PER_COUNT) * TICKS_PER_COUNT
      const where =
        edge === 'start'
          ? `before the dance begins, from ${this.where(first.at)} on`
          : `after the dance ends, from ${this.where(first.at)} on`
      return [
        {
          about: {
            kind: 'outside',
            places: [
              { at: first.at, length: last.at - first.at + last.length, says: `${cues.length} ${edge}` },
            ],
          },
          kind: 'outside',
          at: first.at,
          layer: first.layer,
          says: `${what} ${stand} ${where}.`,
          why: 'What lies outside the dance is not taught, drilled or handed out.',
          mend: {
            name: edge === 'start' ? 'Begin the dance with them' : 'End the dance after them',
            change: (r) => setExcerpt(r, edge, whole),
          },
        },
      ]
    }
    return [
      ...side(
        this.all.filter((c) => c.at < from),
        'start',
      ),
      ...side(
        this.all.filter((c) => c.at >= to),
        'end',
      ),
    ]
  }

  private empty(): Finding[] {
    if (!this.all.length) return []
    const dance = danceOf(this.routine)
    const out: Finding[] = []
    let from = dance.from
    const report = (to: Ticks) => {
      const counts = Math.floor((to - from) / TICKS_PER_COUNT)
      if (counts < EMPTY_COUNTS) return
      out.push({
        about: { kind: 'empty', places: [{ at: from, length: to - from, says: '' }] },
        kind: 'empty',
        at: from,
        layer: 'feet',
        says: `From ${this.where(from)} on nothing is cued for ${counts} counts.`,
        why: 'A wait or free dancing is better written down, as “hold” or “freestyle”.',
        mend: null,
      })
    }
    for (const c of this.all) {
      if (!holds(dance, c.at)) continue
      report(c.at)
      from = Math.max(from, c.at + c.length)
    }
    report(dance.to)
    return out
  }
}

/** Places, words and feet of the cues a finding is about. */
const aboutCues = (kind: FindingKind, cues: readonly Cue[]): FindingAbout => ({
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
