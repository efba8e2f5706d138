import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import {
  CHUNKS,
  danced,
  emptyRoutine,
  LADDERS,
  type LessonSettings,
  layOut,
  madeAs,
  ORDERS,
  REVIEWS,
  type Routine,
  rootsOf,
  setRepeat,
  stepKey,
  USUAL,
} from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { common, covered, type Stretch } from '../time'
import {
  drillSeconds,
  keepByHand,
  ladder,
  layLesson,
  loadOf,
  newEights,
  secondsOf,
  spanOf,
  usualMinutes,
} from '.'

const book = moveBook(STARTING_MOVES)
const times = (bpm: number, counts: number) => Array.from({ length: counts }, (_, i) => (i * 60) / bpm)
const EIGHT = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 touch R'
/** A dance of so many eights with feet and arms in each. */
const dance = (eights: number, line = EIGHT): Routine =>
  page(eights, [
    ...cuesOf(Array(eights).fill(line)),
    ...cuesOf(Array(eights).fill('1-4 reach R; 5 clap'), 'arms'),
  ])
const lay = (r: Routine, what: Partial<LessonSettings> = {}, bpm = 100, ready = (_: Stretch) => 0) =>
  layLesson(r, times(bpm, r.phrases.length * 8), book, { ...USUAL, ...what }, ready)
const plenty = { minutes: 240 }

// Worked by hand: 16 counts at 100 BPM, a count-in of 4, a gap of 4 s.
describe('time of a drill', () => {
  const at = (speed: number) => drillSeconds(2, 4 * 0.6, 16 * 0.6, speed, 4)
  it.each([
    [0.6, 48],
    [0.75, 40],
    [1, 32],
  ])('at %f takes %i s', (speed, seconds) => {
    expect(at(speed)).toBeCloseTo(seconds, 9)
  })
  it('of a step counts its run-up and its talk', () => {
    const r = dance(2)
    const step = { ...lay(r, plenty).steps.find((s) => s.kind === 'join') } as ReturnType<
      typeof lay
    >['steps'][0]
    const context = { routine: r, times: times(100, 16), settings: USUAL }
    // 4 counts of run-up and 8 of the phrase, counted in with 4, twice or as often as laid out.
    const once = (4 + 12) * 0.6 + USUAL.pause
    expect(secondsOf(step, context)).toBeCloseTo(step.talk + step.repetitions * once, 6)
    expect(spanOf(step, r)).toEqual({ from: 96, to: 384 })
    // A song that leads in with 8 takes 4 more than the count-in, once; or all there is before it.
    const later = { ...context, times: context.times.map((t) => t + 60) }
    expect(secondsOf({ ...step, leadIn: '8' }, later) - secondsOf(step, later)).toBeCloseTo(4 * 0.6, 6)
    expect(secondsOf({ ...step, leadIn: 'beginning' }, context) - secondsOf(step, context)).toBeCloseTo(
      (context.times[4] as number) - 4 * 0.6,
      6,
    )
  })
})

describe('a ladder', () => {
  it('has rungs of equal ratio, rounded to 5 %', () => {
    expect(ladder(0.6, 1, 4)).toEqual([0.6, 0.7, 0.85, 1])
    expect(ladder(0.75, 1, 2)).toEqual([0.75, 1])
    expect(ladder(1, 1, 3)).toEqual([1])
    expect(ladder(0.95, 1, 5)).toEqual([0.95, 1])
  })
})

describe('a lesson', () => {
  it('warms up, shows, breaks down, drills by layer, joins, checks, runs and cools down', () => {
    const kinds = lay(dance(4), plenty).steps.map((s) => s.kind)
    expect(kinds[0]).toBe('warm-up')
    expect(kinds.at(-1)).toBe('cool-down')
    expect(kinds.at(-2)).toBe('run')
    expect(kinds.filter((k) => k === 'show')).toHaveLength(4)
    expect(kinds.filter((k) => k === 'join')).toHaveLength(3)
    expect(kinds.filter((k) => k === 'checkpoint')).toHaveLength(2)
    const drills = lay(dance(1), plenty).steps.filter((s) => s.kind === 'drill')
    expect(drills.slice(0, 2).map((s) => s.pass)).toEqual(['feet', 'arms'])
    expect(
      lay(dance(1), { ...plenty, order: 'arms first' })
        .steps.filter((s) => s.pass !== 'all')
        .map((s) => s.pass),
    ).toEqual(['arms', 'feet'])
    expect(lay(dance(1), { ...plenty, order: 'whole body' }).steps.every((s) => s.pass === 'all')).toBe(true)
  })
  it('teaches a repeat once, and its other side in a short drill', () => {
    const as = (id: string, to: number, mirrored: boolean) => ({
      id,
      to: { from: to, to: to + 192 },
      from: 0,
      mirrored,
    })
    let r = page(4, [...cuesOf([EIGHT]), ...cuesOf('1 clap', 'arms')])
    r = setRepeat(r, as('a', 192, false), () => 'x')
    r = setRepeat(r, as('b', 384, true), () => 'y')
    const { steps, fits } = lay(r, plenty)
    expect(fits).toBe(1)
    expect(steps.filter((s) => s.kind === 'show')).toHaveLength(1)
    expect(steps.filter((s) => s.made.what.startsWith('other')).map((s) => s.speed)).toEqual([0.75, 1])
    // Learned backwards, what comes last in the song comes first in the lesson, and is the one that is taught.
    const back = lay(r, { ...plenty, backward: true })
    expect(back.steps.filter((s) => s.kind === 'show').map((s) => s.stretch?.from)).toEqual([384])
  })
  it('plans nothing where nothing is danced', () => {
    const lines = [EIGHT, '', '', '1 jump; 5 hop R', '']
    const r = { ...page(5, cuesOf(lines)), excerpt: { from: 0, to: 5 * 192 } }
    for (const chunk of CHUNKS) {
      const { steps } = lay(r, { ...plenty, chunk })
      expect(steps.filter((s) => s.why.includes('known'))).toEqual([])
      expect(steps.filter((s) => s.kind === 'show').length).toBe(2)
      const alone = steps.filter((s) => s.stretch && s.stretch.from >= 192 && s.stretch.to <= 3 * 192)
      expect(alone).toEqual([])
      expect(steps.filter((s) => s.kind === 'checkpoint').length).toBe(1)
      // Nothing is joined over what is not cued.
      expect(steps.filter((s) => s.kind === 'join' && s.stretch && s.stretch.from >= 192).length).toBe(
        chunk.includes('counts') || chunk === 'hard' ? steps.filter((s) => s.kind === 'join').length : 0,
      )
    }
  })

  it('taught backwards goes from the end to the front, and joins each to what comes after it', () => {
    const kinds = (backward: boolean) => {
      const { steps } = lay(dance(3), { ...plenty, backward })
      const of = (kind: string) =>
        steps.filter((s) => s.kind === kind).map((s) => (s.stretch?.from ?? -1) / 192)
      return { show: of('show'), join: of('join'), run: steps.at(-1)?.kind }
    }
    const forward = kinds(false)
    expect(forward.show).toEqual([0, 1, 2])
    expect(kinds(true).show).toEqual([2, 1, 0])
    // A join is danced on the later of the two, out of the earlier.
    expect(forward.join).toEqual([1, 2])
    expect(kinds(true).join).toEqual([2, 1])
  })
  it('warms up for so long and no longer, by its minutes; a check is danced over all so far, with the music', () => {
    const warm = (minutes: number) => lay(dance(1), { minutes }).steps[0]
    expect(warm(60)).toMatchObject({ made: madeAs('warm-up'), kind: 'warm-up', why: '', own: false })
    expect(warm(20)?.talk).toBe(20 * 60 * 0.15)
    expect(warm(240)?.talk).toBe(warm(120)?.talk)
    for (const backward of [false, true]) {
      const { steps } = lay(dance(4), { ...plenty, backward })
      const checks = steps.filter((s) => s.kind === 'checkpoint')
      expect(checks.map((s) => s.sound)).toEqual(checks.map(() => 'music'))
      expect(checks.map((s) => s.stretch)).toEqual(
        backward
          ? [
              { from: 384, to: 768 },
              { from: 0, to: 768 },
            ]
          : [
              { from: 0, to: 384 },
              { from: 0, to: 768 },
            ],
      )
      expect(new Set(checks.map(stepKey)).size).toBe(2)
    }
  })
  it('gives what is hard a slower start and one rung more, and says why', () => {
    const hardLine = '1 step R; 1& step L; 2 step R; 2& step L; 3 step R; 3& step L; 4 step R; 4& step L'
    const easy = lay(dance(1), plenty, 120)
    const hard = lay(dance(1, hardLine), plenty, 120)
    const rungs = (l: typeof easy) =>
      l.steps.filter((s) => s.made.what.startsWith('rung')).map((s) => s.speed)
    expect(rungs(hard).length).toBeGreaterThan(rungs(easy).length)
    expect(rungs(hard)[0]).toBeLessThan(rungs(easy)[0] as number)
    expect(hard.steps.find((s) => s.kind === 'break down')?.why).toContain('many sub-counts')
    const sat = lay(dance(1), plenty, 120, () => 0.7)
    expect(sat.steps.find((s) => s.kind === 'break down')?.why).toContain('it sat at 70 % so far')
  })
  it('takes held and open counts for nothing to teach', () => {
    const lines = [EIGHT, '1-8 hold', '1 #open whatever you like', EIGHT.replace('step R', 'kick R')]
    const r = page(4, cuesOf(lines))
    const { steps } = lay(
      { ...r, cues: r.cues.map((c) => (c.at === 384 ? { ...c, length: 192, option: 'open' } : c)) },
      plenty,
    )
    const taught = steps.filter((s) => s.kind === 'show').map((s) => s.stretch?.from)
    expect(taught).toEqual([0, 3 * 192])
    expect(steps.filter((s) => s.kind === 'join')).toEqual([])
  })
  it('is as long as its minutes, the hardest best served, and says what had to give way', () => {
    const all = lay(dance(8), plenty)
    expect([all.cut, all.left]).toEqual([[], []])
    const tight = lay(dance(8), { minutes: Math.ceil(all.seconds / 60) - 1 })
    expect(tight.cut[0]).toMatch(/^\d of 8: slow 3 times, at tempo twice, 3 speeds/)
    expect(tight.left).toEqual([])
    for (const [eights, minutes] of [
      [4, 19],
      [8, 30],
      [8, 45],
      [5, 21],
    ] as const)
      expect([minutes, 60 * minutes - lay(dance(eights), { minutes }).seconds < 1]).toEqual([minutes, true])
    // Said how long talk is, it is not talked longer: within one repetition more.
    const said = lay(dance(4), { minutes: 19, talk: 1.5 })
    expect(said.steps.flatMap((s) => (s.kind === 'break down' ? [s.talk] : []))).toEqual(Array(4).fill(90))
    expect(said.seconds).toBeLessThanOrEqual(19 * 60)
    expect(said.seconds).toBeGreaterThan(18 * 60)
    const hardest = page(
      4,
      cuesOf([
        EIGHT,
        EIGHT,
        '1 step R; 1& step L; 2 step R; 2& step L; 3 step R; 3& step L; 4 kick R; 4& step L; 5 hop R',
        EIGHT,
      ]),
    )
    const drills = (n: number) =>
      lay(hardest, { minutes: 22 })
        .steps.filter((s) => s.kind === 'drill' && s.stretch?.from === n * 192)
        .reduce((sum, s) => sum + s.repetitions, 0)
    expect(drills(2)).toBeGreaterThan(Math.max(drills(0), drills(1), drills(3)))
    const short = lay(dance(8), { minutes: 20 })
    expect(short.left.length).toBeGreaterThan(0)
    expect(short.fits + short.left.length).toBe(8)
    expect(short.left.at(-1)).toEqual({ from: 7 * 192, to: 8 * 192 })
  })
  it('drills as often as one drills, and no more', () => {
    const { steps } = lay(dance(2), { ...plenty, drilled: { slow: 5, fast: 1, rungs: 2 } })
    const rungs = steps.filter((s) => s.made.what.startsWith('rung') && s.stretch?.from === 0)
    expect(rungs.map((s) => [s.speed, s.repetitions])).toEqual([
      [0.75, 5],
      [1, 1],
    ])
  })
  it('is shown whole first and climbs at its end where that is asked for, to the front and to the back', () => {
    const { steps } = lay(dance(3), { ...plenty, preview: true, closing: [0.8, 0.6] })
    expect(steps[1]).toMatchObject({ kind: 'show', how: 'watch', stretch: { from: 0, to: 576 } })
    const end = steps.slice(-5, -1)
    expect(end.map((s) => [s.speed, s.sound, s.how, s.kind])).toEqual([
      [0.6, 'counts', 'together', 'checkpoint'],
      [0.8, 'both', 'together', 'checkpoint'],
      [1, 'music', 'full out', 'run'],
      [1, 'music', 'to the back', 'run'],
    ])
    for (const s of end) expect(s.stretch).toEqual({ from: 0, to: 576 })
    // Of what there was time to learn.
    const short = lay(dance(8), { minutes: 15, closing: [0.6] })
    expect(short.left.length).toBeGreaterThan(0)
    expect(short.steps.find((s) => s.made.what === 'closing 60')?.stretch?.to).toBe(short.left[0]?.from)
  })
  it('of somebody new is a usual class', () => {
    const minutes = (r: Routine, grade: LessonSettings['grade']) =>
      usualMinutes(newEights(r, times(100, 200), book, USUAL), grade)
    // 4 x 4.5 and a quarter for its ends; 8 x 4.5 and eight minutes; 8 x 2; never over an hour, never under a quarter.
    expect(minutes(dance(4), 'beginners')).toBe(25)
    expect(minutes(dance(8), 'beginners')).toBe(45)
    expect(minutes(dance(8), 'intermediate')).toBe(25)
    expect(minutes(dance(20), 'beginners')).toBe(60)
    expect(minutes(dance(1), 'advanced')).toBe(15)
    // What is danced again is new once.
    const again = setRepeat(
      page(4, cuesOf([EIGHT, EIGHT])),
      { id: 'r', to: { from: 384, to: 768 }, from: 0, mirrored: false },
      () => 'x',
    )
    expect(newEights(again, times(100, 200), book, USUAL)).toBe(2)
  })
  it('asks for talk by the counts of new material, also of a phrase that is longer than an eight', () => {
    const talkOf = (counts: number) => {
      const r = layOut(
        { ...emptyRoutine('x'), cues: [...cuesOf(EIGHT)] },
        { counts, starts: [0], usual: Math.min(32, counts), sections: [] },
        () => 'p',
      )
      return lay(r, plenty).steps.find((s) => s.kind === 'break down')?.talk
    }
    expect(talkOf(16)).toBe(2 * (talkOf(8) as number))
  })
  it('counts what goes to the joints over all repetitions', () => {
    const r = page(1, cuesOf('1 jump; 3 kick R; 5 jump'))
    const { steps } = lay(r, plenty)
    const danced3 = steps
      .filter((s) => s.repetitions && s.stretch && s.pass !== 'arms')
      .reduce((n, s) => n + s.repetitions, 0)
    expect(loadOf(steps, r, book)).toEqual({ jumps: 2 * danced3, kicks: danced3, knees: 0 })
  })
  it('made anew keeps what was changed, added and taken out by hand', () => {
    const fresh = lay(dance(2), plenty).steps
    const own = fresh.map((s) => (s.kind === 'run' ? { ...s, repetitions: 5, own: true } : s))
    const added = { ...(fresh[2] as (typeof fresh)[0]), made: madeAs('mine'), own: true }
    const plan = {
      steps: [...own.slice(0, 3), added, ...own.slice(3)],
      gone: [(fresh[1] as (typeof fresh)[0]).made],
    }
    const kept = keepByHand(plan, fresh)
    expect(kept.find((s) => s.kind === 'run')?.repetitions).toBe(5)
    expect(kept.map(stepKey)).not.toContain(stepKey(fresh[1] as (typeof fresh)[0]))
    expect(kept.findIndex((s) => stepKey(s) === 'mine')).toBe(
      kept.findIndex((s) => stepKey(s) === stepKey(fresh[2] as (typeof fresh)[0])) + 1,
    )
  })
})

describe('calls that fade', () => {
  const r = { ...dance(2), marks: [{ id: 'm', at: 5, end: null, kind: 'lyric' as const, text: 'la' }] }
  const calls = (what: Partial<LessonSettings>) =>
    lay(r, { ...plenty, order: 'whole body', ...what })
      .steps.filter((s) => s.stretch)
      .map((s) => `${s.kind} ${s.speed}: ${s.calls}`)
  it('are numbers, then moves, then the lyric where there is one, then nothing', () => {
    const all = calls({ calling: 'fading' })
    expect(all.filter((c) => /^(drill 0.[67]|break)/.test(c)).every((c) => c.endsWith('numbers'))).toBe(true)
    expect(all.filter((c) => /^drill 0.[89]/.test(c)).every((c) => c.endsWith('words'))).toBe(true)
    // The lyric lies on the second eight, at 4.8 to 9.6 s.
    expect(all.filter((c) => c.startsWith('drill 1:'))).toEqual(['drill 1: words', 'drill 1: lyric'])
    expect(all.filter((c) => /^(show|run|checkpoint)/.test(c)).every((c) => c.endsWith('none'))).toBe(true)
  })
  it('are the lyric of counts that it begins in, their first moment among them and not the one after', () => {
    const at = (time: number, of = times(100, 16)) => {
      const sung = { ...r, marks: [{ id: 'm', at: time, end: null, kind: 'lyric' as const, text: 'la' }] }
      const settings: LessonSettings = { ...USUAL, ...plenty, order: 'whole body', calling: 'fading' }
      return layLesson(sung, of, book, settings, () => 0)
        .steps.filter((s) => s.kind === 'drill' && s.speed === 1)
        .map((s) => s.calls)
    }
    expect(at(0)).toEqual(['lyric', 'words'])
    expect(at(4.8)).toEqual(['words', 'lyric'])
    expect(at(4.79)).toEqual(['lyric', 'words'])
    expect(at(9.6)).toEqual(['words', 'words'])
  })
  it('are what the routine says where nothing else is chosen', () => {
    expect(calls({}).every((c) => c.endsWith('as set'))).toBe(true)
  })
})

describe('always', () => {
  const settings = fc.record({
    chunk: fc.constantFrom(...CHUNKS),
    order: fc.constantFrom(...ORDERS),
    review: fc.constantFrom(...REVIEWS),
    ladder: fc.constantFrom(...LADDERS),
    minutes: fc.integer({ min: 5, max: 200 }),
    backward: fc.boolean(),
    gap: fc.constantFrom(0.3, 0.6, 1),
  })
  const repeats = fc.array(
    fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 5 }), fc.boolean()),
    { maxLength: 4 },
  )
  const dances = repeats.map((list) => {
    let r = dance(6)
    list.forEach(([to, from, mirrored], i) => {
      if (to === from) return
      const without = { ...r, cues: r.cues.filter((c) => c.at < to * 192 || c.at >= (to + 1) * 192) }
      try {
        const repeat = { id: `r${i}`, to: { from: to * 192, to: (to + 1) * 192 }, from: from * 192, mirrored }
        r = setRepeat(without, repeat, () => `cut${i}`)
      } catch {
        // A circle: this repeat is left out.
      }
    })
    return r
  })
  it('durations add up and the budget is not exceeded silently', () => {
    fc.assert(
      fc.property(dances, settings, (r, s) => {
        const l = lay(r, s)
        const context = { routine: r, times: times(100, 48), settings: { ...USUAL, ...s } }
        const sum = l.steps.reduce((n, x) => n + secondsOf(x, context), 0)
        expect(l.seconds).toBeCloseTo(sum, 6)
        expect(l.seconds <= s.minutes * 60 + 1e-6).toBe(true)
        expect(new Set(l.steps.map(stepKey)).size).toBe(l.steps.length)
      }),
      { numRuns: 60 },
    )
  })
  it('nothing is drilled before it is shown; what a checkpoint runs was drilled at tempo, joins too', () => {
    fc.assert(
      fc.property(dances, settings, (r, s) => {
        const phrases = Array.from({ length: 6 }, (_, i) => ({ from: i * 192, to: (i + 1) * 192 }))
        const inside = (x: Stretch | null) => phrases.filter((p) => x && common(p, x))
        const shown: Stretch[] = []
        const tempo: Stretch[] = []
        const joined = new Set<number>()
        // What repeats something else is known where that is.
        const known = (p: Stretch, list: Stretch[]) =>
          rootsOf(r, p).every((root) =>
            covered(
              root,
              list.flatMap((x) => rootsOf(r, x)),
            ),
          )
        for (const step of lay(r, s).steps) {
          const list = inside(step.stretch)
          if (step.kind === 'show') shown.push(...list)
          if (step.kind === 'drill') for (const p of list) expect(known(p, shown)).toBe(true)
          if (step.kind === 'drill' && step.speed === 1) {
            tempo.push(...list)
            for (const p of list.slice(1)) joined.add(p.from)
          }
          if (step.kind === 'join' && step.speed === 1) joined.add(step.stretch?.from ?? -1)
          if (step.kind === 'checkpoint' || step.kind === 'run')
            list.forEach((p, i) => {
              if (danced(r).some((c) => c.at >= p.from && c.at < p.to)) expect(known(p, tempo)).toBe(true)
              if (i > 0) expect(joined.has(p.from)).toBe(true)
            })
        }
      }),
      { numRuns: 60 },
    )
  })
})
