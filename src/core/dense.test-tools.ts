/*
 * A dense dance: sixty eights of fourteen cues in three layers and more, two roles, three versions, names of sixty letters,
 * another script, parts danced again and in the mirror, six dancers who change places. What the core says of it is kept in
 * dense/*.txt, to be read by people; a test compares.
 */
import { moveBook, STARTING_MOVES } from './choreo'
import {
  type Cue,
  emptyRoutine,
  everyEight,
  layOut,
  type Repeat,
  type Routine,
  type SectionKind,
  USUAL_SPACE,
} from './routine'
import { cuesOf, ids } from './routine/hand.test-tools'
import { TICKS_PER_COUNT } from './time'

export const EIGHT = 8 * TICKS_PER_COUNT
export const EIGHTS = 60
export const book = moveBook(STARTING_MOVES)

const LONG = 'ripple from the fingertips through the shoulder down to the hip'
const SCRIPT = 'поворот с опусканием плеча внутрь и выносом правой руки вверх'

const FEET = [
  '1 step R; 2 touch L; 3 step L; 4 cross behind R [behind]; 5*1/2 kick L; 5& ball L; 6 change R; 7 jump apart LR; 7 step L #easier; 8 hold',
  '1 walk R; 2 walk L; 3*1/2 walk R; 3& ball L; 4 step R; 5 pivot ½ left L; 6 walk R; 7-8 kneel L @follower; 7-8 lunge R @leader',
  '1 chassé R; 3 rock back L; 4 recover R; 5 grapevine L; 8 touch R; 8 double pirouette R #harder',
  '1-2 sway R; 3-4 sway L; 5 turn ½ right R; 6 step L; 7 ball-change R; 8 stamp L; 8& stamp R',
  `1-2 ${SCRIPT} R; 3 step L; 4 run R; 4& run L; 5 run R; 6 leap L; 7 land R; 8 together L`,
]
const ARMS = [
  '1-4 open arms LR; 5 elbows in LR; 6& punch up R; 7 snap L; 8 clap',
  `1 reach up R; 2-3 ${LONG} L; 4 palms down LR; 5-6 swing across L; 7 wrap LR; 8 clap #harder`,
  '1 hand to hip L; 2 hand to hip R; 3e flick R; 3& flick L; 3a flick R; 4 clap; 5-8 arms low, loose',
]
const HEAD = ['1 look right; 5 look left; 8 look front', '3 nod; 7-8 roll left']

/** One eight of it, from the first count. */
function cuesOfEight(k: number, newId: () => string): Cue[] {
  const at = (list: readonly string[]) => list[k % list.length] as string
  const layers = [
    ...cuesOf(at(FEET), 'feet', newId),
    ...cuesOf(at(ARMS), 'arms', newId),
    ...cuesOf(at(HEAD), 'head', newId),
  ]
  return layers.map((c) => ({ ...c, at: c.at + k * EIGHT }))
}

const stretch = (from: number, to: number) => ({ from: from * EIGHT, to: to * EIGHT })
/** Eights that are danced as others: a whole chorus, one in the mirror, half an eight. */
const REPEATS: readonly Repeat[] = [
  { id: 'again', to: stretch(32, 40), from: 8 * EIGHT, mirrored: false },
  { id: 'mirrored', to: stretch(48, 52), from: 0, mirrored: true },
  { id: 'half', to: { from: 55 * EIGHT + EIGHT / 2, to: 56 * EIGHT }, from: 55 * EIGHT, mirrored: true },
]

const SECTIONS: readonly (readonly [number, SectionKind, string, string])[] = [
  [0, 'intro', 'A', ''],
  [4, 'verse', 'B', ''],
  [8, 'chorus', 'C', ''],
  [16, 'verse', 'B', ''],
  [32, 'chorus', 'C', ''],
  [40, 'bridge', 'D', 'Where the strings come in alone and everybody waits for them'],
  [48, 'chorus', 'C', ''],
  [56, 'outro', 'E', ''],
]

const NAMES = [
  'Ana',
  'Bartholomew-Maximilian Featherstonehaugh of the second row left',
  'Чернышевская Александра',
  'Dee',
  'Eun-ji',
  'Fitz',
]
const PLACES: readonly (readonly [number, string, readonly number[]])[] = [
  [0, 'Two rows', [-2, 1.5, 0, 1.5, 2, 1.5, -2, 3, 0, 3, 2, 3]],
  [8, 'Arrow', [0, 1, -1, 2, 1, 2, -2, 3, 2, 3, 0, 3]],
  [16, '', [2, 1.5, 1, 2, -2, 1.5, 0, 4, -1, 3.5, 3.5, 2]],
  [40, 'Circle', [0, 1, 1.7, 2, 1.7, 4, 0, 5, -1.7, 4, -1.7, 2]],
]

export function denseDance(): Routine {
  const newId = ids('c')
  const counts = 8 * EIGHTS
  const grid = { counts, starts: everyEight(0, counts), sections: [] }
  const again = (k: number) =>
    REPEATS.some(({ to }) => to.from < (k + 1) * EIGHT && to.to > k * EIGHT && to.from === k * EIGHT) ||
    REPEATS.some(({ to }) => to.from < k * EIGHT && to.to > k * EIGHT)
  const cues = Array.from({ length: EIGHTS }, (_, k) => (again(k) ? [] : cuesOfEight(k, newId))).flat()
  const first = cues.find((c) => c.move === 'jump apart')
  if (first) Object.assign(first, { caution: 'jump', tip: 'Land it small.', call: 'jump!' })
  return {
    ...layOut(emptyRoutine('A dense dance', 'Nobody'), grid, newId),
    cues: cues.filter((c) => !(c.at >= 55 * EIGHT + EIGHT / 2 && c.at < 56 * EIGHT)),
    repeats: [...REPEATS],
    sections: SECTIONS.map(([k, kind, letter, name]) => ({ id: `s${k}`, at: k * EIGHT, kind, letter, name })),
    parts: [
      { id: 'p0', at: 0, name: 'First half' },
      { id: 'p1', at: 32 * EIGHT, name: 'Second half' },
    ],
    marks: [
      { id: 'm0', at: 5, end: 8.2, kind: 'lyric', text: 'what the weather brings' },
      { id: 'm1', at: 12.02, end: null, kind: 'sound', text: 'clap' },
    ],
    space: { ...USUAL_SPACE, plain: 'side', room: { width: 6, depth: 6 } },
    dancers: NAMES.map((name, i) => ({
      ...{ id: `d${i}`, name, letters: name.slice(0, 1) },
      ...{ role: i < 2 ? '' : i % 2 ? 'leader' : 'follower', partner: null },
    })),
    formations: PLACES.map(([k, name, xy], f) => ({
      ...{ id: `f${f}`, at: k * EIGHT, name },
      spots: NAMES.map((_, i) => ({ dancer: `d${i}`, x: xy[2 * i] ?? 0, y: xy[2 * i + 1] ?? 0 })),
      ...(f ? { over: 4 * TICKS_PER_COUNT } : {}),
    })),
  }
}

/** When its counts begin: 108 a minute, a little faster in the middle. */
export const TIMES: readonly number[] = Array.from(
  { length: 8 * EIGHTS },
  (_, k) => Math.round(1e4 * (0.6 + (k * 60) / 108 - 0.4 * Math.sin((Math.PI * k) / 480))) / 1e4,
)
