import { describe, expect, it } from 'vitest'
import { LEAST_CLAP } from '../drill'
import {
  CLICKED,
  CLICKS,
  measuredIn,
  stepTiming,
  type TimingEffect,
  type TimingEvent,
  type TimingState,
  timingAtFirst,
  type Way,
} from './timing'

const SEEN = { times: [0, 0.5, 1, 1.5, 2, 2.5], labels: ['1', '2', '3', '4', '5', '6'] }
const DELAY = { ms: 100, least: LEAST_CLAP }

class Trainer {
  state: TimingState
  effects: TimingEffect[] = []
  constructor(way: Way = 'tap') {
    this.state = timingAtFirst(way, DELAY)
  }
  send(...events: TimingEvent[]): this {
    for (const e of events) {
      const next = stepTiming(this.state, e, SEEN)
      this.state = next.state
      this.effects.push(...next.effects)
    }
    return this
  }
  taps(late: number, times: readonly number[] = SEEN.times): this {
    return this.send(...times.map((t): TimingEvent => ({ kind: 'tap', into: t + late })))
  }
  get kinds() {
    return this.effects.map((e) => e.kind)
  }
  get result() {
    const log = this.effects.find((e) => e.kind === 'log')
    return log?.kind === 'log' ? log.result : null
  }
}
const begin = { kind: 'begin', delay: DELAY } as const
const round = { kind: 'repetition ended' } as const
const stop = { kind: 'stop', why: '' } as const

describe('how far from a cue a tap may lie', () => {
  /** How many taps of a round belong to cues that lie so far apart. */
  const matched = (apart: number, late: number, cues = 6) => {
    const times = Array.from({ length: cues }, (_, i) => i * apart)
    const seen = { times, labels: times.map(String) }
    const events: TimingEvent[] = [...times.map((t): TimingEvent => ({ kind: 'tap', into: t + late })), round]
    let state = stepTiming(
      timingAtFirst('tap', { ...DELAY, ms: 0 }),
      { ...begin, delay: { ...DELAY, ms: 0 } },
      seen,
    ).state
    for (const e of events) state = stepTiming(state, e, seen).state
    return state.rounds.flat().length
  }
  it('is three fifths of what they lie apart, between 120 and 150 ms', () => {
    expect([matched(1, 0.14), matched(1, 0.16)]).toEqual([6, 0])
    expect([matched(0.23, 0.11), matched(0.23, 0.145, 1)]).toEqual([6, 1])
    expect([matched(0.5, 0.149), matched(0.5, 0.151)]).toEqual([6, 0])
    // One cue has no other to lie apart from.
    expect([matched(1, 0.149, 1), matched(1, 0.151, 1)]).toEqual([1, 0])
  })
})

describe('tapping on the cues', () => {
  it('tells how late, without the delay of the device, and keeps it once', () => {
    const t = new Trainer().send(begin)
    expect([t.state.mode, t.kinds]).toEqual(['tapping', ['play cues']])
    t.taps(0.14).send(round).taps(0.16).send(round)
    expect(t.state.rounds.map((r) => r.map((m) => Math.round(m.ms)))).toEqual([
      [40, 40, 40, 40, 40, 40],
      [60, 60, 60, 60, 60, 60],
    ])
    t.send(stop)
    expect(t.result).toEqual({
      by: 'tap',
      n: 12,
      mean: 50,
      spread: 10.4,
      worst: expect.any(String),
      worstMs: 50,
    })
    expect([t.state.mode, t.kinds]).toEqual(['still', ['play cues', 'close microphone', 'stop sound', 'log']])
    // Stopped again, nothing more is kept; what was danced before is gone with the next beginning.
    expect(t.send(stop).kinds).toHaveLength(4)
    expect(t.send(begin).state.rounds).toEqual([])
  })
  it('matches what is tapped in the middle of a repetition too, and nothing that means no cue', () => {
    const t = new Trainer().send(begin)
    t.taps(0.1, [0, 0.5, 1, 1.5]).send({ kind: 'tap', into: 0.35 }, { kind: 'tap', into: null }, stop)
    expect(t.result).toMatchObject({ n: 4, mean: 0 })
    const far = new Trainer().send(begin).taps(0.35, [2.5]).send(round)
    expect(far.state.rounds).toEqual([])
  })
  it('shows the last ten repetitions and counts all', () => {
    const t = new Trainer().send(begin)
    for (let i = 0; i < 12; i++) t.taps(0.1).send(round)
    expect([t.state.rounds.length, t.send(stop).result?.n]).toEqual([10, 72])
  })
  it('keeps less than four taps for nobody, and nothing of a simulated dancer', () => {
    expect(new Trainer().send(begin).taps(0.1, [0, 0.5, 1]).send(stop).result).toBeNull()
    const on = { kind: 'dancer', what: { on: true } } as const
    const simulated = SEEN.times.map((t): TimingEvent => ({ kind: 'simulated', into: t + 0.05 }))
    const t = new Trainer().send(on, begin, ...simulated, round)
    expect(t.state.rounds[0]?.map((m) => Math.round(m.ms))).toEqual([50, 50, 50, 50, 50, 50])
    expect(t.send(stop).result).toBeNull()
    // Turned on while a person taps, what was tapped is nobody's.
    expect(new Trainer().send(begin).taps(0.1).send(on, stop).result).toBeNull()
    expect(
      new Trainer()
        .send(begin, { kind: 'dancer', what: { error: 20 } })
        .taps(0.1)
        .send(stop).result,
    ).not.toBeNull()
    expect(new Trainer().send({ kind: 'simulated', into: 1 }).state.round).toEqual([])
  })
  it('says why it was stopped, and stops only where it was begun', () => {
    const t = new Trainer().send({ kind: 'stop', why: 'gone' })
    expect([t.state.said, t.kinds]).toEqual(['', []])
    expect(t.send(begin, { kind: 'stop', why: 'gone' }).state.said).toBe('gone')
    expect(t.send({ kind: 'choose', way: 'clap', delay: { ms: 7, least: 1 } }).state).toMatchObject({
      way: 'clap',
      delay: { ms: 7 },
      said: '',
    })
  })
})

describe('clapping', () => {
  const open = (t: Trainer) => t.state.asked
  it('asks for the microphone first, and begins when it is open', () => {
    const t = new Trainer('clap').send(begin)
    expect([t.state.mode, t.effects]).toEqual([
      'opening',
      [{ kind: 'open microphone', asked: 1, least: LEAST_CLAP }],
    ])
    t.send({ kind: 'microphone', asked: open(t), why: null })
    expect([t.state.mode, t.kinds.at(-1)]).toEqual(['tapping', 'play cues'])
    t.send({ kind: 'clap', into: 0.1, level: 1 }, { kind: 'clap', into: null, level: 1 })
    expect([t.state.claps, t.state.round]).toEqual([2, [0]])
    // The pad is no clap.
    expect(t.send({ kind: 'tap', into: 0.6 }).state.round).toEqual([0])
  })
  it('does not begin where it was stopped meanwhile, or refused', () => {
    const t = new Trainer('clap').send(begin)
    const asked = open(t)
    t.send(stop, { kind: 'microphone', asked, why: null })
    expect([t.state.mode, t.kinds]).toEqual(['still', ['open microphone', 'close microphone', 'stop sound']])
    const again = t.send(begin)
    expect(again.send({ kind: 'microphone', asked, why: null }).state.mode).toBe('opening')
    again.send({ kind: 'microphone', asked: open(again), why: 'not allowed' })
    expect([again.state.mode, again.state.said]).toEqual(['still', 'not allowed'])
  })
})

describe('the delay of the device', () => {
  const clicks = CLICKS.slice(0, CLICKED)
  const measured = (way: Way, own: boolean, late: (k: number) => number, level = 0.5) => {
    const t = new Trainer(way).send({ kind: 'calibrate', own })
    if (way === 'clap') t.send({ kind: 'microphone', asked: t.state.asked, why: null })
    for (const [k, c] of clicks.entries())
      t.send(way === 'tap' ? { kind: 'tap', into: c + late(k) } : { kind: 'clap', into: c + late(k), level })
    return t.send({ kind: 'clicks ended' })
  }
  it('is measured by taps on the clicks, kept, and taken away from then on', () => {
    const t = measured('tap', false, (k) => 0.08 + (k % 2) * 0.004)
    expect(t.kinds).toEqual(['play clicks', 'keep delay', 'close microphone', 'stop sound'])
    expect([t.state.mode, t.state.delay, t.state.calibration]).toEqual([
      'still',
      { ms: 82, least: LEAST_CLAP },
      null,
    ])
    expect(t.state.said).toContain('This device and your hand are 82 ms late')
    expect(t.result).toBeNull()
  })
  it('is not believed of too few taps: it stays as it was', () => {
    const t = new Trainer().send({ kind: 'calibrate', own: false })
    t.taps(0.08, clicks.slice(0, 3)).send({ kind: 'clicks ended' })
    expect([t.state.delay, t.kinds.includes('keep delay')]).toEqual([DELAY, false])
    expect(t.state.said).toMatch(/^At least \d+ even taps are needed/)
  })
  it('is heard by the microphone by itself: only what comes evenly, and after the clicks', () => {
    const good = measured('clap', true, () => 0.12, 2)
    expect(good.state.delay).toEqual({ ms: 120, least: Math.max(LEAST_CLAP, 3.2) })
    expect(good.effects[0]).toMatchObject({ kind: 'open microphone', least: LEAST_CLAP / 4 })
    const uneven = measured('clap', true, (k) => 0.1 + (k % 3) * 0.05)
    expect([uneven.state.delay, uneven.state.said]).toEqual([
      DELAY,
      expect.stringContaining('did not come with the clicks'),
    ])
    const early = measured('clap', true, () => -0.05)
    expect(early.kinds).not.toContain('keep delay')
    const none = new Trainer('clap').send({ kind: 'calibrate', own: true })
    none.send({ kind: 'microphone', asked: none.state.asked, why: null }, { kind: 'clicks ended' })
    expect(none.state.said).toContain('does not hear the clicks')
    // By a hand an uneven clap is a clap, and sets no level.
    const hand = measured('clap', false, (k) => 0.1 + (k % 3) * 0.02, 5)
    expect(hand.state.delay.least).toBe(LEAST_CLAP)
  })
  it('that is left before its end is not measured', () => {
    const t = new Trainer().send({ kind: 'calibrate', own: false }).taps(0.08, clicks).send(stop)
    expect([t.state.delay, t.kinds.includes('keep delay')]).toEqual([DELAY, false])
    expect(t.send({ kind: 'clicks ended' }).state.delay).toEqual(DELAY)
  })
})

describe('what a session comes to', () => {
  it('names the worst count where one is far off', () => {
    const matched = [0, 1, 2, 3].map((cue) => ({ cue, ms: cue === 2 ? 120 : 1.234 }))
    expect(measuredIn({ matched, person: true, by: 'clap' }, SEEN.labels)).toEqual({
      ...{ by: 'clap', n: 4, mean: 30.9, spread: 59.4, worst: '3', worstMs: 120 },
    })
    const even = [0, 1, 2, 3].map((cue) => ({ cue, ms: 1 }))
    expect(measuredIn({ matched: even, person: true, by: 'tap' }, SEEN.labels)).toMatchObject({
      worst: '',
      worstMs: 0,
    })
  })
})
