import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  clampSpeed,
  clockText,
  countLabel,
  countSeconds,
  countsText,
  countTimes,
  cuesText,
  eightsIn,
  gridTempo,
  isGrid,
  midiTempo,
  parseCountLabel,
  snapTick,
  tempoAt,
  tickOfTime,
  timeOfTick,
} from '.'

const steady = (bpm: number, n = 64, start = 0) => Array.from({ length: n }, (_, i) => start + (i * 60) / bpm)

// Worked by hand; plain arithmetic of tempo.
describe('worked examples', () => {
  it('120 BPM: a count is 0.5 s, the "&" comes after 0.25 s, an eight lasts 4 s', () => {
    expect(countSeconds(120)).toBeCloseTo(0.5, 9)
    const beats = steady(120)
    expect(timeOfTick(beats, 12)).toBeCloseTo(0.25, 9)
    expect(timeOfTick(beats, 8 * 24)).toBeCloseTo(4, 9)
  })
  it('96 BPM at 75 %: 72 BPM, a count is 0.8333 s, an eight 6.667 s', () => {
    expect(tempoAt(96, 0.75)).toBeCloseTo(72, 9)
    expect(countSeconds(96, 0.75)).toBeCloseTo(0.8333, 4)
    expect(8 * countSeconds(96, 0.75)).toBeCloseTo(6.667, 3)
  })
  it('200 s at 128 BPM: 426.67 beats, 53 whole eights and 2.67 counts', () => {
    const { beats, eights, counts } = eightsIn(200, 128)
    expect(beats).toBeCloseTo(426.67, 2)
    expect(eights).toBe(53)
    expect(counts).toBeCloseTo(2.67, 2)
  })
  it('beats at 10.00, 10.50, 11.02, 11.50: 2& is at 10.760, and 11.260 is 3&', () => {
    const beats = [10, 10.5, 11.02, 11.5]
    expect(timeOfTick(beats, 24 + 12)).toBeCloseTo(10.76, 9)
    expect(countLabel(Math.round(tickOfTime(beats, 11.26)))).toBe('3&')
  })
  // Standard MIDI File 1.0, meta event 51 03.
  it('120 BPM is 500 000 microseconds per quarter note', () => {
    expect(midiTempo(120)).toBe(500_000)
  })
})

describe('count labels', () => {
  it('names the quarters of a straight count and the thirds of a triplet one', () => {
    expect([0, 6, 12, 18, 24].map((t) => countLabel(t))).toEqual(['1', '1e', '1&', '1a', '2'])
    expect([0, 8, 16, 24].map((t) => countLabel(t, 'triplet'))).toEqual(['1', '1&', '1a', '2'])
  })
  it('shows other ticks as a fraction', () => {
    expect(countLabel(24 * 2 + 5)).toBe('3+5/24')
  })
  it('lets a pick-up of three counts end on 8', () => {
    expect([0, 24, 48].map((t) => countLabel(t, 'straight', 6))).toEqual(['6', '7', '8'])
  })
  it('reads back every label it prints', () => {
    const named = fc.record({
      count: fc.integer({ min: 0, max: 31 }),
      at: fc.constantFrom(0, 1, 2, 3),
      feel: fc.constantFrom<'straight' | 'triplet'>('straight', 'triplet'),
      first: fc.integer({ min: 1, max: 8 }),
    })
    fc.assert(
      fc.property(named, ({ count, at, feel, first }) => {
        const tick = count * 24 + (feel === 'straight' ? at * 6 : (at % 3) * 8)
        expect(parseCountLabel(countLabel(tick, feel, first), feel, first)).toBe(tick)
      }),
    )
  })
  it('refuses what is not a label', () => {
    expect(['', '&', '3x', '0', '2ea', '1e2'].map((t) => parseCountLabel(t))).toEqual(Array(6).fill(null))
    expect(parseCountLabel('3e', 'triplet')).toBeNull()
  })
  it('snaps to the nearest named tick', () => {
    expect([2, 3, 4, 11, 23, -2].map((t) => snapTick(t))).toEqual([0, 0, 6, 12, 24, 0])
    expect([3, 5, 13].map((t) => snapTick(t, 'triplet'))).toEqual([0, 8, 16])
  })
})

const grid = fc
  .record({
    start: fc.double({ min: 0, max: 30, noNaN: true }),
    steps: fc.array(fc.double({ min: 0.2, max: 1.5, noNaN: true }), { minLength: 1, maxLength: 80 }),
  })
  .map(({ start, steps }) => {
    let t = start
    return [start, ...steps.map((s) => (t += s))]
  })

describe('position and time are inverse', () => {
  it('time -> position -> time, to a microsecond, inside and outside the grid', () => {
    fc.assert(
      fc.property(grid, fc.double({ min: -20, max: 200, noNaN: true }), (beats, t) => {
        expect(Math.abs(timeOfTick(beats, tickOfTime(beats, t)) - t)).toBeLessThan(1e-6)
      }),
    )
  })
  it('position -> time -> position, for whole ticks', () => {
    fc.assert(
      fc.property(grid, fc.integer({ min: -500, max: 4000 }), (beats, tick) => {
        expect(Math.round(tickOfTime(beats, timeOfTick(beats, tick)))).toBe(tick)
      }),
    )
  })
  it('time never runs backwards', () => {
    fc.assert(
      fc.property(grid, fc.integer({ min: -500, max: 4000 }), (beats, tick) => {
        expect(timeOfTick(beats, tick + 1)).toBeGreaterThan(timeOfTick(beats, tick))
      }),
    )
  })
  it('goes on beyond both ends at the local median period', () => {
    const beats = [...steady(120, 10, 5), ...steady(60, 10, 10)]
    expect(timeOfTick(beats, -24)).toBeCloseTo(4.5, 9)
    expect(timeOfTick(beats, 24 * 20)).toBeCloseTo(20, 9)
  })
})

describe('grids', () => {
  it('counts half-time and double-time', () => {
    const beats = [0, 1, 2, 3, 4]
    expect(countTimes(beats, 0.5)).toEqual([0, 2, 4])
    expect(countTimes(beats, 0.5, 1)).toEqual([1, 3])
    expect(countTimes(beats, 2)).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4])
  })
  it('half-time undoes double-time', () => {
    fc.assert(
      fc.property(grid, (beats) => {
        expect(countTimes(countTimes(beats, 2), 0.5)).toEqual(beats)
      }),
    )
  })
  it('knows a grid from a list that stands still, runs back or is not finite', () => {
    expect(isGrid([0, 1, 2])).toBe(true)
    for (const bad of [[], [1], [0, 0], [0, 2, 1], [0, Number.NaN], [0, Number.POSITIVE_INFINITY]])
      expect(isGrid(bad)).toBe(false)
  })
  it('reads the tempo through one odd interval', () => {
    expect(gridTempo([0, 0.5, 1, 1.9, 2.4, 2.9])).toBeCloseTo(120, 6)
  })
})

describe('what people read', () => {
  it('writes times as minutes and seconds', () => {
    expect([0, 9.99, 65, 600, -3].map((t) => clockText(t))).toEqual([
      '0:00',
      '0:09',
      '1:05',
      '10:00',
      '-0:03',
    ])
    expect([47.25, 59.97].map((t) => clockText(t, true))).toEqual(['0:47.3', '1:00.0'])
  })
  it('keeps speed between 40 and 110 % in whole percent', () => {
    expect([0.1, 0.756, 2].map(clampSpeed)).toEqual([0.4, 0.76, 1.1])
  })
})

it('says one count or cue, and several', () => {
  expect([countsText(1), countsText(7), countsText(0)]).toEqual(['1 count', '7 counts', '0 counts'])
  expect([cuesText(1), cuesText(2)]).toEqual(['1 cue', '2 cues'])
})
