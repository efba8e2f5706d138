/* The demo routine: an invented beginners' class on the demo song. */
import type { Cue, Layer, Routine, SectionKind, Side } from '../src/core/routine'
import { emptyRoutine } from '../src/core/routine'
import { parseCountLabel, TICKS_PER_COUNT } from '../src/core/time'
import { demoTruth } from './song'

export const DEMO_FILE = 'Marmalade Weather.wav'
export const DEMO_TITLE = 'Marmalade Weather, Thursday beginners'
export const DEMO_CREDIT = 'The Copper Kettles'

/** Count, move, side, and how many counts it lasts (one where left out). */
type Line = readonly [string, string, ('L' | 'R' | 'LR')?, number?]

const SIDES: Record<string, Side> = { L: 'left', R: 'right', LR: 'both' }

const VINE_RIGHT: Line[] = [
  ['1', 'step', 'R'],
  ['2', 'touch', 'L'],
  ['3', 'step', 'L'],
  ['4', 'touch', 'R'],
  ['5', 'step', 'R'],
  ['6', 'cross behind', 'L'],
  ['7', 'step', 'R'],
  ['8', 'touch', 'L'],
]
const VINE_LEFT_HALF: Line[] = [
  ['1', 'step', 'L'],
  ['2', 'cross behind', 'R'],
  ['3', 'step', 'L'],
  ['4', 'touch', 'R'],
]
const KICK_BALL_PIVOT: Line[] = [
  ...VINE_LEFT_HALF,
  ['5', 'kick', 'R', 0.5],
  ['5&', 'ball', 'R', 0.5],
  ['6', 'change', 'L'],
  ['7', 'step forward', 'R'],
  ['8', 'pivot ½ left', 'L'],
]
const SWEEP: Line[] = [
  ['1', 'open arms, slow', 'LR', 4],
  ['5', 'roll the hands', undefined, 3],
  ['8', 'clap'],
]
const PUNCH: Line[] = [
  ['1', 'swing across', 'L', 2],
  ['3', 'swing across', 'R', 2],
  ['5', 'elbows in', 'LR'],
  ['7', 'punch up', 'R'],
  ['8', 'hand to hip', 'L'],
]
const WALKS: Line[] = [
  ['1', 'walk', 'R'],
  ['2', 'walk', 'L'],
  ['3', 'walk', 'R', 0.5],
  ['3&', 'ball', 'L', 0.5],
  ['4', 'step', 'R'],
  ['5', 'walk back', 'L'],
  ['6', 'walk back', 'R'],
  ['7', 'together', 'L'],
  ['8', 'hold'],
]
const SWAY: Line[] = [
  ['1', 'sway', 'R', 2],
  ['3', 'sway', 'L', 2],
  ['5', 'step-touch', 'R', 2],
  ['7', 'step-touch', 'L', 2],
]
const SNAP: Line[] = [
  ['2', 'snap', 'R'],
  ['4', 'snap', 'L'],
  ['5', 'palms down', 'LR', 2],
  ['8', 'snap', 'LR'],
]

/** One eight of the dance, by layer; the chorus comes back to its first eight, written out again by hand. */
const EIGHTS: readonly { feet: Line[]; arms: Line[] }[] = [
  { feet: VINE_RIGHT, arms: SWEEP },
  { feet: KICK_BALL_PIVOT, arms: PUNCH },
  { feet: VINE_RIGHT, arms: SWEEP },
  {
    feet: [
      ...VINE_LEFT_HALF,
      ['5', 'step forward', 'R'],
      ['6', 'pivot ½ left', 'L'],
      ['7', 'jump apart', 'LR'],
      ['8', 'hold'],
    ],
    arms: [...PUNCH.slice(0, 3), ['7', 'throw up', 'LR', 2]],
  },
  { feet: WALKS, arms: SNAP },
  {
    feet: SWAY,
    arms: [
      ['1', 'arms low, loose', undefined, 4],
      ['5', 'push away', 'R', 2],
      ['7', 'push away', 'L', 2],
    ],
  },
  { feet: WALKS, arms: SNAP },
  {
    feet: [
      ...SWAY.slice(0, 2),
      ['5', 'turn ½ right', 'R', 2],
      ['7', 'turn ½ right', 'R'],
      ['8', 'together', 'L'],
    ],
    arms: [
      ['1', 'arms low, loose', undefined, 4],
      ['5', 'wrap', 'LR', 3],
      ['8', 'open', 'LR'],
    ],
  },
]

/** The first chorus and the verse after it. */
const FIRST_BEAT = 64

const KINDS: Record<string, SectionKind> = {
  intro: 'intro',
  verse: 'verse',
  'pre-chorus': 'pre-chorus',
  chorus: 'chorus',
  break: 'break',
  outro: 'outro',
}

/**
 * Lays the demo routine on a heard grid.
 * @param heard beat times as Azalea heard them
 */
export function demoRoutine(heard: readonly number[]): Routine {
  const truth = demoTruth()
  const start = truth.beats[0] ?? 0
  // The heard grid may begin before or after the true one: phrases are laid on the beats as heard.
  const first = heard.reduce(
    (best, t, i) => (Math.abs(t - start) < Math.abs((heard[best] ?? 0) - start) ? i : best),
    0,
  )
  const phrases: Routine['phrases'] =
    first > 0 ? [{ id: 'demo-lead', length: first, feel: 'straight', pickUp: true }] : []
  for (const p of truth.phrases)
    phrases.push({ id: `demo-p${p.beat}`, length: p.length, feel: 'straight', pickUp: false })
  const left = heard.length - first - truth.beats.length
  if (left > 0) phrases.push({ id: 'demo-tail', length: Math.min(32, left), feel: 'straight', pickUp: false })
  const at = (beat: number) => (beat + first) * TICKS_PER_COUNT
  const cues = EIGHTS.flatMap(({ feet, arms }, i) => [
    ...cuesOf(feet, 'feet', at(FIRST_BEAT + 8 * i)),
    ...cuesOf(arms, 'arms', at(FIRST_BEAT + 8 * i)),
  ])
  // The dance begins on 8, in the silence before the chorus.
  cues.push(
    ...cuesOf([['8', 'step', 'L']], 'feet', at(FIRST_BEAT - 8)),
    ...cuesOf([['8', 'reach up', 'R']], 'arms', at(FIRST_BEAT - 8)),
  )
  return {
    ...emptyRoutine(DEMO_TITLE, DEMO_CREDIT),
    phrases,
    sections: truth.sections.map((s) => ({
      id: `demo-s${s.beat}`,
      phrase: `demo-p${s.beat}`,
      name: '',
      kind: KINDS[s.kind] ?? 'part',
      letter: s.letter,
    })),
    excerpt: { start: at(FIRST_BEAT - 1), end: at(FIRST_BEAT + 8 * EIGHTS.length) },
    cues,
  }
}

function cuesOf(lines: readonly Line[], layer: Layer, start: number): Cue[] {
  return lines.map(([label, move, side, counts = 1]) => {
    const at = start + (parseCountLabel(label) ?? 0)
    return {
      id: `demo-${layer}-${at}`,
      at,
      length: counts * TICKS_PER_COUNT,
      layer,
      move,
      side: side ? (SIDES[side] ?? 'none') : 'none',
      call: '',
    }
  })
}
