/* Every edit there is, each made from some random numbers. A new edit that is not here fails a test. */
import {
  addDrill,
  addPlan,
  addStep,
  changePlan,
  changeStep,
  changeSteps,
  moveSteps,
  nudgeStep,
  putCourse,
  REACHES,
  reachOfSteps,
  removeCourse,
  removePlan,
  setPasses,
  takeOut,
} from './lesson'
import {
  addDancers,
  addFilm,
  addMarks,
  backToHeard,
  beginPart,
  beginSection,
  bendWay,
  bringGrid,
  bringMarks,
  bringSections,
  bringSent,
  type Cue,
  changeCues,
  changeDancer,
  changeFilm,
  changeMark,
  changeVoice,
  clear,
  confirmCounting,
  copied,
  countBy,
  countByInSection,
  danced,
  type Edit,
  eachTime,
  emptyRoutine,
  endRepeat,
  everyEight,
  type Film,
  type FilmTake,
  foundTakes,
  goAfterAnother,
  type HeardGrid,
  heardInStretch,
  insertPhrase,
  joinPhrase,
  keepVoice,
  LAYERS,
  type Layer,
  type LessonPlan,
  layOut,
  layOutHeard,
  leaveSpots,
  lengthenCue,
  letStand,
  lookAgain,
  madeAs,
  mirrorMarked,
  moveCue,
  moveFormation,
  moveSection,
  moveSectionByCounts,
  moveTakeEnds,
  nameFormation,
  newSection,
  nextLetter,
  oneFromHere,
  oneHere,
  parseLine,
  paste,
  placeDancers,
  placePhrases,
  putCue,
  putEach,
  putLine,
  putTake,
  type Routine,
  redrawBeats,
  rehear,
  removeCue,
  removeDancer,
  removeEach,
  removeFilm,
  removeFormation,
  removeLearner,
  removeMarks,
  removePart,
  removeSection,
  removeTake,
  removeVoice,
  rename,
  repair,
  repairedBeats,
  replaceWords,
  SECTION_KINDS,
  sameAsSection,
  setApart,
  setBorders,
  setCalling,
  setExcerpt,
  setFeel,
  setLeastGap,
  setNeeds,
  setOver,
  setPhraseLength,
  setPosition,
  setRepeat,
  setSpace,
  setUsualBorder,
  shiftPhrases,
  snapMarks,
  splitPhrase,
  standAs,
  standEach,
  stepKey,
  takeSection,
  totalCounts,
  USUAL,
  unlink,
  wholeSong,
  withDetail,
  writeFilmNote,
  writeLyrics,
} from './routine'
import { cuesOf, ids } from './routine/hand.test-tools'
import { type Seconds, TICKS_PER_COUNT } from './time'

/** Numbers that decide what an edit is about. */
export interface Dice {
  /** A whole number from 0 up to n, not included. */
  below: (n: number) => number
  /** A whole number from a to b, both included. */
  from: (a: number, b: number) => number
  one: <T>(list: readonly T[]) => T | undefined
  id: () => string
}

/** The song as it was heard, twice: the second time a little later, with one beat more in front. */
export const HEARD: Record<number, readonly Seconds[]> = {
  1: Array.from({ length: 72 }, (_, k) => 1 + k * 0.5 + 0.02 * Math.sin(k / 5)),
  2: Array.from({ length: 73 }, (_, k) => 0.52 + k * 0.5 + 0.02 * Math.sin(k / 5)),
}
const grid = (version: number): HeardGrid => {
  const beats = HEARD[version] as readonly Seconds[]
  const starts = Array.from({ length: 9 }, (_, k) => k * 8 + (version === 2 ? 1 : 0))
  return { version, beats, proposal: { counts: beats.length, starts, sections: [{ count: 8, letter: 'A' }] } }
}
export const heardOf = (r: Routine): readonly Seconds[] => HEARD[r.heardWith || 1] as readonly Seconds[]
export const timesOf = (r: Routine): Seconds[] => repairedBeats(heardOf(r), r.repairs)

const counts = (r: Routine) => totalCounts(r.phrases)
/** Some with what no name may keep: lines, spaces around, half of a character. */
const WORDS = [
  'step',
  ' touch ',
  'clap\nEND:VEVENT',
  'turn ½ left',
  'look right',
  'hold',
  'ball-change',
  'half \uD83D',
]

const tick = (r: Routine, d: Dice) => {
  const part = d.one([0, 0, 0, 6, 12, 18, 8, 16]) ?? 0
  return d.below(Math.max(1, counts(r))) * TICKS_PER_COUNT + part
}
const stretch = (r: Routine, d: Dice) => {
  const from = tick(r, d)
  return { from, to: from + d.from(1, 20 * TICKS_PER_COUNT) }
}
const marked = (r: Routine, d: Dice) => ({
  ...stretch(r, d),
  layers: LAYERS.slice(0, d.from(1, LAYERS.length)),
})
const aCue = (r: Routine, d: Dice): Cue => ({
  id: d.id(),
  at: tick(r, d),
  // Longer than may be, now and then.
  length: d.one([6, 12, 24, 48, 192, 24 * 40, 24 * 70]) ?? 24,
  layer: d.one(LAYERS) as Layer,
  move: d.one(WORDS) ?? 'step',
  side: d.one(['left', 'right', 'none'] as const) ?? 'none',
  call: '',
})
const phraseOf = (r: Routine, d: Dice) => d.below(Math.max(1, r.phrases.length))
const idOf = (list: readonly { id: string }[], d: Dice) => d.one(list)?.id ?? 'none'
const kind = (d: Dice) => d.one(SECTION_KINDS) ?? 'part'
const pageStart = (r: Routine, d: Dice) => d.one(placePhrases(r))?.start ?? 0
const onPlan = (r: Routine, d: Dice, what: (p: LessonPlan) => LessonPlan) =>
  changePlan(r, idOf(r.plans, d), what)
const stepId = (p: LessonPlan, d: Dice) => {
  const step = d.one(p.steps)
  return step ? stepKey(step) : 'none'
}

const aSpot = (r: Routine, d: Dice) => ({
  dancer: idOf(r.dancers, d),
  x: d.from(-40, 40) / 10,
  y: d.from(0, 60) / 10,
  ...(d.below(2) ? { facing: d.below(8) } : {}),
})

/** What a learner said. */
const sentMarks = (d: Dice) => ({
  learner: d.one(['Ann', 'Bo']) ?? 'Ann',
  made: d.one(['2026-11-20T10:00:00Z', '2026-11-21T10:00:00Z']) ?? '2026-11-20T10:00:00Z',
  marks: [{ from: d.from(-20, 200), to: d.from(0, 220), sits: d.below(2) === 0, at: '2026-11-20T09:00:00Z' }],
})
const aTake = (d: Dice, from: Seconds): FilmTake => ({
  from,
  to: from + d.from(1, 60),
  at: d.below(30),
  rate: d.one([0.5, 0.75, 1]) ?? 1,
  sure: 0.5,
  by: d.one(['sound', 'hand'] as const) ?? 'sound',
})
const aFilm = (d: Dice): Film => ({
  id: d.id(),
  file: 'film-file',
  name: d.one(WORDS) ?? 'film',
  whose: '',
  side: 'front',
  mirrored: false,
  filmed: null,
  seconds: 100,
  searched: false,
  frameRate: 30,
  takes: [],
  notes: [],
})

export const aPlan = (r: Routine, d: Dice): LessonPlan => ({
  id: d.id(),
  name: 'Plan',
  settings: USUAL,
  group: '',
  goesOn: null,
  heads: null,
  gone: [],
  steps: Array.from({ length: 3 }, (_, k) => {
    const s = stretch(r, d)
    return {
      made: madeAs(`rung ${k}`, s.from),
      kind: 'drill' as const,
      stretch: s,
      runUp: 0,
      pass: 'all' as const,
      speed: 0.75,
      sound: 'both' as const,
      view: 'true' as const,
      repetitions: 2,
      talk: 0,
      why: '',
      version: '',
      how: 'together' as const,
      calls: 'as set' as const,
      leadIn: 'clicks' as const,
      note: '',
      own: false,
    }
  }),
})

/** Edits that never change what is danced, nor when: each danced cue stays at its moment of the song, or is named. */
export const PAGE_EDITS = {
  shiftPhrases: (d) => (r) => shiftPhrases(r, d.from(-9, 9)),
  oneHere: (d) => (r) => oneHere(r, d.below(counts(r))),
  oneFromHere: (d) => (r) => oneFromHere(r, d.below(counts(r))),
  setPhraseLength: (d) => (r) => setPhraseLength(r, phraseOf(r, d), d.from(0, 33)),
  splitPhrase: (d) => (r) => splitPhrase(r, d.below(counts(r))),
  joinPhrase: (d) => (r) => joinPhrase(r, phraseOf(r, d)),
  insertPhrase: (d) => (r) => insertPhrase(r, phraseOf(r, d), d.from(1, 12)),
  setFeel: (d) => (r) => setFeel(r, phraseOf(r, d), d.one(['straight', 'triplet'] as const) ?? 'straight'),
  countBy: (d) => (r) => countBy(r, d.from(1, 16), d.below(3) ? null : phraseOf(r, d)),
  countByInSection: (d) => (r) => countByInSection(r, d.from(1, 16), phraseOf(r, d)),
  confirmCounting: (d) => (r) => confirmCounting(r, d.from(0, 20)),
  newSection: (d) => (r) => newSection(r, pageStart(r, d), d.id),
  beginSection: (d) => (r) =>
    beginSection(
      r,
      pageStart(r, d),
      { name: d.one(['', 'Hook', 'Verse', ' Tag\r\n']) ?? '', kind: kind(d), letter: nextLetter(r.sections) },
      d.id,
    ),
  takeSection: (d) => (r) => takeSection(r, [{ count: d.below(60), letter: 'C', kind: kind(d) }], d.id),
  sameAsSection: (d) => (r) => sameAsSection(r, idOf(r.sections, d), idOf(r.sections, d)),
  moveSection: (d) => (r) => moveSection(r, idOf(r.sections, d), d.from(-2, 2)),
  moveSectionByCounts: (d) => (r) => moveSectionByCounts(r, idOf(r.sections, d), d.from(-4, 4)),
  removeSection: (d) => (r) => removeSection(r, idOf(r.sections, d)),
  setNeeds: (d) => (r) =>
    setNeeds(r, { gear: d.one(['', 'knee pads']) ?? '', room: d.one(['', '4 m']) ?? '' }),
  setPosition: (d) => (r) =>
    setPosition(r, tick(r, d), {
      weight: d.one(['left', 'right', 'both', undefined] as const),
      facing: d.one([0, 2, 7, undefined]),
      level: d.one(['low', undefined] as const),
      arms: d.one(['', 'down', 'on the hips']),
    }),
  setBorders: (d) => (r) =>
    setBorders(
      r,
      placePhrases(r).flatMap((p) => (p.index && d.below(3) === 0 ? [p.start] : [])),
      { lean: d.from(0, 60), resolve: d.below(2) * 24 },
    ),
  setUsualBorder: (d) => (r) => setUsualBorder(r, { lean: d.from(0, 60), resolve: d.below(2) * 24 }),
  beginPart: (d) => (r) => beginPart(r, tick(r, d), 'Part', d.id),
  removePart: (d) => (r) => removePart(r, idOf(r.parts, d)),
  double: (d) => (r) => repair(r, heardOf(r), { kind: 'double' }, d.id),
  halve: (d) => (r) => repair(r, heardOf(r), { kind: 'halve', keep: d.one([0, 1] as const) ?? 0 }, d.id),
  shift: (d) => (r) =>
    repair(
      r,
      heardOf(r),
      { kind: 'shift', seconds: d.from(-30, 30) / 100, ...(d.below(2) ? { from: d.below(40) } : {}) },
      d.id,
    ),
  pin: (d) => (r) => {
    const beat = d.below(40)
    return repair(
      r,
      heardOf(r),
      { kind: 'pin', beat, at: (timesOf(r)[beat] ?? 1) + d.from(-10, 10) / 100 },
      d.id,
    )
  },
  regrid: (d) => (r) => {
    const times = timesOf(r)
    const from = d.below(times.length)
    const to = Math.min(times.length, from + d.from(1, 24))
    const [a, b] = [times[from] ?? 1, times[to] ?? (times.at(-1) ?? 1) + 0.5]
    const n = Math.max(1, Math.round(((b - a) / 0.5) * (d.one([0.5, 1, 2, 1.5]) ?? 1)))
    const beats = Array.from({ length: n }, (_, k) => a + ((b - a) * k) / n)
    return repair(r, heardOf(r), { kind: 'grid', from, to, beats }, d.id)
  },
  redrawBeats: (d) => (r) => {
    const from = d.below(30)
    const late = timesOf(r).slice(from, from + d.from(1, 20))
    return redrawBeats(
      r,
      heardOf(r),
      from,
      late.map((t, i) => t + (late.length - 1 - i) / 100),
    )
  },
  backToHeard: (d) => (r) => backToHeard(r, heardOf(r), d.id),
  heardInStretch: (d) => (r) => heardInStretch(r, heardOf(r), d.below(30), d.from(31, 60), d.id),
  bringGrid: (d) => (r) => {
    const start = d.from(0, 80) / 2
    const period = d.from(30, 90) / 100
    const beats = Array.from({ length: d.from(8, 80) }, (_, k) => start + k * period)
    const numbers = d.below(2) ? beats.map((_, k) => (k % 8) + 1) : null
    return bringGrid(
      r,
      heardOf(r),
      { beats, numbers, sections: [{ start: 10, text: 'refrain' }] },
      d.below(2) === 0,
      d.id,
    )
  },
  bringSections: (d) => (r) =>
    bringSections(
      r,
      timesOf(r),
      Array.from({ length: d.from(1, 40) }, (_, k) => ({ start: k * 0.9, text: `s${k}` })),
      d.id,
    ),
  rehear: (d) => (r) => rehear(r, grid(r.heardWith || 1), grid(r.heardWith === 2 ? 1 : 2), d.id),
  setExcerpt: (d) => (r) => setExcerpt(r, d.one(['start', 'end'] as const) ?? 'start', tick(r, d)),
  wholeSong: () => wholeSong,
  writeLyrics: (d) => (r) => writeLyrics(r, `line ${d.below(9)}`),
  setCalling: (d) => (r) => setCalling(r, { called: 'words', calledAhead: d.below(2) === 0 }),
  setLeastGap: (d) => (r) => setLeastGap(r, d.from(1, 25) / 10),
  letStand: (d) => (r) =>
    letStand(
      r,
      { kind: 'fast', places: [{ at: tick(r, d), length: 24, says: 'feet' }], limit: 0.25 },
      'so be it',
    ),
  lookAgain: () => lookAgain,
  rename: (d) => (r) => rename(r, d.one(['New name', ' ', 'x'.repeat(201)]) ?? '', ''),
  addMarks: (d) => (r) =>
    addMarks(r, [{ kind: 'lyric', at: d.from(-100, 100), end: null, text: 'la' }], d.id),
  removeMarks: (d) => (r) => removeMarks(r, (m) => m.id === idOf(r.marks, d)),
  addPlan: (d) => (r) => addPlan(r, aPlan(r, d)),
  removePlan: (d) => (r) => removePlan(r, idOf(r.plans, d)),
  changePlan: (d) => (r) => onPlan(r, d, (p) => ({ ...p, name: 'Another' })),
  moveSteps: (d) => (r) => onPlan(r, d, (p) => moveSteps(p, [stepId(p, d)], stepId(p, d), true)),
  nudgeStep: (d) => (r) => onPlan(r, d, (p) => nudgeStep(p, stepId(p, d), 1)),
  addStep: (d) => (r) => onPlan(r, d, (p) => addStep(p, stepId(p, d), d.id)),
  putCourse: (d) => (r) =>
    putCourse(r, {
      id: d.one(['a', 'b']) ?? 'a',
      group: 'G',
      dates: ['2026-12-03T18:30'],
      minutes: 60,
      standsBy: null,
    }),
  keepVoice: (d) => (r) => {
    const s = stretch(r, d)
    const pieces = [s.from - 1.5, s.from + 3, s.to - 2.25].map((at, i) => ({
      at,
      from: i,
      stress: i + 0.1,
      to: i + 0.5,
    }))
    const voice = { stretch: s, recording: 'abcdefgh', pieces, exact: d.below(2) === 0 }
    return keepVoice(r, { ...voice, id: d.one(['a', 'b', 'c']) ?? 'a' }, d.id)
  },
  changeVoice: (d) => (r) =>
    changeVoice(r, idOf(r.voices, d), { later: d.from(-50, 50) / 4, exact: d.below(2) === 0 }),
  removeVoice: (d) => (r) => removeVoice(r, idOf(r.voices, d)),
  setSpace: (d) => (r) =>
    setSpace(r, {
      plain: d.one(['unknown', 'side', 'spot']) ?? 'side',
      room: d.below(2) ? { width: d.from(1, 12), depth: d.from(1, 9) } : null,
      begin: d.below(2) ? { x: d.from(-3, 3), y: d.from(0, 4) } : null,
    }),
  addDancers: (d) => (r) => addDancers(r, d.from(1, 4), d.id),
  changeDancer: (d) => (r) =>
    changeDancer(r, idOf(r.dancers, d), { name: 'Ann', partner: d.below(2) ? idOf(r.dancers, d) : null }),
  removeDancer: (d) => (r) => removeDancer(r, idOf(r.dancers, d)),
  placeDancers: (d) => (r) => placeDancers(r, tick(r, d), [aSpot(r, d), aSpot(r, d)], d.id),
  nameFormation: (d) => (r) => nameFormation(r, idOf(r.formations, d), 'Windows'),
  moveFormation: (d) => (r) => moveFormation(r, idOf(r.formations, d), tick(r, d)),
  removeFormation: (d) => (r) => removeFormation(r, idOf(r.formations, d)),
  leaveSpots: (d) => (r) => leaveSpots(r, idOf(r.formations, d), [idOf(r.dancers, d)]),
  setOver: (d) => (r) => setOver(r, idOf(r.formations, d), d.below(2) ? 24 * d.from(0, 8) : null),
  bendWay: (d) => (r) =>
    bendWay(r, idOf(r.formations, d), idOf(r.dancers, d), d.below(2) ? { x: d.from(-4, 4), y: 2 } : null),
  goAfterAnother: (d) => (r) =>
    goAfterAnother(
      r,
      idOf(r.formations, d),
      r.dancers.map((x) => x.id),
      24 * d.below(3),
    ),
  standAs: (d) => (r) => standAs(r, tick(r, d), d.one(r.formations)?.spots ?? [], d.below(2) === 0, d.id),
  addFilm: (d) => (r) => addFilm(r, aFilm(d)),
  removeFilm: (d) => (r) => removeFilm(r, idOf(r.films, d)),
  changeFilm: (d) => (r) => changeFilm(r, idOf(r.films, d), { mirrored: d.below(2) === 0, whose: 'Ann' }),
  foundTakes: (d) => (r) => foundTakes(r, idOf(r.films, d), [aTake(d, 0), aTake(d, 40), aTake(d, 80)]),
  putTake: (d) => (r) => putTake(r, idOf(r.films, d), { ...aTake(d, d.below(90)), by: 'hand' }),
  moveTakeEnds: (d) => (r) =>
    moveTakeEnds(r, idOf(r.films, d), d.below(4), { from: d.below(60), to: d.from(20, 130) }),
  removeTake: (d) => (r) => removeTake(r, idOf(r.films, d), d.below(3)),
  writeFilmNote: (d) => (r) =>
    writeFilmNote(r, idOf(r.films, d), {
      id: d.one(['a', 'b']) ?? 'a',
      at: tick(r, d),
      seconds: d.below(100),
      text: d.one(['wrist', '', ' hips\u0007']) ?? '',
    }),
  bringMarks: (d) => (r) => bringMarks(r, sentMarks(d), timesOf(r), d.id, new Date('2026-11-22T10:00:00Z')),
  bringSent: (d) => (r) => {
    const device = d.one(['device-1', 'device-2']) ?? 'device-1'
    return bringSent(r, device, sentMarks(d), timesOf(r), new Date('2026-11-22T10:00:00Z'))
  },
  removeLearner: (d) => (r) => removeLearner(r, idOf(r.learners, d)),
  removeCourse: (d) => (r) => removeCourse(r, d.one(['a', 'b']) ?? 'a'),
  changeSteps: (d) => (r) =>
    onPlan(r, d, (p) => changeSteps(p, new Set([stepId(p, d), stepId(p, d)]), { speed: 0.5, how: 'small' })),
  addDrill: (d) => (r) => onPlan(r, d, (p) => addDrill(p, stretch(r, d), stepId(p, d), d.id)),
  setPasses: (d) => (r) =>
    onPlan(r, d, (p) => ({
      ...p,
      settings: setPasses(
        p.settings,
        stretch(r, d),
        d.one([null, ['arms'], ['feet', 'head']] as const) ?? null,
      ),
    })),
  changeStep: (d) => (r) => onPlan(r, d, (p) => changeStep(p, stepId(p, d), { repetitions: d.from(1, 60) })),
  reachOfSteps: (d) => (r) =>
    onPlan(r, d, (p) =>
      reachOfSteps(p, new Set([stepId(p, d)]), d.one(REACHES) ?? 'pick-up', placePhrases(r), danced(r)),
    ),
  takeOut: (d) => (r) => onPlan(r, d, (p) => takeOut(p, new Set([stepId(p, d)]))),
  unlink: (d) => (r) => unlink(r, stretch(r, d), d.id),
  writeOut: (d) => (r) => endRepeat(r, idOf(r.repeats, d), true, d.id),
} satisfies Record<string, (d: Dice) => Edit>

/** Edits of what is danced. */
export const DANCE_EDITS = {
  standEach: (d) => (r) => {
    const cue = d.one(r.cues)
    const placed = placePhrases(r)
    const { marks, sections } = cue ? eachTime(r, placed, timesOf(r), cue) : { marks: [], sections: [] }
    return cue ? standEach(r, cue.id, d.below(2) ? marks : sections, d.id) : r
  },
  putEach: (d) => (r) => {
    const cue = d.one(r.cues.filter((c) => c.each)) ?? d.one(r.cues)
    return cue ? putEach(r, { ...cue, move: d.one(WORDS) ?? 'step', length: d.from(1, 48) }) : r
  },
  setApart: (d) => (r) => setApart(r, d.one(r.cues)?.id ?? 'none'),
  removeEach: (d) => (r) => removeEach(r, d.one(r.cues)?.id ?? 'none'),
  putCue: (d) => (r) => putCue(r, aCue(r, d)),
  moveCue: (d) => (r) => moveCue(r, idOf(r.cues, d), d.from(-60, 60)),
  removeCue: (d) => (r) => removeCue(r, idOf(danced(r), d), d.id),
  lengthenCue: (d) => (r) => lengthenCue(r, idOf(r.cues, d), d.from(-200, 2000)),
  paste: (d) => (r) => paste(r, copied(danced(r), marked(r, d)), tick(r, d), d.id),
  clear: (d) => (r) => clear(r, marked(r, d), d.id),
  mirrorMarked: (d) => (r) => mirrorMarked(r, marked(r, d), d.id),
  putLine: (d) => (r) => {
    const p = d.one(placePhrases(r))
    if (!p) return r
    const line = parseLine(`${p.first} step R; ${p.first} clap`, {
      length: p.phrase.length,
      feel: p.phrase.feel,
      first: p.first,
    })
    return putLine(r, p, d.one(LAYERS) as Layer, line, d.id)
  },
  replaceWords: (d) => (r) => replaceWords(r, 'step', d.one(['walk', 'x'.repeat(300), '']) ?? '', false),
  changeCues: (d) => (r) =>
    changeCues(r, new Set([idOf(r.cues, d)]), (c) => withDetail(c, { facing: d.below(8), tip: 'soft' })),
  setRepeat: (d) => (r) =>
    setRepeat(r, { id: d.id(), to: stretch(r, d), from: tick(r, d), mirrored: d.below(2) === 0 }, d.id),
  endRepeat: (d) => (r) => endRepeat(r, idOf(r.repeats, d), false, d.id),
  changeMark: (d) => (r) => changeMark(r, idOf(r.marks, d), { at: d.from(-100, 100) }, timesOf(r)),
  snapMarks: () => (r) => snapMarks(r, timesOf(r), placePhrases(r), 'lyric'),
  layOut: (d) => (r) =>
    layOut(r, { ...grid(r.heardWith || 1).proposal, counts: Math.max(1, counts(r)) }, d.id),
  layOutHeard: (d) => (r) =>
    r.phrases.length || r.repairs.length ? r : layOutHeard(r, grid(r.heardWith || 1), d.id),
} satisfies Record<string, (d: Dice) => Edit>

/** Dice that fall as some numbers say, again and again. @param prefix of the ids they give */
export function dice(numbers: readonly number[], prefix: string): Dice {
  let i = 0
  let n = 0
  const next = () => numbers[i++ % numbers.length] as number
  const below = (max: number) => (max <= 0 ? 0 : next() % max)
  return {
    below,
    from: (a, b) => a + below(b - a + 1),
    one: (list) => list[below(list.length)],
    id: () => `${prefix}-${n++}`,
  }
}

/** A dance with cues in two layers, repeats of eights and of parts of them, sections, parts, words, a plan. */
export function start(): Routine {
  const d = dice([7, 3, 11, 5], 'start')
  const blank = layOut(
    emptyRoutine('Test'),
    {
      counts: heardOf(emptyRoutine('x')).length,
      starts: everyEight(0, 72),
      sections: [
        { count: 0, letter: 'A' },
        { count: 32, letter: 'B' },
      ],
    },
    ids('s'),
  )
  const cues = [
    ...cuesOf(['1 step R; 2& touch L; 4 turn ½ left', '1e clap; 8& jump', '5-8 sway R']),
    ...cuesOf('1-4 reach R; 5& snap L', 'arms'),
  ]
  const linked = [
    { id: 'r1', to: { from: 5 * 192, to: 6 * 192 }, from: 0, mirrored: true },
    { id: 'r2', to: { from: 7 * 192 + 36, to: 8 * 192 }, from: 5 * 192, mirrored: false },
    { id: 'r3', to: { from: 4 * 192, to: 4 * 192 + 100 }, from: 2 * 192 + 90, mirrored: false },
  ].reduce((r, x) => setRepeat(r, x, ids(`cut-${x.id}`)), { ...blank, cues })
  const sung = addMarks(linked, [{ kind: 'lyric', at: 3, end: null, text: 'la' }], ids('m'))
  return {
    ...sung,
    sections: sung.sections.map((s, i) => (i === 1 ? { ...s, name: 'Big finish' } : s)),
    excerpt: { from: 180, to: 192 * 8 },
    parts: [{ id: 'p', at: 180, name: 'One' }],
    plans: [aPlan(sung, d)],
  }
}
