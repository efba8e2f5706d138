import { describe, expect, it } from 'vitest'
import { gapsIn, heldCounts, heldTempi, rangeText, tempiWithin, tempoHeldAt, tempoRange } from './held-tempi'

/** Beats of so many at each tempo, one after another. */
const grid = (...held: readonly (readonly [number, number])[]) => {
  const beats = [0.4]
  for (const [bpm, many] of held)
    for (let k = 0; k < many; k++) beats.push((beats.at(-1) as number) + 60 / bpm)
  return beats.map((t) => Math.round(t * 1e4) / 1e4)
}

describe('tempi that are held one after another', () => {
  it('are told with the beat each begins on', () => {
    const tempi = heldTempi(grid([96, 64], [108, 40], [140, 80]))
    expect(tempi.map((t) => Math.round(t.bpm * 10) / 10)).toEqual([96, 108, 140])
    expect(tempi[0]?.from).toBe(0.4)
    expect(tempi[1]?.from).toBeCloseTo(0.4 + (64 * 60) / 96, 3)
    expect(heldTempi(grid([96, 64], [300, 2], [140, 80]))).toHaveLength(2)
  })
  it('are each that of its place, from its first beat on; else it is the usual one', () => {
    const beats = grid([96, 64], [140, 80])
    const at = (t: number) => Math.round(tempoHeldAt(heldTempi(beats), 120, t))
    expect([0, 0.4, 20, beats[63], beats[64], 70].map((t) => at(t as number))).toEqual([
      ...[96, 96, 96, 96],
      ...[140, 140],
    ])
    expect(tempoHeldAt([], 120, 5)).toBe(120)
  })
  it('are each from its first count up to the next one’s first', () => {
    const beats = grid([96, 64], [108, 40], [140, 80])
    const at = (count: number) => {
      const held = heldCounts(beats, count)
      return held && [held.from, held.to, Math.round(held.bpm)]
    }
    expect([0, 63, 64, 103, 104, 183, 500, -3].map(at)).toEqual([
      ...[
        [0, 64, 96],
        [0, 64, 96],
        [64, 104, 108],
        [64, 104, 108],
      ],
      ...[
        [104, 185, 140],
        [104, 185, 140],
        [104, 185, 140],
        [0, 64, 96],
      ],
    ])
    expect(heldCounts(grid([96, 200]), 5)).toBeNull()
  })
  it('are said from the slowest to the fastest; where one is held, it alone', () => {
    const range = tempoRange(heldTempi(grid([108, 64], [140, 40], [96, 40])), 120)
    expect([range, rangeText(range)]).toEqual([[96, 140], '96–140 BPM'])
    const [a, b, c] = heldTempi(grid([108, 64], [140, 40], [96, 40]))
    const from = b?.from ?? 0
    const all = [a, b, c].flatMap((t) => t ?? [])
    expect(tempiWithin(all, 0, from)).toEqual([a])
    expect(tempiWithin(all, from, from + 1)).toEqual([b])
    expect(tempiWithin(all, from - 1, 1000)).toEqual(all)
    const one = tempoRange([], 119.6)
    expect([one, rangeText(one)]).toEqual([[120, 120], '120 BPM'])
  })
  it('are none where one is held, or it moves, or what is held is not all', () => {
    expect(heldTempi(grid([96, 200]))).toEqual([])
    expect(heldTempi(grid([96, 64], [300, 2], [96, 80]))).toEqual([])
    expect(heldTempi(grid([96, 64], [110, 9], [140, 80]))).toEqual([])
    expect(heldTempi(grid([110, 9], [96, 64], [140, 80]))).toEqual([])
    const drift = Array.from({ length: 200 }, (_, k) => k * 0.5 + 2 * Math.sin(k / 20))
    expect(heldTempi(drift)).toEqual([])
    expect([heldTempi([]), heldTempi([1, 2])]).toEqual([[], []])
  })
})

describe('a grid of one tempo that goes on elsewhere', () => {
  const at = (from: number, beats: number, step = 0.5) =>
    Array.from({ length: beats }, (_, k) => from + k * step)

  it('says where', () => {
    const beats = [...at(1, 40), ...at(21.2, 30), ...at(36, 50)]
    expect(gapsIn(beats)).toEqual([21.2, 36])
    // What lies between was counted on, on several beats.
    expect(gapsIn([...at(1, 40), 20.95, 21.4, ...at(21.85, 30)])).toEqual([21.85])
    expect(gapsIn(at(1, 60))).toEqual([])
  })
  it('is none where the tempo moves, or little of it is held', () => {
    expect(gapsIn(Array.from({ length: 80 }, (_, k) => k * 0.5 + 0.2 * Math.sin(k / 5)))).toBeNull()
    expect(gapsIn([...at(1, 40), ...at(21, 60, 0.4)])).toBeNull()
    expect(gapsIn([...at(1, 40), ...at(21.2, 9), ...at(26, 40)])).toBeNull()
    expect(gapsIn(at(1, 9))).toBeNull()
    expect(gapsIn([])).toBeNull()
  })
})
