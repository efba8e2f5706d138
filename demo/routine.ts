/* The demo routine: an invented beginners' class on the demo song. */
import {
  type Cue,
  emptyRoutine,
  type Layer,
  parseLine,
  type Routine,
  type SectionKind,
  USUAL_SPACE,
} from '../src/core/routine'
import { TICKS_PER_COUNT, timeOfTick } from '../src/core/time'
import { demoTruth } from './song'

export const DEMO_FILE = 'Marmalade Weather.wav'
export const DEMO_TITLE = 'Marmalade Weather, Thursday beginners'
export const DEMO_CREDIT = 'The Copper Kettles'

/** One eight of the dance as lines; an eight danced as an earlier one has only what differs. */
interface Eight {
  feet: string
  arms: string
  /** Number of the eight it is danced as, from 0. */
  as?: number
}

const EIGHTS: readonly Eight[] = [
  {
    feet: '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 cross behind L [behind]; 7 step R; 8 touch L',
    arms: '1-4 open arms, slow LR; 5-7 roll the hands; 8 clap',
  },
  {
    feet: '1 step L; 2 cross behind R; 3 step L; 4 touch R; 5*1/2 kick R; 5& ball R; 6 change L; 7 step forward R; 8 pivot ½ left L',
    arms: '1-2 swing across L; 3-4 swing across R; 5 elbows in LR; 7 punch up R; 8 hand to hip L',
  },
  { as: 0, feet: '', arms: '8 snap LR' },
  {
    feet: '1 step L; 2 cross behind R; 3 step L; 4 touch R; 5 step forward R; 6 pivot ½ left L; 7 jump apart LR; 7 step R #easier; 8 hold; 8 together #easier',
    arms: '1-2 swing across L; 3-4 swing across R; 5 elbows in LR; 7-8 throw up LR',
  },
  {
    feet: '1 walk R; 2 walk L; 3*1/2 walk R; 3& ball L; 4 step R; 5 walk back L; 6 walk back R; 7 together L; 8 hold',
    arms: '2 snap R; 4 snap L; 5-6 palms down LR; 8 snap LR; 8 clap @"back row"',
  },
  {
    feet: '1-2 sway R; 3-4 sway L; 5-6 step-touch R',
    arms: '1-4 arms low, loose; 5-6 push away R',
  },
  { as: 4, feet: '', arms: '' },
  {
    // Written by somebody tired: the left foot carries the weight since 3. The checks find it.
    feet: '1-2 sway R; 3-4 sway L; 5 step L; 6 turn ½ right; 7 turn ½ right R; 8 together L',
    arms: '1-4 arms low, loose; 5-7 wrap LR; 8 open LR',
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
  const phrases: Routine['phrases'] = first > 0 ? [{ length: first, feel: 'straight', pickUp: true }] : []
  for (const p of truth.phrases) phrases.push({ length: p.length, feel: 'straight', pickUp: false })
  const left = heard.length - first - truth.beats.length
  if (left > 0) phrases.push({ length: Math.min(32, left), feel: 'straight', pickUp: false })
  const at = (beat: number) => (beat + first) * TICKS_PER_COUNT
  const start8 = (i: number) => at(FIRST_BEAT + 8 * i)
  const cues = EIGHTS.flatMap(({ feet, arms }, i) => [
    ...cuesOf(feet, 'feet', start8(i)),
    ...cuesOf(arms, 'arms', start8(i)),
  ])
  // The dance begins on 8, in the silence before the chorus.
  cues.push(...cuesOf('8 step L', 'feet', start8(-1)), ...cuesOf('8 reach up R', 'arms', start8(-1)))
  const more = (tick: number, layer: Layer, what: Partial<Cue>) => {
    const cue = cues.find((c) => c.at === tick && c.layer === layer && !c.option && !c.role)
    if (cue) Object.assign(cue, what)
  }
  const count = (i: number, n: number) => start8(i) + (n - 1) * TICKS_PER_COUNT
  more(count(1, 8), 'feet', { facing: 4 })
  more(count(3, 6), 'feet', { facing: 0 })
  // Nobody has said yet what to tell learners about it. The checks find that too.
  more(count(3, 7), 'feet', { caution: 'jump' })
  more(count(4, 7), 'feet', { tip: 'Land it small, the next eight begins at once.' })
  more(count(0, 1), 'arms', { quality: 'slow, as through water', look: 'over the right hand' })
  more(count(0, 8), 'arms', { trigger: { kind: 'sound', mark: 'demo-m-clap' } })
  const time = (tick: number) => Math.round(timeOfTick([...heard], tick) * 1000) / 1000
  const repeats: Routine['repeats'] = EIGHTS.flatMap(({ as }, i) =>
    as === undefined
      ? []
      : [{ id: `demo-r${i}`, to: { from: start8(i), to: start8(i + 1) }, from: start8(as), mirrored: false }],
  )
  // Counts 7 and 8 of the second verse eight are its counts 5 and 6 to the other side.
  repeats.push({
    id: 'demo-r-half',
    to: { from: start8(5) + 144, to: start8(6) },
    from: start8(5) + 96,
    mirrored: true,
  })
  return {
    ...emptyRoutine(DEMO_TITLE, DEMO_CREDIT),
    gear: 'Flat shoes that turn, water.',
    room: 'Two steps to each side; begin in the middle, the front row sits.',
    phrases,
    sections: truth.sections.map((s) => ({
      id: `demo-s${s.beat}`,
      at: at(s.beat),
      name: '',
      kind: KINDS[s.kind] ?? 'part',
      letter: s.letter,
    })),
    excerpt: { from: at(FIRST_BEAT - 1), to: at(FIRST_BEAT + 8 * EIGHTS.length) },
    parts: [
      { id: 'demo-part1', at: at(FIRST_BEAT - 1), name: 'First half' },
      { id: 'demo-part2', at: start8(4), name: 'Second half' },
    ],
    marks: [
      { id: 'demo-m-stop', at: time(at(FIRST_BEAT - 1)), end: null, kind: 'sound', text: 'everything stops' },
      { id: 'demo-m-clap', at: time(count(0, 8)), end: null, kind: 'sound', text: 'clap' },
      {
        id: 'demo-m-hum',
        at: time(start8(4)),
        end: time(start8(5)),
        kind: 'lyric',
        text: '(hummed) la, la, la',
      },
    ],
    cues,
    repeats,
    space: { ...USUAL_SPACE, plain: 'side', room: { width: 7, depth: 5 } },
    dancers: ['Ana', 'Bo', 'Cleo', 'Dimitri'].map((name, i) => ({
      id: `demo-d${i}`,
      name,
      letters: name.charAt(0),
      role: i < 2 ? '' : 'back row',
      partner: null,
    })),
    formations: [
      ...[
        { at: at(FIRST_BEAT - 1), name: 'Two rows', xy: [-0.7, 1.5, 0.7, 1.5, -1.4, 3, 1.4, 3] },
        { at: count(4, 6), name: 'Arrow', xy: [0, 1.2, 1, 2, -1, 2, 2, 2.8] },
        { at: count(6, 6), name: 'Windows', xy: [-1, 1.5, 1, 1.5, 0, 2.7, 2, 2.7] },
      ].map(({ at: stands, name, xy }, i) => ({
        id: `demo-f${i}`,
        at: stands,
        name,
        spots: [0, 1, 2, 3].map((k) => ({
          dancer: `demo-d${k}`,
          x: xy[2 * k] ?? 0,
          y: xy[2 * k + 1] ?? 0,
        })),
        ...(i ? { over: 4 * TICKS_PER_COUNT } : {}),
      })),
    ],
  }
}

function cuesOf(line: string, layer: Layer, start: number): Cue[] {
  return parseLine(line, { length: 8, feel: 'straight', first: 1 }).map(({ role, option, ...l }) => {
    const at = start + l.at
    const who = `${role ? `-${role.replace(/\W/g, '')}` : ''}${option ? `-${option}` : ''}`
    const cue: Cue = { ...l, id: `demo-${layer}-${at}${who}`, at, layer }
    if (role) cue.role = role
    if (option) cue.option = option
    return cue
  })
}
