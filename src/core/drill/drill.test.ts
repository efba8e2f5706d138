import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyRoutine, everyEight, type LeadIn, layOut, placePhrases } from '../routine'
import { TICKS_PER_COUNT } from '../time'
import {
  drillTimeline,
  eventsOf,
  eventsOfLeg,
  firstLeg,
  type Leg,
  leadWordsOf,
  legAfter,
  sayingTime,
  songOf,
  thinned,
  withLeadIn,
} from '.'

const beats = (bpm: number, n = 64, start = 10) => Array.from({ length: n }, (_, i) => start + (i * 60) / bpm)
const ids = () => {
  let n = 0
  return () => `id${n++}`
}
const page = (one = 0, counts = 64) =>
  placePhrases(layOut(emptyRoutine('Test'), { counts, starts: everyEight(one, counts), sections: [] }, ids()))
const times = (xs: { time: number }[]) => xs.map((e) => Math.round(e.time * 1000) / 1000)
const calls = (xs: { call: string }[]) => xs.map((e) => e.call).join(' ')
const range = (bpm: number, from: number, to: number, cues: number[], one = 0) => ({
  times: beats(bpm),
  placed: page(one),
  from,
  to,
  cues,
})

// Worked by hand.
describe('the count-in', () => {
  it('first cue on 1 at 120 BPM and 75 %: 5 6 7 8 at -2.667, -2.000, -1.333, -0.667 s', () => {
    const t = drillTimeline(range(120, 192, 384, [192]), 0.75, 4)
    expect(calls(t.countIn)).toBe('5 6 7 8')
    expect(times(t.countIn)).toEqual([-2.667, -2, -1.333, -0.667])
    expect(t.lead).toBeCloseTo(2.667, 3)
  })
  it('first cue on 8: called "4 5 6 7", the dancer moves on 8', () => {
    const t = drillTimeline(range(120, 192 + 7 * 24, 384 + 192, [192 + 7 * 24]), 1, 4)
    expect(calls(t.countIn)).toBe('4 5 6 7')
    expect(times(t.countIn)).toEqual([-2, -1.5, -1, -0.5])
  })
  it('first cue on 8&: called "5 6 7 8", the first move half a count after the 8', () => {
    const at = 192 + 7 * 24 + 12
    const t = drillTimeline(range(120, at, 576, [at]), 1, 4)
    expect(calls(t.countIn)).toBe('5 6 7 8')
    expect(t.countIn.at(-1)?.time).toBeCloseTo(-0.25, 9)
  })
  it('counts towards the first cue, not towards the 1, while the music already plays', () => {
    const t = drillTimeline(range(120, 0, 384, [192]), 1, 4)
    expect(times(t.countIn)).toEqual([2, 2.5, 3, 3.5])
    expect(t.lead).toBe(0)
  })
  it('counts in before a pick-up by its own numbers', () => {
    expect(calls(drillTimeline(range(120, 0, 192, [0], 3), 1, 4).countIn)).toBe('2 3 4 5')
  })
  it('counts towards the 1 of sixes and threes by their own numbers', () => {
    const metre = (usual: number, one: number, first: number) => {
      const r = layOut(
        { ...emptyRoutine('Test'), usual },
        { counts: 48, usual, starts: everyEight(one, 48, usual), sections: [] },
        ids(),
      )
      return calls(
        drillTimeline({ ...range(120, first, first + 144, [first]), placed: placePhrases(r) }, 1, 4).countIn,
      )
    }
    expect(metre(6, 0, 144)).toBe('3 4 5 6')
    expect(metre(3, 0, 72)).toBe('3 1 2 3')
    // A pick-up of two before a six is its 5 and 6.
    expect(metre(6, 2, 48)).toBe('3 4 5 6')
    expect(metre(6, 2, 0)).toBe('1 2 3 4')
  })
  it('of counts inside an eight is the counts before them', () => {
    expect(calls(drillTimeline(range(120, 48, 192, [48]), 1, 4).countIn)).toBe('7 8 1 2')
    expect(calls(drillTimeline(range(120, 192 + 144, 192 * 2 + 24, [192 + 144]), 1, 4).countIn)).toBe(
      '3 4 5 6',
    )
  })
  it('can be a full eight, before the song itself begins', () => {
    const t = drillTimeline(range(96, 0, 192, [0]), 0.75, 8)
    expect(calls(t.countIn)).toBe('1 2 3 4 5 6 7 8')
    expect(t.lead).toBeCloseTo(8 * 0.8333, 2)
  })
})

describe('the body', () => {
  it('calls every count on the grid, the "&" where a cue lies, and marks the 1', () => {
    const t = drillTimeline(range(100, 0, 192, [0, 60, 24]), 1, 4)
    expect(calls(t.counts)).toBe('1 2 3 & 4 5 6 7 8')
    expect(t.counts.find((e) => e.call === '&')?.time).toBeCloseTo(1.5, 9)
    expect(t.counts.filter((e) => e.accent).map((e) => e.call)).toEqual(['1'])
  })
  it('leaves out sub-counts that speech cannot reach', () => {
    expect(calls(drillTimeline(range(200, 0, 96, [6, 12]), 1, 0).counts)).toBe('1 2 3 4')
    expect(calls(drillTimeline(range(100, 0, 48, [6]), 0.4, 0).counts)).toBe('1 e 2')
  })
  it('a word takes the place of its number; words alone leave the other numbers out', () => {
    const words = new Map([
      [24, { word: 'kick', thing: 'cue' }],
      [60, { word: 'clap', thing: 'cue' }],
    ]) as unknown as Parameters<typeof drillTimeline>[0]['words']
    const called = (wordsOnly: boolean) =>
      drillTimeline({ ...range(60, 0, 96, [0, 36]), words, wordsOnly }, 1, 0).counts.map((e) => e.call)
    expect(called(false)).toEqual(['1', 'kick', '&', '3', 'clap', '4'])
    expect(called(true)).toEqual(['', 'kick', '', '', 'clap', ''])
  })
  it('an eight at 96 BPM and 75 % lasts 6.667 s', () => {
    expect(drillTimeline(range(96, 0, 192, []), 0.75, 4).body).toBeCloseTo(6.667, 3)
  })
  it('every event lies where the grid says, at every speed, in the first repetition and the tenth', () => {
    const speeds = fc.constantFrom(0.4, 0.75, 1, 1.1)
    fc.assert(
      fc.property(
        speeds,
        fc.integer({ min: 1, max: 10 }),
        fc.boolean(),
        fc.integer({ min: 60, max: 200 }),
        (speed, n, each, bpm) => {
          const t = drillTimeline(range(bpm, 192, 384, [192, 204]), speed, 4)
          const count = 60 / bpm / speed
          let leg: Leg = firstLeg(t, 0)
          for (let k = 1; k < n; k++) leg = legAfter(leg, t, each)
          const first = 4 * count + (n - 1) * (8 + (each ? 4 : 0)) * count
          for (const e of eventsOf(t, leg.countedIn))
            expect(leg.start + e.time).toBeCloseTo(first + ((e.tick - 192) / 24) * count, 9)
        },
      ),
    )
  })
  it('loops without a gap, or with a count-in each time, and may change speed between', () => {
    const t = drillTimeline(range(120, 192, 384, [192]), 1, 4)
    const slow = drillTimeline(range(120, 192, 384, [192]), 0.5, 4)
    const one = firstLeg(t, 0)
    expect([
      one.start,
      legAfter(one, t, false).start,
      legAfter(one, t, true).start,
      legAfter(one, slow, true).start,
    ]).toEqual([2, 6, 8, 10])
    expect(calls(eventsOf(t, true))).toBe('5 6 7 8 1 2 3 4 5 6 7 8')
    expect(calls(eventsOf(t, false))).toBe('1 2 3 4 5 6 7 8')
  })
  it('keeps the pulse where it begins or ends between counts: whole counts from one to the next, the same each time', () => {
    const place = fc.integer({ min: 0, max: 23 })
    fc.assert(
      fc.property(
        place,
        place,
        fc.integer({ min: 2, max: 16 }),
        fc.constantFrom(0.5, 0.75, 1),
        fc.boolean(),
        (early, late, counts, speed, each) => {
          const t = drillTimeline(range(120, 192 + early, 192 + early + 24 * counts + late, []), speed, 4)
          const count = 0.5 / speed
          const legs = [firstLeg(t, 0)]
          for (let k = 1; k < 5; k++) legs.push(legAfter(legs[k - 1] as Leg, t, each))
          // Every click lies on one pulse, and none is missing.
          const clicks = legs.flatMap((leg) =>
            eventsOfLeg(leg).flatMap((e) => (e.kind === 'sub' ? [] : [leg.start + e.time])),
          )
          clicks.sort((a, b) => a - b)
          clicks.slice(1).forEach((c, i) => {
            expect(c - (clicks[i] as number)).toBeCloseTo(count, 6)
          })
          const periods = legs.slice(1).map((l, i) => l.start - (legs[i] as Leg).start)
          for (const p of periods) expect(p).toBeCloseTo(periods[0] as number, 9)
        },
      ),
    )
    // From 8& on, a bar and a half count: nine counts, a click on the 8 before.
    const lean = drillTimeline(range(120, 180, 384, []), 1, 4)
    const second = legAfter(firstLeg(lean, 0), lean, false)
    expect(second.start - firstLeg(lean, 0).start).toBeCloseTo(4.5, 9)
    expect(eventsOfLeg(second)[0]).toMatchObject({ time: -0.25, tick: 168, call: '' })
  })
  it('calls a count that is counted in only once', () => {
    const all = eventsOf(drillTimeline(range(120, 0, 384, [192]), 1, 4), true)
    expect(new Set(all.map((e) => e.tick)).size).toBe(all.length)
  })
})

describe('calls at fast tempi', () => {
  const event = (time: number, call: string, kind: 'count' | 'sub' = 'count', accent = false) => ({
    time,
    tick: Math.round(time * 48),
    kind,
    call,
    accent,
  })
  const said = (list: ReturnType<typeof event>[]) =>
    thinned(list, 4, (e) => String(e.tick)).map((e) => e.call)

  it('a word silences the numbers it is spoken over, but not the 1', () => {
    // "cross behind" takes three syllables, 0.48 s.
    expect(said([event(0, 'cross behind'), event(0.5, '2'), event(1, '3')])).toEqual([
      'cross behind',
      '',
      '3',
    ])
    expect(said([event(0, 'cross behind'), event(0.4, '1', 'count', true), event(1, '2')])).toEqual([
      'cross',
      '1',
      '2',
    ])
  })
  it('a word gives way to its first word, then to its number, on a sub-count to silence', () => {
    const next = (t: number) => event(t, 'clap')
    expect(said([event(0, 'cross behind'), next(0.3)])).toEqual(['cross', 'clap'])
    expect(said([event(0, 'cross behind'), next(0.15)])).toEqual(['0', 'clap'])
    expect(said([event(0.25, 'behind', 'sub'), next(0.4)])).toEqual(['', 'clap'])
  })
  it('no two words are ever spoken over each other, and no click is lost', () => {
    const words = ['step', 'cross behind', 'grapevine right', 'turn', '3', '&', '']
    fc.assert(
      fc.property(
        fc.array(fc.record({ gap: fc.double({ min: 0.05, max: 0.8, noNaN: true }), w: fc.nat(6) }), {
          minLength: 1,
          maxLength: 20,
        }),
        (list) => {
          let t = 0
          const events = list.map(({ gap, w }) => {
            t += gap
            return event(t, words[w] as string)
          })
          const out = thinned(events, t + 2, () => '')
          expect(out.map((e) => e.time)).toEqual(events.map((e) => e.time))
          const spoken = out.filter((e) => e.call)
          for (const [i, e] of spoken.entries())
            if (/[a-z]{2}/.test(e.call) && spoken[i + 1])
              expect(e.time + sayingTime(e.call)).toBeLessThanOrEqual((spoken[i + 1] as typeof e).time)
        },
      ),
    )
  })
})

describe('a song that leads in', () => {
  const seconds = Array.from({ length: 60 }, (_, i) => 2 + i * 0.5)
  /** From a count of a song that begins 2 s before its first count, counted in with four. */
  const led = (count: number, speed: number, lead: LeadIn) =>
    withLeadIn(
      drillTimeline(
        {
          times: seconds,
          placed: page(),
          from: count * TICKS_PER_COUNT,
          to: (count + 8) * TICKS_PER_COUNT,
          cues: [],
        },
        ...([speed, 4] as const),
      ),
      ...([seconds, lead] as const),
    )
  it.each<[LeadIn, number, number, { before: number; from: number }]>([
    // Entries at 10 s and 18 s of the song; a count has half a second.
    ['clicks', 16, 1, { before: 0, from: 10 }],
    ['song', 16, 1, { before: 2, from: 8 }],
    ['song', 16, 0.5, { before: 4, from: 8 }],
    ['8', 16, 1, { before: 4, from: 6 }],
    ['16', 32, 0.5, { before: 16, from: 10 }],
    ['32', 32, 1, { before: 16, from: 2 }],
    ['beginning', 16, 1, { before: 10, from: 0 }],
    // There is no more of it than there is.
    ['32', 16, 0.5, { before: 20, from: 0 }],
  ])('%s before count %i at %f', (lead, count, speed, { before, from }) => {
    const t = led(count, speed, lead)
    const song = songOf(t, true)
    expect(song.before).toBeCloseTo(before, 9)
    expect(song.from).toBeCloseTo(from, 9)
    // The entry falls where it lies.
    expect(song.seconds).toBeCloseTo(before + t.body, 9)
    // The first sound comes at once, the count over its end.
    expect(firstLeg(t, 3).start).toBeCloseTo(3 + Math.max(before, 2 / speed), 9)
  })
  it('does not lead into what follows without a count-in, nor what goes on in the middle', () => {
    const t = led(16, 0.5, '8')
    expect(songOf(t, false)).toEqual({ before: 0, from: 10, seconds: 8 })
    expect(songOf(t, true, 2)).toEqual({ before: 0, from: 11, seconds: 6 })
  })
})

describe('words to count in with', () => {
  const called = (words: string, countIn: number) =>
    calls(drillTimeline({ ...range(120, 0, 192, [0]), leadWords: leadWordsOf(words) }, 1, countIn).countIn)
  it('stand on the last counts, numbers before them', () => {
    expect(called('ready and go', 4)).toBe('5 ready and go')
    expect(called(' eins,  zwei ', 2)).toBe('eins zwei')
    expect(called('one two three four five', 2)).toBe('four five')
    expect(called('', 4)).toBe('5 6 7 8')
  })
})
