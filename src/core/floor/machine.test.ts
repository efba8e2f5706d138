import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { DrillPlan, Mark } from '../drill'
import { type LessonStep, madeAs, placePhrases } from '../routine'
import {
  type Added,
  type AddWay,
  type FloorEffect,
  type FloorEvent,
  type FloorLesson,
  type FloorState,
  following,
  markedRepetition,
  nextPiece,
  STILL,
  staircase,
  step,
  stepAfter,
  stepOf,
  wanted,
} from '.'

/** A floor that is told events, one after the other, a second apart. */
class Floor {
  state: FloorState = STILL
  readonly effects: FloorEffect[] = []
  now = 1_000_000
  /** Number of the repetition that sounds, since the sound began. */
  k = -1

  tell(event: FloorEvent) {
    const next = step(this.state, event)
    this.state = next.state
    this.effects.push(...next.effects)
    for (const e of next.effects) if (e.kind === 'play') this.sounds()
    return this
  }
  private sounds() {
    this.k = -1
    this.next()
  }
  /** The next repetition begins to sound, if one follows. @returns false at the end */
  next(): boolean {
    const { drill } = this.state
    const after = this.k < 0 ? drill && { speed: drill.plan.speed, countIn: true } : drill && following(drill)
    if (!after) return false
    this.k++
    this.tell({ kind: 'began', speed: after.speed, seconds: 4, looped: this.k > 0 && !after.countIn })
    return true
  }
  /** The repetition under way is heard to its end, and the next one begins. */
  ends() {
    const k = this.k
    const goesOn = this.next()
    this.now++
    this.tell({ kind: 'repetition ended', k, now: this.now })
    if (!goesOn) this.tell({ kind: 'all ended', now: this.now })
    this.now++
    return this
  }
  /** Near the end of the repetition under way, or as given. */
  mark(mark: Mark, into = 3.5) {
    const playing = this.state.phase.kind === 'dancing'
    return this.tell({
      kind: 'mark',
      mark,
      heard: playing ? { k: this.k, into, body: 4 } : null,
      now: this.now++,
    })
  }
  start(plan: Partial<DrillPlan> = {}) {
    return this.tell({ kind: 'start', plan: { ...drill, ...plan }, id: 'drill-1', now: this.now })
  }
  add(to: number | null, way: AddWay = 'top') {
    const last = this.state.adding?.pieces.at(-1)?.to ?? 0
    const piece = to === null ? null : { from: last, to }
    return this.tell({ kind: 'add', piece, way, id: `added-${to}-${way}`, now: this.now })
  }
  lesson(steps: LessonStep[]) {
    return this.tell({ kind: 'enter', lesson: lessonOf(steps), now: this.now })
  }
  begin() {
    return this.tell({ kind: 'begin', id: `begun-${this.state.going?.index}`, now: this.now })
  }
  get rows() {
    return this.effects.flatMap((e) => (e.kind === 'log' ? [e.row] : []))
  }
  /** The log as it stands: the last row of each repetition. */
  get standing() {
    const gone = new Set(this.rows.map((r) => r.corrects))
    return this.rows
      .filter((r) => !gone.has(r.id))
      .sort((a, b) => a.doneAt - b.doneAt)
      .map((r) => [r.mark, r.speed])
  }
  get held() {
    return this.effects.flatMap((e) => (e.kind === 'log step' ? [e.row] : []))
  }
  get index() {
    return this.state.going?.index
  }
}

const drill: DrillPlan = {
  kind: 'drill',
  stretch: { from: 192, to: 384 },
  speed: 0.75,
  sound: 'both',
  countIn: 4,
  countInEach: false,
}
const aStep = (what: Partial<LessonStep> = {}): LessonStep => ({
  made: madeAs('x'),
  kind: 'drill',
  stretch: { from: 192, to: 384 },
  runUp: 0,
  pass: 'all',
  speed: 0.6,
  sound: 'both',
  view: 'mirrored',
  repetitions: 3,
  talk: 0,
  why: '',
  version: '',
  how: 'together' as const,
  calls: 'as set' as const,
  leadIn: 'clicks' as const,
  note: '',
  own: false,
  ...what,
})
const lessonOf = (steps: LessonStep[]): FloorLesson => ({
  evening: 'evening',
  name: 'Thursday',
  steps,
  planned: steps.map(() => 30),
  countIn: 4,
})
const LADDER = [0.6, 0.75, 1].map((speed) => aStep({ speed, made: madeAs(`rung ${speed}`) }))

describe('which repetition a mark is for', () => {
  it.each([
    ['in the count-in of the fourth', 3, -1, 2],
    ['in the first third of the fourth', 3, 1.9, 2],
    ['after that', 3, 2.1, 3],
    ['late in the first', 0, 4, 0],
    ['in the first count-in', 0, -2, null],
    ['as the first begins', 0, 0.5, null],
  ])('%s', (_, k, into, expected) => {
    expect(markedRepetition(k, into, 6)).toBe(expected)
  })
})

describe('the staircase', () => {
  it.each<[string, number[], number, Mark[], number]>([
    ['two clean go up a rung', [0.6, 0.7, 0.85, 1], 0.6, ['clean', 'clean'], 0.7],
    ['one clean stays', [0.6, 0.7, 0.85, 1], 0.6, ['clean'], 0.6],
    ['two that are not in a row stay', [0.6, 0.7], 0.6, ['clean', 'shaky', 'clean'], 0.6],
    ['a miss goes down a rung', [0.6, 0.7, 0.85, 1], 0.85, ['clean', 'missed'], 0.7],
    ['a miss at the bottom stays', [0.6, 0.7], 0.6, ['missed'], 0.6],
    ['two clean at the top stay', [0.6, 1], 1, ['clean', 'clean'], 1],
    ['above the top, two clean stay where they are', [0.6, 0.8, 1], 1.1, ['clean', 'clean'], 1.1],
    ['above the top, a miss goes to the top', [0.6, 0.8, 1], 1.1, ['missed'], 1],
    ['between two rungs, two clean go to the next', [0.4, 0.6, 0.8], 0.5, ['clean', 'clean'], 0.6],
    ['between two rungs, a miss goes to the one before', [0.4, 0.6, 0.8], 0.5, ['missed'], 0.4],
    ['below the bottom, two clean go to it', [0.6, 0.8], 0.5, ['clean', 'clean'], 0.6],
  ])('%s', (_, rungs, speed, marks, expected) => {
    expect(staircase(rungs, speed, marks)).toBe(expected)
  })
})

describe('a drill of one’s own', () => {
  it('logs each repetition once, as it was marked; what was not marked is logged as such', () => {
    const f = new Floor().start()
    f.mark('clean').ends().ends().mark('shaky').ends()
    expect(f.standing).toEqual([
      ['clean', 0.75],
      ['unmarked', 0.75],
      ['shaky', 0.75],
    ])
    expect(f.rows.map((r) => r.looped)).toEqual([false, true, true])
  })
  it('“clean” pressed twice on one repetition is one clean; another mark corrects it', () => {
    const f = new Floor().start().mark('clean').mark('clean').mark('missed')
    expect(f.rows.map((r) => [r.id, r.corrects])).toEqual([
      ['drill-1-0', null],
      ['drill-1-0-1', 'drill-1-0'],
      ['drill-1-0-2', 'drill-1-0-1'],
    ])
    expect(f.standing).toEqual([['missed', 0.75]])
  })
  it('a mark before anything was danced marks nothing, and says so', () => {
    const f = new Floor().start().mark('missed', -2)
    expect([f.rows, f.state.said]).toEqual([[], 'Nothing danced yet to mark'])
  })
  it('says where it slipped: the row of that repetition holds the places, and is missed there', () => {
    const f = new Floor().start()
    const slip = (tick: number) =>
      f.tell({ kind: 'slip', tick, heard: { k: f.k, into: 3, body: 4 }, now: f.now })
    slip(264)
    slip(240)
    f.mark('shaky')
    slip(264)
    expect(f.rows.map((r) => [r.mark, r.slips])).toEqual([
      ['shaky', [240, 264]],
      ['shaky', [240]],
    ])
    const unmarked = new Floor().start()
    unmarked
      .tell({ kind: 'slip', tick: 264, heard: { k: 0, into: 3, body: 4 }, now: 1 })
      .ends()
      .ends()
    expect(unmarked.standing[0]).toEqual(['missed', 0.75])
  })
  it('ends after the repetitions that were asked for, and a run after one', () => {
    const f = new Floor().start({ repetitions: 2 }).ends().ends()
    expect([f.state.phase.kind, f.k]).toEqual(['ended', 1])
    const run = new Floor().start({ kind: 'run' }).ends()
    expect([run.state.phase.kind, run.k]).toEqual(['ended', 0])
    expect(run.mark('clean').standing).toEqual([['clean', 0.75]])
    expect(run.state.phase.kind).toBe('ended')
  })
  it('a run has a row for each stretch marked by itself: one that stands, later than the run', () => {
    const run = new Floor().start({ kind: 'run' }).ends()
    const eight = { from: 192, to: 384 }
    for (const mark of ['shaky', 'missed'] as const)
      run.tell({ kind: 'mark stretch', stretch: eight, mark, now: 99_000_000 })
    run.tell({ kind: 'mark stretch', stretch: { from: 0, to: 192 }, mark: 'shaky', now: 99_000_000 })
    run.mark('clean')
    const corrected = new Set(run.rows.map((r) => r.corrects))
    const rows = run.rows.filter((r) => !corrected.has(r.id)).sort((x, y) => x.doneAt - y.doneAt)
    expect(rows.map((r) => [r.plan.kind, r.stretch.from, r.mark])).toEqual([
      ['run', 192, 'clean'],
      ['drill', 192, 'missed'],
      ['drill', 0, 'shaky'],
    ])
    expect(rows[1]?.doneAt).toBeGreaterThan(rows[0]?.doneAt as number)
  })
  it('changes its speed from the next repetition on; a run keeps its own', () => {
    const f = new Floor().start().tell({ kind: 'faster', by: 0.1 }).ends().ends()
    expect(f.rows.map((r) => r.speed)).toEqual([0.75])
    expect(f.ends().rows.map((r) => r.speed)).toEqual([0.75, 0.85])
    const run = new Floor().start({ kind: 'run' }).tell({ kind: 'faster', by: 0.1 })
    expect(run.state.drill?.plan.speed).toBe(0.75)
  })
  it('stopped, logs what was danced to its end, and nothing else', () => {
    const f = new Floor().start().ends().tell({ kind: 'stop', now: 2 })
    expect(f.standing).toEqual([['unmarked', 0.75]])
    expect([f.state.drill, f.state.phase.kind]).toEqual([null, 'still'])
    expect(f.effects.at(-2)?.kind).toBe('silence')
  })
  it('goes on with the dance as it is after a change; where its counts are gone it stops, and keeps its log', () => {
    const f = new Floor().start().ends()
    f.tell({ kind: 'changed', end: 400, now: 2 })
    expect(f.state.phase.kind).toBe('dancing')
    f.mark('shaky').ends()
    f.tell({ kind: 'changed', end: 300, now: 3 })
    expect([f.state.phase.kind, f.state.said]).toEqual(['still', 'These counts are not there any more'])
    expect(f.standing).toEqual([
      ['unmarked', 0.75],
      ['shaky', 0.75],
    ])
  })
  it('without sound there is no drill', () => {
    const f = new Floor().start().tell({ kind: 'no sound', now: 2 })
    expect([f.state.drill, f.rows]).toEqual([null, []])
  })
})

describe('a drill whose sound was lost', () => {
  const lost = (from: number | null) =>
    new Floor().start({ repetitions: 3 }).ends().tell({ kind: 'lost', why: 'Headphones.', from, now: 5 })
  it('stands still, and goes on counted in from where it was', () => {
    const f = lost(240)
    expect(f.state.phase).toEqual({ kind: 'broken', why: 'Headphones.', from: 240 })
    f.tell({ kind: 'go on', now: 6 })
    expect(f.effects.findLast((e) => e.kind === 'play')).toMatchObject({ from: 240 })
  })
  it('what goes on in the middle is no repetition: it is not logged, and not counted', () => {
    const f = lost(240).tell({ kind: 'go on', now: 6 })
    expect(f.mark('clean').state.said).toBe('That was a part only; mark the next whole one')
    f.ends()
    f.mark('clean').ends().mark('shaky').ends()
    expect(f.state.phase.kind).toBe('ended')
    expect(f.standing).toEqual([
      ['unmarked', 0.75],
      ['clean', 0.75],
      ['shaky', 0.75],
    ])
  })
  it('goes on from what was lost alone, with what was danced to its end', () => {
    const dancing = new Floor().start()
    const before = dancing.state
    expect(dancing.tell({ kind: 'go on', now: 6 }).state).toBe(before)
    expect(new Floor().tell({ kind: 'go on', now: 6 }).state.drill).toBeNull()
    const { repetitions } = lost(240).tell({ kind: 'go on', now: 6 }).state.drill ?? { repetitions: [] }
    // The one that was lost is not there any more; the one that goes on is.
    expect(repetitions.map((r) => r.endedAt !== null)).toEqual([true, false])
  })
  it('from the beginning of a repetition it is a whole one', () => {
    const f = lost(null).tell({ kind: 'go on', now: 6 }).mark('clean').ends().ends()
    expect(f.state.phase.kind).toBe('ended')
    expect(f.tell({ kind: 'stop', now: f.now }).standing).toHaveLength(3)
  })
  it('a run that goes on in the middle ends once, and in a lesson leads on though it cannot be marked', () => {
    const f = new Floor().lesson([
      aStep({ kind: 'run', repetitions: 1 }),
      aStep({ kind: 'rest', stretch: null, repetitions: 0 }),
    ])
    f.begin().tell({ kind: 'lost', why: 'x', from: 240, now: 5 }).tell({ kind: 'go on', now: 6 })
    f.ends().ends()
    expect(f.state.phase.kind).toBe('ended')
    f.mark('clean')
    expect(f.index).toBe(1)
  })
  it('what has ended, or stands still, cannot be lost', () => {
    const ended = new Floor().start({ repetitions: 1 }).ends()
    expect(ended.tell({ kind: 'lost', why: 'x', from: null, now: 1 }).state.phase.kind).toBe('ended')
    expect(new Floor().tell({ kind: 'lost', why: 'x', from: null, now: 1 }).state).toEqual(STILL)
  })
})

describe('a ladder in a lesson', () => {
  it('goes up a rung after two clean, down after a miss, which is danced once more', () => {
    const f = new Floor().lesson(LADDER).begin()
    f.mark('clean').ends().mark('clean')
    expect(f.state.drill?.plan.speed).toBe(0.75)
    f.ends().mark('missed')
    expect([f.state.drill?.plan.speed, wanted(f.state.drill as never)]).toEqual([0.6, 4])
    expect(f.state.drill?.reached).toBe(0.6)
  })
  it('“clean” twice on one repetition is not two, and a mark that is taken back moves nothing', () => {
    const f = new Floor().lesson(LADDER).begin().mark('clean').mark('clean')
    expect(f.state.drill?.plan.speed).toBe(0.6)
    f.mark('missed')
    expect(wanted(f.state.drill as never)).toBe(4)
    f.mark('clean').ends().mark('clean')
    expect([f.state.drill?.plan.speed, wanted(f.state.drill as never)]).toEqual([0.75, 3])
  })
  it('“missed” in the first count-in adds no repetition', () => {
    const f = new Floor().lesson(LADDER).begin().mark('missed', -1)
    expect([wanted(f.state.drill as never), f.state.drill?.plan.speed]).toEqual([3, 0.6])
  })
  it('danced to its end leads on, past the rungs that sit already', () => {
    const f = new Floor().lesson(LADDER).begin()
    f.mark('clean').ends().mark('clean').ends().mark('clean').ends()
    // Two clean at 60 %, one at 75 %: the rung of 75 % is next.
    expect(f.index).toBe(1)
    f.begin().mark('clean').ends().mark('clean').ends().mark('shaky').ends()
    expect(f.index).toBe(2)
  })
  it('a rung that sat in this drill is passed over, and one that sat in a drill before', () => {
    const slow = LADDER.map((s) => ({ ...s, repetitions: 4 }))
    const f = new Floor().lesson(slow).begin()
    for (let i = 0; i < 4; i++) f.mark('clean').ends()
    expect(f.index).toBe(2)
    // Gone back to, and danced without a mark: what sat still sits.
    const again = new Floor().lesson(slow).begin()
    for (let i = 0; i < 3; i++) again.mark('clean').ends()
    again.mark('clean').tell({ kind: 'stop', now: again.now })
    expect(again.index).toBe(0)
    again.begin().ends().ends().ends().ends()
    expect(again.index).toBe(again.state.going?.reached === 0.75 ? 2 : 1)
  })
  it('stopping ends what is danced and stays at its step; going back does not stop there', () => {
    const f = new Floor().lesson(LADDER).begin()
    f.tell({ kind: 'stop', now: f.now })
    expect([f.index, f.state.going === null, f.state.drill]).toEqual([0, false, null])
    f.tell({ kind: 'skip', now: f.now })
    f.begin().tell({ kind: 'back', now: f.now })
    expect([f.index, f.state.drill]).toEqual([0, null])
  })
  it('what sat on one ladder says nothing of the next', () => {
    const other = [0.6, 1].map((speed) => aStep({ speed, stretch: { from: 384, to: 576 } }))
    expect(stepAfter([...LADDER, ...other], 0, 1)).toBe(3)
    const f = new Floor().lesson([aStep({ speed: 1, repetitions: 2 }), ...other]).begin()
    f.mark('clean').ends().mark('clean').ends()
    expect([f.index, f.state.going?.reached]).toEqual([1, 0])
  })
  it('of feet alone has one speed', () => {
    const f = new Floor()
      .lesson([aStep({ pass: 'feet' }), ...LADDER])
      .begin()
      .mark('clean')
      .ends()
      .mark('clean')
    expect(f.state.drill?.plan.speed).toBe(0.6)
  })
})

describe('a lesson', () => {
  const steps = [
    aStep({ made: madeAs('warm-up'), kind: 'warm-up', stretch: null, repetitions: 0 }),
    aStep({ made: madeAs('drill'), repetitions: 1 }),
    aStep({ made: madeAs('run'), kind: 'run', repetitions: 1, view: 'true' }),
  ]
  it('goes from step to step: talk by a key, a drill by itself, a run by its mark, then it is over', () => {
    const f = new Floor().lesson(steps)
    const kinds = () => stepOf(f.state)?.made.what ?? 'over'
    expect(kinds()).toBe('warm-up')
    f.begin()
    expect([kinds(), f.state.phase.kind]).toEqual(['drill', 'still'])
    f.begin().ends()
    expect(kinds()).toBe('run')
    f.begin().ends()
    expect([kinds(), f.state.phase.kind]).toEqual(['run', 'ended'])
    f.mark('clean')
    expect(kinds()).toBe('over')
    expect(f.effects.flatMap((e) => (e.kind === 'view' ? [e.view] : []))).toEqual(['mirrored', 'true'])
  })
  it('logs each step that was held with its time, and the dancing in it; one that was glanced at is not', () => {
    const f = new Floor().lesson(steps)
    f.now += 60_000
    f.begin()
    f.now += 5000
    f.begin()
    f.now += 7999
    f.ends()
    f.now += 999
    f.tell({ kind: 'skip', now: f.now })
    expect(f.held.map((r) => [r.step.made.what, r.seconds, r.danced, r.repetitions])).toEqual([
      ['warm-up', 60, 0, 0],
      ['drill', 13, 8, 1],
    ])
    expect(new Set(f.held.map((r) => r.id)).size).toBe(2)
  })
  it('is left with what was danced logged, the step too', () => {
    const f = new Floor().lesson(steps)
    f.begin().begin()
    f.now += 4000
    f.tell({ kind: 'leave', now: f.now })
    expect([f.state.drill, f.held.map((r) => r.step.made.what)]).toEqual([null, ['drill']])
  })
  it('goes back and on without leaving its ends', () => {
    const f = new Floor().lesson(steps)
    f.tell({ kind: 'back', now: 1 })
    expect(f.index).toBe(0)
    for (let i = 0; i < 9; i++) f.tell({ kind: 'skip', now: i })
    expect([f.index, stepOf(f.state)]).toEqual([3, null])
    expect(f.begin().index).toBe(3)
  })
})

describe('always', () => {
  const events = fc.array(
    fc.oneof(
      fc.constant('ends' as const),
      fc.record({
        kind: fc.constant('mark' as const),
        mark: fc.constantFrom<Mark>('clean', 'shaky', 'missed'),
        heard: fc.option(
          fc.record({ k: fc.nat(6), into: fc.integer({ min: -4, max: 5 }), body: fc.constant(4) }),
        ),
        now: fc.nat(),
      }),
      fc.record({
        kind: fc.constant('slip' as const),
        tick: fc.nat(500),
        heard: fc.constant(null),
        now: fc.nat(),
      }),
      fc.record({
        kind: fc.constant('start' as const),
        plan: fc.constantFrom<DrillPlan>(drill, { ...drill, kind: 'run' }, { ...drill, repetitions: 2 }),
        id: fc.uuid(),
        now: fc.nat(),
      }),
      fc.record({ kind: fc.constant('begin' as const), id: fc.uuid(), now: fc.nat() }),
      fc.record({
        kind: fc.constant('lost' as const),
        why: fc.constant('x'),
        from: fc.option(fc.nat(500)),
        now: fc.nat(),
      }),
      fc.record({
        kind: fc.constantFrom(
          'go on' as const,
          'skip' as const,
          'back' as const,
          'stop' as const,
          'leave' as const,
          'no sound' as const,
        ),
        now: fc.nat(),
      }),
      fc.record({ kind: fc.constant('changed' as const), end: fc.nat(800), now: fc.nat() }),
      fc.record({ kind: fc.constant('faster' as const), by: fc.constantFrom(-0.3, 0.05, 0.3) }),
      fc.record({
        kind: fc.constant('mark stretch' as const),
        stretch: fc.constant({ from: 0, to: 24 }),
        mark: fc.constant<Mark>('shaky'),
        now: fc.nat(),
      }),
    ),
    { maxLength: 40 },
  )
  it('whatever happens: no throw, no id twice, each repetition one chain of rows, no danced one without a row', () => {
    fc.assert(
      fc.property(fc.boolean(), events, (inLesson, list: (FloorEvent | 'ends')[]) => {
        const f = new Floor()
        f.tell({
          kind: 'enter',
          lesson: inLesson ? lessonOf([...LADDER, aStep({ kind: 'run', repetitions: 1 })]) : null,
          now: 0,
        })
        let whole = 0
        for (const e of list) {
          const before = f.state.drill?.repetitions.filter((r) => r.endedAt !== null && r.whole).length ?? 0
          if (e === 'ends') {
            if (f.state.phase.kind !== 'dancing') continue
            const k = f.k
            const goesOn = f.next()
            f.tell({ kind: 'repetition ended', k, now: 1 })
            whole += Math.max(
              0,
              (f.state.drill?.repetitions.filter((r) => r.endedAt !== null && r.whole).length ?? before) -
                before,
            )
            if (!goesOn) f.tell({ kind: 'all ended', now: 1 })
          } else f.tell(e)
          expect(f.state.phase.kind === 'still').toBe(f.state.drill === null)
        }
        f.tell({ kind: 'leave', now: 9 })
        const { rows } = f
        expect(new Set(rows.map((r) => r.id)).size).toBe(rows.length)
        const ids = new Set(rows.map((r) => r.id))
        for (const r of rows) if (r.corrects) expect(ids.has(r.corrects)).toBe(true)
        expect(new Set(rows.flatMap((r) => r.corrects ?? [])).size).toBe(
          rows.filter((r) => r.corrects).length,
        )
        // What was marked before its end has a row too.
        expect(rows.filter((r) => !r.corrects).length).toBeGreaterThanOrEqual(whole)
      }),
      { numRuns: 500 },
    )
  })
})

describe('adding up on the floor', () => {
  const EIGHT = 192
  const place = (f: Floor) =>
    f.state.drill && [f.state.drill.plan.stretch.from, f.state.drill.plan.stretch.to]

  it('takes the next counts in and goes from the top, the last two, or the join; speed and count-in stay', () => {
    const f = new Floor().start({ stretch: { from: EIGHT, to: EIGHT + 96 }, speed: 0.6, countIn: 8 })
    f.ends().mark('clean', 0.1)
    f.add(2 * EIGHT)
    expect(place(f)).toEqual([EIGHT, 2 * EIGHT])
    expect(f.state.drill?.plan).toMatchObject({ speed: 0.6, countIn: 8, kind: 'drill' })
    f.add(2 * EIGHT + 96, 'last two')
    expect(place(f)).toEqual([EIGHT + 96, 2 * EIGHT + 96])
    f.add(3 * EIGHT, 'join')
    expect(place(f)).toEqual([2 * EIGHT + 96 - 48, 2 * EIGHT + 96 + 48])
    f.add(null)
    expect(f.state.said).toContain('no counts left')
    // What was danced before is logged for the counts it was danced on, once.
    expect(f.rows.map((r) => [r.mark, r.stretch.to])).toEqual([['clean', EIGHT + 96]])
    expect(f.effects.filter((e) => e.kind === 'play')).toHaveLength(4)
  })

  it('a join at the beginning goes no further back than the top', () => {
    const f = new Floor().start({ stretch: { from: EIGHT, to: EIGHT + 24 } }).add(EIGHT + 120, 'join')
    expect(place(f)).toEqual([EIGHT, EIGHT + 72])
  })

  it('falls back one piece at a time, to the first counts and no further', () => {
    const f = new Floor()
      .start({ stretch: { from: 0, to: 96 } })
      .add(EIGHT)
      .add(EIGHT + 96, 'join')
    const back = () => f.tell({ kind: 'fall back', id: 'back', now: f.now })
    back()
    expect(place(f)).toEqual([0, EIGHT])
    back()
    expect(place(f)).toEqual([0, 96])
    back()
    expect(place(f)).toEqual([0, 96])
    expect(f.state.said).toBe('These are the first counts')
  })

  it('in a lesson it goes on until the step is left; the lesson leads on from there', () => {
    const f = new Floor()
      .lesson([aStep({ made: madeAs('a'), repetitions: 1 }), aStep({ made: madeAs('b'), speed: 1 })])
      .begin()
    f.add(3 * EIGHT)
    f.ends().ends().ends()
    expect(f.state.phase.kind).toBe('dancing')
    expect(f.index).toBe(0)
    f.tell({ kind: 'skip', now: f.now })
    expect(f.index).toBe(1)
    expect(f.held).toHaveLength(1)
  })

  it('what was added up beyond the plan is not taught once more; what is faster, a run or a rest is still to come', () => {
    const steps = [
      aStep({ made: madeAs('a'), stretch: { from: 0, to: 96 }, speed: 0.75, repetitions: 1 }),
      aStep({ made: madeAs('show'), kind: 'show', stretch: { from: 96, to: 192 }, speed: 1 }),
      aStep({ made: madeAs('break'), kind: 'break down', stretch: { from: 96, to: 192 }, repetitions: 0 }),
      aStep({ made: madeAs('slow'), stretch: { from: 96, to: 192 }, speed: 0.75 }),
      aStep({ made: madeAs('tempo'), stretch: { from: 96, to: 192 }, speed: 1 }),
      aStep({ made: madeAs('on'), stretch: { from: 192, to: 288 }, speed: 0.75 }),
    ]
    const leadsTo = (to: number | null, list = steps, pass: LessonStep['pass'] = 'all') => {
      const f = new Floor().lesson(list).begin()
      if (to !== null) f.add(to)
      if (pass !== 'all') f.tell({ kind: 'change', what: { pass } })
      f.tell({ kind: 'skip', now: f.now })
      return [stepOf(f.state)?.made.what, f.state.said]
    }
    expect(leadsTo(192)).toEqual(['tempo', '3 steps were added up already: passed over'])
    // Nothing more than planned, or part of it alone: nothing is passed over.
    expect(leadsTo(null)).toEqual(['show', ''])
    expect(leadsTo(144)).toEqual(['show', ''])
    // With the feet alone the whole of it is still to come.
    expect(leadsTo(192, steps, 'feet')).toEqual(['show', ''])
    expect(
      leadsTo(192, [
        steps[0],
        aStep({ made: madeAs('run'), kind: 'run', stretch: { from: 0, to: 192 }, speed: 0.5 }),
      ] as LessonStep[]),
    ).toEqual(['run', ''])
    // The next step begins with its own counts: going on from there passes nothing over again.
    const f = new Floor().lesson(steps).begin().add(192)
    f.tell({ kind: 'skip', now: f.now }).tell({ kind: 'skip', now: f.now })
    expect(stepOf(f.state)?.made.what).toBe('on')
  })

  it('what is danced slowly while a step is explained is danced, not talk', () => {
    const f = new Floor().lesson([
      aStep({ kind: 'break down', repetitions: 0 }),
      aStep({ made: madeAs('b') }),
    ])
    f.start({ speed: 0.5 })
    f.now += 8000
    f.ends().tell({ kind: 'stop', now: f.now })
    f.tell({ kind: 'skip', now: f.now })
    expect(f.held.map((h) => Math.round(h.danced))).toEqual([8])
  })

  it('without a drill, or in a run, nothing is added', () => {
    const still = new Floor()
    expect(still.add(EIGHT).state).toEqual(still.state)
    const f = new Floor().start({ kind: 'run' })
    f.add(5 * EIGHT)
    expect(place(f)).toEqual([EIGHT, 2 * EIGHT])
  })
})

describe('what is taken in next', () => {
  const placed = placePhrases({
    phrases: Array.from({ length: 3 }, () => ({ length: 8, feel: 'straight' as const, pickUp: false })),
    ...{ sections: [], usual: 8 },
  })
  const dance = { from: 0, to: 540 }
  it.each<[Added, number, number | null]>([
    ['2', 96, 144],
    ['4', 96, 192],
    ['8', 96, 288],
    ['phrase', 96, 192],
    ['phrase', 192, 384],
    ['4', 500, 540],
    ['phrase', 500, 540],
    ['8', 540, null],
  ])('%s after %i', (size, end, to) => {
    const next = nextPiece({ pieces: [{ from: 0, to: end }] }, size, dance, placed)
    expect(next).toEqual(to === null ? null : { from: end, to })
  })
  it('begins with its pick-up, and the 1 a piece lands on is danced in both', () => {
    const breathing = (lean: number, resolve: number) => {
      const phrases = Array.from({ length: 3 }, () => ({
        length: 8,
        feel: 'straight' as const,
        pickUp: false,
      }))
      const page = placePhrases({ phrases, sections: [], usual: 8, usualBorder: { lean, resolve } })
      const first = { from: 0, to: resolve ? 192 + resolve : 192 - lean }
      return nextPiece({ pieces: [first] }, 'phrase', dance, page)
    }
    expect(breathing(12, 0)).toEqual({ from: 180, to: 372 })
    expect(breathing(0, 24)).toEqual({ from: 192, to: 408 })
  })
})

describe('what is danced and called', () => {
  it('is changed while it is danced, from the next repetition on; a run keeps what it is', () => {
    const f = new Floor().start()
    f.tell({ kind: 'change', what: { pass: 'arms', calls: 'none' } })
    expect(f.state.drill?.plan).toMatchObject({ pass: 'arms', calls: 'none', speed: 0.75 })
    f.ends().mark('clean', 0.1)
    expect(f.rows.at(-1)?.plan.pass).toBe('arms')
    f.tell({ kind: 'stop', now: f.now })
    expect(f.tell({ kind: 'change', what: { pass: 'feet' } }).state.drill).toBe(null)
  })
})
