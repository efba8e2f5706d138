import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { danced, moveBook, STARTING_MOVES, setRepeat } from '../choreo'
import { cuesOf, page } from '../choreo/hand.test-tools'
import { CHUNKS, LADDERS, type LessonSettings, ORDERS, REVIEWS, type Routine, USUAL } from '../routine'
import { drillSeconds, keepByHand, ladder, layLesson, loadOf, secondsOf, spanOf, staircase } from '.'

const book = moveBook(STARTING_MOVES)
const times = (bpm: number, counts: number) => Array.from({ length: counts }, (_, i) => (i * 60) / bpm)
const EIGHT = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 touch R'
/** A dance of so many eights with feet and arms in each. */
const dance = (eights: number, line = EIGHT): Routine =>
  page(eights, [
    ...cuesOf(Array(eights).fill(line)),
    ...cuesOf(Array(eights).fill('1-4 reach R; 5 clap'), 'arms'),
  ])
const lay = (r: Routine, what: Partial<LessonSettings> = {}, bpm = 100, ready = (_: string) => 0) =>
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
  })
})

describe('a ladder', () => {
  it('has rungs of equal ratio, rounded to 5 %', () => {
    expect(ladder(0.6, 1, 4)).toEqual([0.6, 0.7, 0.85, 1])
    expect(ladder(0.75, 1, 2)).toEqual([0.75, 1])
    expect(ladder(1, 1, 3)).toEqual([1])
    expect(ladder(0.95, 1, 5)).toEqual([0.95, 1])
  })
  it('is climbed by two clean in a row and left by a miss, never above its top', () => {
    const rungs = [0.6, 0.7, 0.85, 1]
    expect(staircase(rungs, 0.6, ['clean'])).toBe(0.6)
    expect(staircase(rungs, 0.6, ['clean', 'clean'])).toBe(0.7)
    expect(staircase(rungs, 0.85, ['clean', 'shaky', 'clean'])).toBe(0.85)
    expect(staircase(rungs, 0.85, ['clean', 'missed'])).toBe(0.7)
    expect(staircase(rungs, 0.6, ['missed'])).toBe(0.6)
    expect(staircase(rungs, 1, ['clean', 'clean'])).toBe(1)
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
    expect(drills.slice(0, 2).map((s) => s.layer)).toEqual(['feet', 'arms'])
    expect(
      lay(dance(1), { ...plenty, order: 'arms first' })
        .steps.filter((s) => s.layer !== 'all')
        .map((s) => s.layer),
    ).toEqual(['arms', 'feet'])
    expect(lay(dance(1), { ...plenty, order: 'whole body' }).steps.every((s) => s.layer === 'all')).toBe(true)
  })
  it('teaches a repeat once, and its other side in a short drill', () => {
    const whole = { at: 0, length: 192, from: 0 }
    let r = page(4, [...cuesOf([EIGHT]), ...cuesOf('1 clap', 'arms')])
    r = setRepeat(r, { ...whole, id: 'a', phrase: 'p1', source: 'p0', mirrored: false })
    r = setRepeat(r, { ...whole, id: 'b', phrase: 'p2', source: 'p0', mirrored: true })
    const { steps, fits } = lay(r, plenty)
    expect(fits).toBe(1)
    expect(steps.filter((s) => s.kind === 'show')).toHaveLength(1)
    expect(steps.filter((s) => s.id.startsWith('other')).map((s) => s.speed)).toEqual([0.75, 1])
    // Learned backwards, what comes last in the song comes first in the lesson, and is the one that is taught.
    const back = lay(r, { ...plenty, backward: true })
    expect(back.steps.filter((s) => s.kind === 'show').map((s) => s.first)).toEqual(['p2'])
  })
  it('gives what is hard a slower start and one rung more, and says why', () => {
    const hardLine = '1 step R; 1& step L; 2 step R; 2& step L; 3 step R; 3& step L; 4 step R; 4& step L'
    const easy = lay(dance(1), plenty, 120)
    const hard = lay(dance(1, hardLine), plenty, 120)
    const rungs = (l: typeof easy) => l.steps.filter((s) => s.id.startsWith('rung')).map((s) => s.speed)
    expect(rungs(hard).length).toBeGreaterThan(rungs(easy).length)
    expect(rungs(hard)[0]).toBeLessThan(rungs(easy)[0] as number)
    expect(hard.steps.find((s) => s.kind === 'break down')?.why).toContain('many sub-counts')
    const sat = lay(dance(1), plenty, 120, () => 0.7)
    expect(sat.steps.find((s) => s.kind === 'break down')?.why).toContain('it sat at 70 % so far')
  })
  it('is thinned out to fit its minutes, then says what does not fit', () => {
    const all = lay(dance(8), plenty)
    expect([all.cut, all.left]).toEqual([[], []])
    const tight = lay(dance(8), { minutes: Math.ceil(all.seconds / 60) - 1 })
    expect(tight.cut[0]).toBe('two slow repetitions instead of three')
    expect(tight.left).toEqual([])
    const short = lay(dance(8), { minutes: 20 })
    expect(short.left.length).toBeGreaterThan(0)
    expect(short.fits + short.left.length).toBe(8)
    expect(short.left.at(-1)).toBe('p7')
  })
  it('counts what goes to the joints over all repetitions', () => {
    const r = page(1, cuesOf('1 jump; 3 kick R; 5 jump'))
    const { steps } = lay(r, plenty)
    const danced3 = steps
      .filter((s) => s.repetitions && s.first && s.layer !== 'arms')
      .reduce((n, s) => n + s.repetitions, 0)
    expect(loadOf(steps, r, book)).toEqual({ jumps: 2 * danced3, kicks: danced3, knees: 0 })
  })
  it('made anew keeps what was changed, added and taken out by hand', () => {
    const fresh = lay(dance(2), plenty).steps
    const own = fresh.map((s) => (s.kind === 'run' ? { ...s, repetitions: 5, own: true } : s))
    const added = { ...(fresh[2] as (typeof fresh)[0]), id: 'mine', own: true }
    const plan = {
      steps: [...own.slice(0, 3), added, ...own.slice(3)],
      gone: [(fresh[1] as (typeof fresh)[0]).id],
    }
    const kept = keepByHand(plan, fresh)
    expect(kept.find((s) => s.kind === 'run')?.repetitions).toBe(5)
    expect(kept.map((s) => s.id)).not.toContain((fresh[1] as (typeof fresh)[0]).id)
    expect(kept.findIndex((s) => s.id === 'mine')).toBe(kept.findIndex((s) => s.id === fresh[2]?.id) + 1)
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
        r = setRepeat(without, {
          id: `r${i}`,
          phrase: `p${to}`,
          at: 0,
          length: 192,
          source: `p${from}`,
          from: 0,
          mirrored,
        })
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
        expect(new Set(l.steps.map((x) => x.id)).size).toBe(l.steps.length)
      }),
      { numRuns: 60 },
    )
  })
  it('nothing is drilled before it is shown; what a checkpoint runs was drilled at tempo, joins too', () => {
    fc.assert(
      fc.property(dances, settings, (r, s) => {
        const order = r.phrases.map((p) => p.id)
        const at = (id: string) => order.indexOf(id)
        const shown = new Set<string>()
        const tempo = new Set<string>()
        const joined = new Set<string>()
        // A phrase that repeats another one is known where that one is.
        const root = (id: string): string => {
          const x = r.repeats.find((y) => y.phrase === id)
          return x ? root(x.source) : id
        }
        const known = (id: string, set: Set<string>) => [...set].some((y) => root(y) === root(id))
        for (const step of lay(r, s).steps) {
          if (!step.first) continue
          const ids = order.slice(at(step.first), at(step.last) + 1)
          if (step.kind === 'show') for (const id of ids) shown.add(id)
          if (step.kind === 'drill') for (const id of ids) expect(known(id, shown)).toBe(true)
          if (step.kind === 'drill' && step.speed === 1) {
            for (const id of ids) tempo.add(id)
            for (let i = 1; i < ids.length; i++) joined.add(ids[i] as string)
          }
          if (step.kind === 'join' && step.speed === 1) joined.add(step.first)
          if (step.kind === 'checkpoint' || step.kind === 'run')
            ids.forEach((id, i) => {
              if (danced(r).some((c) => c.at >= at(id) * 192 && c.at < (at(id) + 1) * 192))
                expect(known(id, tempo)).toBe(true)
              if (i > 0) expect(joined.has(id)).toBe(true)
            })
        }
      }),
      { numRuns: 60 },
    )
  })
})
