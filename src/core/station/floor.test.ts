import { describe, expect, it } from 'vitest'
import type { DrillPlan, Mark } from '../drill'
import { type FloorEvent, type FloorLesson, type FloorState, STILL, step } from '../floor'
import { type LessonStep, madeAs, placePhrases, plainStep, stepKey } from '../routine'
import { page } from '../routine/hand.test-tools'
import {
  type FloorPlace,
  type FloorStationEffect,
  type FloorStationEvent,
  type FloorWish,
  floorAtFirst,
  isAnnounced,
  litLine,
  nextAdded,
  nextOf,
  stepFloor,
} from './floor'

const PLAN: DrillPlan = {
  kind: 'drill',
  stretch: { from: 0, to: 192 },
  speed: 0.75,
  sound: 'both',
  countIn: 4,
  countInEach: false,
  pass: 'feet',
}
const DANCE = { from: 0, to: 768 }
const placed = placePhrases(page(4))

const lessonStep = (own: Partial<LessonStep>): LessonStep =>
  plainStep({
    ...{ made: madeAs('1'), kind: 'break down', stretch: { from: 96, to: 288 }, pass: 'arms' },
    ...{ speed: 0.75, repetitions: 2 },
    ...own,
  })
const lessonOf = (...steps: LessonStep[]): FloorLesson => ({
  ...{ evening: 'e', name: 'Lesson', countIn: 4, group: 'Thursday', heads: 9, planned: steps.map(() => 60) },
  steps,
})
const LESSON = lessonOf(lessonStep({}), lessonStep({ kind: 'drill', made: madeAs('2') }))

/** What only a page knows. */
const KNOWN = { now: 2, id: 'd', heard: null }

/** A station whose effects on the floor's machine are carried out; the rest is kept. */
class Station {
  floor: FloorState = STILL
  state: FloorPlace
  done: FloorStationEffect[] = []
  seen = {
    dance: DANCE,
    placed,
    prompt: null as readonly number[] | null,
    beside: 'none' as const as 'none' | 'camera' | 'figure' | 'plan' | 'film',
    films: [] as string[],
    planned: true,
    film: null as string | null,
    replay: 'now' as const as 'now' | 'last' | 'both',
  }
  constructor(lesson: FloorLesson | null = null) {
    this.state = floorAtFirst(PLAN, lesson)
    this.told({ kind: 'enter', lesson, now: 1 })
  }
  told(event: FloorEvent) {
    this.floor = step(this.floor, event).state
    return this
  }
  send(...events: FloorStationEvent[]) {
    for (const event of events) {
      const { state, effects } = stepFloor(this.state, event, { floor: this.floor, ...this.seen })
      this.state = state
      this.done = effects
      for (const e of effects)
        if (e.kind === 'tell') this.told({ ...e.wish, ...KNOWN } satisfies FloorWish as FloorEvent)
    }
    return this
  }
  /** What the floor's machine was told last. */
  get wishes() {
    return this.done.flatMap((e) => (e.kind === 'tell' ? [e.wish] : []))
  }
}
const mark = (m: Mark, paged = false): FloorStationEvent => ({ kind: 'mark', mark: m, paged })
const dancing = (lesson: FloorLesson | null = null) => {
  const at = new Station(lesson).send({ kind: 'drill' })
  at.told({ kind: 'began', speed: 0.75, seconds: 4, looped: false })
  return at
}

describe('the Floor station', () => {
  it('begins the drill that was chosen, and says that a first one was begun', () => {
    const at = new Station().send({ kind: 'go' })
    expect(at.done).toEqual([
      { kind: 'drilled' },
      { kind: 'tell', wish: { kind: 'start', plan: { ...PLAN, kind: 'drill' } } },
    ])
    expect(at.floor.drill?.plan.stretch).toEqual(PLAN.stretch)
    // A run that was chosen before is a drill again.
    const run = new Station().send({ kind: 'plan', what: { kind: 'run' } }, { kind: 'drill' })
    expect(run.floor.drill?.plan.kind).toBe('drill')
  })

  it('stops what is danced, goes on with what was broken off, and begins again what has ended', () => {
    expect(dancing().send({ kind: 'go' }).wishes).toEqual([{ kind: 'stop' }])
    const broken = dancing().told({ kind: 'lost', why: 'gone', from: null, now: 3 })
    expect(broken.floor.phase.kind).toBe('broken')
    expect(broken.send({ kind: 'go' }).wishes).toEqual([{ kind: 'go on' }])
    const ended = dancing().told({ kind: 'all ended', now: 3 })
    expect(ended.floor.phase.kind).toBe('ended')
    expect(ended.send({ kind: 'go' }).wishes).toEqual([{ kind: 'start', plan: PLAN }])
    const again = dancing().told({ kind: 'all ended', now: 3 }).send({ kind: 'again' })
    expect(again.wishes).toEqual([{ kind: 'start', plan: PLAN }])
    expect(new Station().send({ kind: 'again' }).done).toEqual([])
  })

  it('leaves what is under way first, then the lesson, then the floor', () => {
    expect(dancing().send({ kind: 'out' }).wishes).toEqual([{ kind: 'stop' }])
    const taught = new Station(LESSON).send({ kind: 'out' })
    expect(taught.state.lesson).toBeNull()
    expect(taught.done).toEqual([
      { kind: 'tell', wish: { kind: 'leave' } },
      { kind: 'go to', station: 'teach' },
    ])
    expect(new Station().send({ kind: 'out' }).done).toEqual([{ kind: 'go to', station: 'cue' }])
    expect(new Station(LESSON).send({ kind: 'leave' }).done).toEqual(taught.done)
  })

  it('runs all of the dance at full tempo, with music, uncounted in between, for all layers', () => {
    const counts = new Station().send({
      kind: 'plan',
      what: { sound: 'counts', countInEach: true, leadIn: '16' },
    })
    expect(counts.send({ kind: 'run' }).wishes).toEqual([
      {
        kind: 'start',
        plan: {
          ...PLAN,
          ...{ kind: 'run', pass: 'all', stretch: DANCE, speed: 1, sound: 'both', countInEach: false },
          leadIn: '16',
        },
      },
    ])
    const music = new Station().send({ kind: 'plan', what: { sound: 'music' } }, { kind: 'run' })
    expect(music.floor.drill?.plan.sound).toBe('music')
    // Not from within a drill or a lesson.
    expect(dancing().send({ kind: 'run' }).done).toEqual([])
    expect(new Station(LESSON).send({ kind: 'run' }).done).toEqual([])
  })

  it('marks while something is danced; page keys go on and back before it', () => {
    for (const m of ['clean', 'shaky', 'missed'] as const)
      for (const paged of [true, false])
        expect(dancing().send(mark(m, paged)).wishes).toEqual([{ kind: 'mark', mark: m }])
    const broken = dancing().told({ kind: 'lost', why: 'gone', from: null, now: 3 })
    expect(broken.send(mark('missed', true)).wishes).toEqual([{ kind: 'mark', mark: 'missed' }])
    expect(broken.send(mark('clean')).wishes).toEqual([{ kind: 'mark', mark: 'clean' }])
    expect(broken.send(mark('clean', true)).wishes).toEqual([{ kind: 'go on' }])
    expect(new Station(LESSON).send(mark('clean', true)).wishes).toEqual([{ kind: 'begin' }])
    expect(new Station(LESSON).send(mark('missed', true)).wishes).toEqual([{ kind: 'back' }])
    expect(new Station(LESSON).send(mark('clean')).wishes).toEqual([{ kind: 'mark', mark: 'clean' }])
    expect(new Station(LESSON).send(mark('shaky', true)).wishes).toEqual([{ kind: 'mark', mark: 'shaky' }])
  })

  it('takes a pedal for what is under way, and for nothing where nothing is', () => {
    const pedal = (m: Mark): FloorStationEvent => ({ kind: 'pedal', mark: m })
    expect(new Station().send(pedal('clean')).done).toEqual([])
    expect(dancing().send(pedal('shaky')).wishes).toEqual([{ kind: 'mark', mark: 'shaky' }])
    expect(new Station(LESSON).send(pedal('clean')).wishes).toEqual([{ kind: 'begin' }])
    expect(new Station(LESSON).send(pedal('shaky')).wishes).toEqual([{ kind: 'begin' }])
    expect(new Station(LESSON).send(pedal('missed')).wishes).toEqual([{ kind: 'back' }])
    const broken = dancing().told({ kind: 'lost', why: 'gone', from: null, now: 3 })
    expect(broken.send(pedal('missed')).wishes).toEqual([{ kind: 'back' }])
    broken.told({ kind: 'lost', why: 'gone', from: null, now: 3 })
    expect(broken.send(pedal('clean')).wishes).toEqual([{ kind: 'go on' }])
    // The trainer has taps of its own.
    const timing = new Station().send({ kind: 'timing', way: 'tap' })
    expect(timing.send(pedal('clean')).done).toEqual([])
  })

  it('reads what is explained line by line, to its end, and back', () => {
    const at = new Station(LESSON)
    at.seen.prompt = [96, 144, 192]
    const key = stepKey(LESSON.steps[0] as LessonStep)
    expect(at.send({ kind: 'go' }).state.lit).toEqual({ [key]: 1 })
    expect(at.send(mark('clean', true)).state.lit).toEqual({ [key]: 2 })
    expect(at.send({ kind: 'go' }).wishes).toEqual([{ kind: 'begin' }])
    at.told({ kind: 'enter', lesson: LESSON, now: 4 })
    expect(at.send(mark('missed', true)).state.lit).toEqual({ [key]: 1 })
    expect(at.send({ kind: 'light', line: -3 }).state.lit).toEqual({ [key]: 0 })
    expect(at.send(mark('missed', true)).wishes).toEqual([{ kind: 'back' }])
    // Fewer lines than were lit once: the last of them.
    at.send({ kind: 'light', line: 2 })
    expect(litLine(at.state, LESSON.steps[0] as LessonStep, 2)).toBe(1)
    expect(litLine(at.state, LESSON.steps[0] as LessonStep, 3)).toBe(2)
    expect(litLine(at.state, LESSON.steps[0] as LessonStep, 0)).toBe(0)
    expect(litLine(at.state, LESSON.steps[1] as LessonStep, 3)).toBe(0)
    expect(litLine(at.state, null, 3)).toBe(0)
    // Outside a lesson there is no line.
    expect(new Station().send({ kind: 'light', line: 1 }).state.lit).toEqual({})
  })

  it('dances what is explained slowly from the lit count on, with counts, in its layers', () => {
    const at = new Station(LESSON)
    expect(at.send({ kind: 'slowly' }).done).toEqual([])
    at.seen.prompt = [48, 144, 192]
    const slow = {
      ...PLAN,
      ...{ stretch: { from: 96, to: 288 }, speed: 0.6, sound: 'counts', countInEach: true, pass: 'arms' },
    }
    // A line before the step's own counts begins with them.
    expect(at.send({ kind: 'slowly' }).wishes).toEqual([{ kind: 'start', plan: slow }])
    const next = new Station(lessonOf(lessonStep({ speed: 0.5 })))
    next.seen.prompt = [96, 144]
    next.send({ kind: 'light', line: 1 }, { kind: 'slowly' })
    expect(next.floor.drill?.plan).toMatchObject({ speed: 0.5, stretch: { from: 144, to: 288 } })
    const still = new Station(lessonOf(lessonStep({ kind: 'rest', stretch: null })))
    still.seen.prompt = [0]
    expect(still.send({ kind: 'slowly' }).done).toEqual([])
  })

  it('leaves a lesson that is over by the key that goes on', () => {
    const at = new Station(LESSON).send({ kind: 'skip' }, { kind: 'skip' })
    expect(isAnnounced(at.state, at.floor)).toBe(true)
    expect(at.send({ kind: 'go' }).done).toContainEqual({ kind: 'go to', station: 'teach' })
    expect(isAnnounced(at.state, at.floor)).toBe(false)
  })

  it('goes through a lesson only in a lesson', () => {
    expect(new Station(LESSON).send({ kind: 'skip' }).wishes).toEqual([{ kind: 'skip' }])
    expect(new Station(LESSON).send({ kind: 'back' }).wishes).toEqual([{ kind: 'back' }])
    expect(new Station().send({ kind: 'skip' }).done).toEqual([])
    expect(new Station().send({ kind: 'back' }).done).toEqual([])
    const begun = new Station(LESSON).send({ kind: 'begin' })
    expect(begun.wishes).toEqual([{ kind: 'begin' }])
  })

  it('goes on in a lesson from a run that has ended', () => {
    const run = lessonStep({ kind: 'run', made: madeAs('run') })
    const at = new Station(lessonOf(run, lessonStep({ made: madeAs('2') }))).send({ kind: 'begin' })
    at.told({ kind: 'began', speed: 1, seconds: 4, looped: false }).told({ kind: 'all ended', now: 3 })
    expect(at.floor.phase.kind).toBe('ended')
    expect(at.send({ kind: 'go' }).wishes).toEqual([{ kind: 'skip' }])
    expect(at.floor.going?.index).toBe(1)
  })

  it('takes in more by as much as was chosen, and falls back', () => {
    const at = dancing()
    expect(nextAdded(at.state, { floor: at.floor, ...at.seen })).toEqual({ from: 192, to: 192 + 96 })
    expect(at.send({ kind: 'add', way: 'last two' }).wishes).toEqual([
      { kind: 'add', piece: { from: 192, to: 288 }, way: 'last two' },
    ])
    at.send({ kind: 'size', size: 'phrase' })
    expect(nextAdded(at.state, { floor: at.floor, ...at.seen })).toEqual({ from: 288, to: 384 })
    expect(at.send({ kind: 'fall back' }).wishes).toEqual([{ kind: 'fall back' }])
    expect(new Station().send({ kind: 'add', way: 'top' }).done).toEqual([])
    expect(new Station().send({ kind: 'fall back' }).done).toEqual([])
    expect(nextAdded(at.state, { floor: STILL, ...at.seen })).toBeNull()
  })

  it('opens the trainer where nothing is under way', () => {
    const at = new Station().send({ kind: 'timing', way: 'clap' })
    expect(at.state.timing).toBe('clap')
    expect(at.send({ kind: 'timing over' }).state.timing).toBeNull()
    expect(dancing().send({ kind: 'timing', way: 'tap' }).state.timing).toBeNull()
    expect(new Station(LESSON).send({ kind: 'timing', way: 'tap' }).state.timing).toBeNull()
  })

  it('goes round what stands beside the counts, and what the mirror shows while there is one', () => {
    const at = new Station()
    const shown: unknown[] = []
    for (const beside of ['none', 'camera', 'figure', 'plan'] as const) {
      at.seen.beside = beside
      shown.push(...at.send({ kind: 'beside' }).done)
    }
    expect(shown).toEqual(
      ['camera', 'figure', 'plan', 'none'].map((beside) => ({ kind: 'show', what: { beside } })),
    )
    at.seen.planned = false
    at.seen.beside = 'figure'
    expect(at.send({ kind: 'beside' }).done).toEqual([{ kind: 'show', what: { beside: 'none' } }])
    at.seen.planned = true
    at.seen.beside = 'figure'
    expect(at.send({ kind: 'replay' }).done).toEqual([])
    at.seen.beside = 'camera'
    at.seen.replay = 'both'
    expect(at.send({ kind: 'replay' }).done).toEqual([{ kind: 'show', what: { replay: 'now' } }])
    // A film is one of them where there is one, and others of it are gone round.
    at.seen.films = ['front', 'back']
    at.seen.beside = 'plan'
    expect(at.send({ kind: 'beside' }).done).toEqual([{ kind: 'show', what: { beside: 'film' } }])
    at.seen.beside = 'film'
    expect(at.send({ kind: 'replay' }).done).toEqual([{ kind: 'show film', film: 'back' }])
    at.seen.film = 'back'
    expect(at.send({ kind: 'replay' }).done).toEqual([{ kind: 'show film', film: 'front' }])
    at.seen.films = ['front']
    expect(at.send({ kind: 'replay' }).done).toEqual([])
    expect(['now', 'last', 'both'].map((r) => nextOf(['now', 'last', 'both'], r))).toEqual([
      'last',
      'both',
      'now',
    ])
  })

  it('keeps speeds within what can be played, for what is chosen and what is danced', () => {
    const at = new Station().send({ kind: 'faster', by: 0.05 })
    expect(at.state.plan.speed).toBeCloseTo(0.8)
    expect(at.wishes).toEqual([{ kind: 'faster', by: 0.05 }])
    for (let i = 0; i < 30; i++) at.send({ kind: 'faster', by: 0.05 })
    expect(at.state.plan.speed).toBe(1.1)
    for (let i = 0; i < 30; i++) at.send({ kind: 'faster', by: -0.05 })
    expect(at.state.plan.speed).toBe(0.4)
  })

  it('changes what is chosen and nothing else', () => {
    const at = new Station().send({ kind: 'plan', what: { countIn: 8 } }, { kind: 'hands free' })
    expect(at.state).toEqual({
      ...floorAtFirst({ ...PLAN, countIn: 8 }, null),
      handsFree: true,
    })
    expect(at.send({ kind: 'hands free' }).state.handsFree).toBe(false)
    expect(at.send({ kind: 'stop' }).wishes).toEqual([{ kind: 'stop' }])
  })

  it('follows the counts that are proposed until some are chosen', () => {
    const proposed = { kind: 'proposed', stretch: { from: 24, to: 120 } } as const
    const at = new Station().send({ kind: 'plan', what: { speed: 0.6 } }, proposed)
    expect(at.state.plan).toEqual({ ...PLAN, speed: 0.6, stretch: proposed.stretch })
    at.send({ kind: 'plan', what: { stretch: { from: 96, to: 192 } } }, proposed)
    expect(at.state.plan.stretch).toEqual({ from: 96, to: 192 })
    expect(at.done).toEqual([])
  })
})
