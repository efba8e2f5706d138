import {
  cueText,
  type DancedCue,
  danceOf,
  mayBeShape,
  mirrorText,
  setExcerpt,
  sidesNamed,
  withShapes,
} from '../routine'
import { holds, TICKS_PER_COUNT, type Ticks } from '../time'
import { aboutCues, type Checked, type Finding } from './checked'
import { isFooted, stepOf } from './effects'

/** Counts without any cue that look forgotten. */
const EMPTY_COUNTS = 16
/** "Left hand": the side of a limb, not the way it goes. */
const LIMB_NAMED =
  /\b(?:left|right)\s+(?:arms?|hands?|elbows?|fists?|palms?|wrists?|shoulders?|hips?|knees?|legs?|f[eo]{2}t)\b/i

/** Findings of the cues as they are written, and of what is not. */
export function writtenFindings(checked: Checked): Finding[] {
  return [...cautions(checked), ...sides(checked), ...shapes(checked), ...empty(checked), ...outside(checked)]
}

function cautions(checked: Checked): Finding[] {
  return checked.routine.cues.flatMap((c): Finding[] =>
    c.caution && !c.tip
      ? [
          {
            about: aboutCues('caution', [c]),
            kind: 'caution',
            at: c.at,
            layer: c.layer,
            says: `“${cueText(c)}” on ${checked.where(c.at)} is marked ${c.caution}, without a tip.`,
            why: 'Whoever teaches it should know what to say for safety.',
            mend: null,
          },
        ]
      : [],
  )
}

/** A letter that may be a shape: asked once, since to the other side it would be another. */
function shapes(checked: Checked): Finding[] {
  return checked.routine.cues.flatMap((c): Finding[] =>
    mayBeShape(c.move)
      ? [
          {
            about: aboutCues('side', [c]),
            kind: 'side',
            at: c.at,
            layer: c.layer,
            says: `“${c.move}” on ${checked.where(c.at)}: to the other side it would be “${mirrorText(c.move)}”.`,
            why: 'If the letter is a shape and not a side, it stays as it is.',
            mend: checked.own(c, 'It is a shape', (cue) => ({ ...cue, move: withShapes(cue.move) })),
          },
        ]
      : [],
  )
}

function sides(checked: Checked): Finding[] {
  return checked.routine.cues.flatMap((c): Finding[] => {
    if (c.side !== 'left' && c.side !== 'right') return []
    const words = [...new Set(sidesNamed(c.move))]
    const [word] = words
    if (words.length !== 1 || word === undefined || word === c.side) return []
    const step = stepOf(c, checked.book)
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
        says: `“${c.move}” on ${checked.where(c.at)} says ${side}, its side says ${c.side}.`,
        why: 'Called and drawn, it would be two different things.',
        mend: checked.own(c, `Set the side to ${side}`, (cue) => ({ ...cue, side })),
      },
    ]
  })
}

/** Cues before the dance begins, or after it ends, as that was set by hand. */
function outside(checked: Checked): Finding[] {
  const { excerpt } = checked.routine
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
        ? `before the dance begins, from ${checked.where(first.at)} on`
        : `after the dance ends, from ${checked.where(first.at)} on`
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
      checked.all.filter((c) => c.at < from),
      'start',
    ),
    ...side(
      checked.all.filter((c) => c.at >= to),
      'end',
    ),
  ]
}

function empty(checked: Checked): Finding[] {
  if (!checked.all.length) return []
  const dance = danceOf(checked.routine)
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
      says: `From ${checked.where(from)} on nothing is cued for ${counts} counts.`,
      why: 'A wait or free dancing is better written down, as “hold” or “freestyle”.',
      mend: null,
    })
  }
  for (const c of checked.all) {
    if (!holds(dance, c.at)) continue
    report(c.at)
    from = Math.max(from, c.at + c.length)
  }
  report(dance.to)
  return out
}
