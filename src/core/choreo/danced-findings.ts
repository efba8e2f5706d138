import { type Cue, cueText, type DancedCue, otherSide, sidesApart } from '../routine'
import { type Seconds, TICKS_PER_COUNT, type Ticks, timeOfTick } from '../time'
import { type BodyConflict, facingName, followBody, START } from './body'
import { aboutCues, type Checked, type Finding } from './checked'
import { factsOf } from './effects'

/** Levels from high to the floor; farther apart than one within this time is a jump. Common practice, no published source. */
const HEIGHT = { high: 3, middle: 2, low: 1, floor: 0 } as const
const LEVEL_SECONDS = 0.9
/** Two starts of one layer nearer than a quarter count clash. */
const CLASH_TICKS: Ticks = 6

/** The left arm and the right arm do two things at one time. */
const goTogether = (a: Cue, b: Cue) =>
  sidesApart(a.layer) &&
  ((a.side === 'left' && b.side === 'right') || (a.side === 'right' && b.side === 'left'))

/** Actions of a layer that come too fast, one after another. */
interface FastRun {
  first: DancedCue
  last: DancedCue
  pairs: number
  nearest: { before: DancedCue; after: DancedCue; gap: Seconds }
}
/** What is no further apart than this is one stretch. */
const ONE_STRETCH: Ticks = 8 * TICKS_PER_COUNT

/** Findings of one way to dance it. */
export function dancedFindings(
  checked: Checked,
  cues: readonly DancedCue[],
  role: string,
  option: string,
): Finding[] {
  const who = [role, option === 'base' ? '' : option].filter(Boolean).join(', ')
  const out: Finding[] = []
  for (const c of followBody(cues, checked.book, START, checked.routine.positions).conflicts)
    out.push(conflict(checked, c, who))
  out.push(...fast(checked, cues), ...levels(checked, cues), ...clashes(checked, cues))
  return out
}

function conflict(checked: Checked, c: BodyConflict, who: string): Finding {
  const here = checked.where(c.at)
  const forWho = who ? ` (${who})` : ''
  if (c.kind === 'facing')
    return {
      about: aboutCues('facing', [c.cue]),
      kind: 'facing',
      at: c.cue.at,
      layer: c.cue.layer,
      says: `On ${here}${forWho} “${cueText(c.cue)}” is to arrive facing ${facingName(c.cue.facing ?? 0)}, but the turns so far lead to ${facingName(c.computed)}.`,
      why: 'A dancer who does what is written faces another wall.',
      mend: checked.own(c.cue, `Face ${facingName(c.computed)}`, (cue) => ({ ...cue, facing: c.computed })),
    }
  const free = c.foot === 'left' ? 'right' : 'left'
  const before = c.before
    ? `, which has carried the weight since “${cueText(c.before)}” on ${checked.where(c.before.at)}`
    : ''
  const simple = factsOf(c.cue, checked.book).subs.length === 1
  return {
    about: aboutCues('weight', c.before ? [c.before, c.cue] : [c.cue]),
    kind: 'weight',
    at: c.cue.at,
    layer: c.cue.layer,
    says: `On ${here}${forWho} “${cueText(c.cue)}” needs the ${c.foot} foot${before}.`,
    why: `Only the ${free} foot is free there.`,
    mend: simple
      ? checked.own(c.cue, `Use the ${free} foot`, (cue) => ({ ...cue, side: otherSide(cue.side) }))
      : null,
  }
}

/** Actions that come faster than learners need, one finding for a stretch of a layer. */
function fast(checked: Checked, cues: readonly DancedCue[]): Finding[] {
  const out: Finding[] = []
  const last = new Map<string, DancedCue>()
  const runs = new Map<string, FastRun>()
  const { seconds: limit } = checked.gap
  for (const c of cues) {
    if (!factsOf(c, checked.book).action) continue
    const before = last.get(c.layer)
    last.set(c.layer, c)
    if (!before || before.at === c.at) continue
    const gap = timeOfTick(checked.times, c.at) - timeOfTick(checked.times, before.at)
    if (gap >= limit - 1e-9 || checked.isLetStand({ ...aboutCues('fast', [before, c]), limit })) continue
    const pair = { before, after: c, gap }
    const run = runs.get(c.layer)
    if (run && before.at - run.last.at <= ONE_STRETCH) {
      run.last = c
      run.pairs++
      if (gap < run.nearest.gap) run.nearest = pair
    } else {
      if (run) out.push(fastRun(checked, run))
      runs.set(c.layer, { first: before, last: c, pairs: 1, nearest: pair })
    }
  }
  for (const run of runs.values()) out.push(fastRun(checked, run))
  return out
}

function fastRun(
  checked: Checked,
  { first, last, pairs, nearest: { before, after, gap } }: FastRun,
): Finding {
  const { seconds: limit, said, grade } = checked.gap
  const nearest = `“${cueText(before)}” to “${cueText(after)}” on ${checked.where(after.at)}`
  return {
    about: { ...aboutCues('fast', [first, last]), limit },
    kind: 'fast',
    at: first.at,
    layer: first.layer,
    says:
      pairs === 1
        ? `From ${nearest} there are ${gap.toFixed(2)} s at full tempo.`
        : `From ${checked.where(first.at)} to ${checked.where(last.at)} actions of the ${first.layer} come ${pairs} times less than ${limit.toFixed(2)} s apart; the nearest are ${nearest}, ${gap.toFixed(2)} s at full tempo.`,
    why: said
      ? `You asked for at least ${limit.toFixed(2)} s between two actions of a layer.`
      : `Azalea takes ${limit.toFixed(2)} s for ${grade} at this tempo; say below what yours need.`,
    mend: null,
  }
}

function levels(checked: Checked, cues: readonly DancedCue[]): Finding[] {
  const out: Finding[] = []
  let before: DancedCue | null = null
  for (const c of cues) {
    if (!c.level) continue
    if (before?.level && Math.abs(HEIGHT[before.level] - HEIGHT[c.level]) > 1) {
      const gap = timeOfTick(checked.times, c.at) - timeOfTick(checked.times, before.at)
      if (gap < LEVEL_SECONDS)
        out.push({
          about: aboutCues('level', [before, c]),
          kind: 'level',
          at: c.at,
          layer: c.layer,
          says: `From ${before.level} (“${cueText(before)}”) to ${c.level} (“${cueText(c)}”, ${checked.where(c.at)}) in ${gap.toFixed(2)} s.`,
          why: `A change of level by more than one takes most people ${LEVEL_SECONDS} s.`,
          mend: null,
        })
    }
    before = c
  }
  return out
}

function clashes(checked: Checked, cues: readonly DancedCue[]): Finding[] {
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
      says: `“${cueText(before)}” and “${cueText(c)}” both stand on ${checked.where(before.at)} in ${c.layer}.`,
      why: 'One layer can do one thing at a time; arms, body and head have layers of their own.',
      mend: null,
    })
  }
  return out
}
