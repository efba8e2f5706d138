import { describe, expect, it } from 'vitest'
import {
  bySound,
  calledVoices,
  changeVoice,
  emptyRoutine,
  keepVoice,
  type Routine,
  rebase,
  removeVoice,
  type Voice,
} from '..'

let n = 0
const newId = () => `n${n++}`
const voice = (id: string, from: number, to: number, at: readonly number[]): Voice => ({
  id,
  stretch: { from, to },
  recording: `recording-${id}`,
  pieces: at.map((a, i) => ({ at: a, from: i, stress: i + 0.1, to: i + 0.4 })),
  exact: false,
})
const routine = (...voices: Voice[]): Routine =>
  voices.reduce<Routine>((r, x) => keepVoice(r, x, newId), {
    ...emptyRoutine('R'),
    phrases: Array.from({ length: 4 }, () => ({ length: 8, feel: 'straight' as const, pickUp: false })),
  })
const shape = (r: Routine) =>
  r.voices.map((x) => [x.stretch.from, x.stretch.to, ...x.pieces.map((p) => p.at)])

describe('recorded calls in a routine', () => {
  it('a new recording takes the place of what it covers, the rest stays', () => {
    expect(shape(routine(voice('a', 0, 192, [0, 48, 96, 144]), voice('b', 48, 96, [48])))).toEqual([
      [0, 48, 0],
      [48, 96, 48],
      [96, 192, 96, 144],
    ])
    expect(shape(routine(voice('a', 0, 192, [0]), voice('b', 0, 384, [0])))).toEqual([[0, 384, 0]])
    // What is left of one on both sides are two, the first under its own name.
    const around = routine(voice('a', 0, 192, [0, 48, 96, 144]), voice('b', 48, 96, [48])).voices
    expect(around.filter((x) => x.recording === 'recording-a').map((x) => x.id === 'a')).toEqual([
      true,
      false,
    ])
    expect(new Set(around.map((x) => x.id)).size).toBe(3)
    // Where nothing was said there is nothing to keep.
    expect(shape(routine(voice('a', 0, 192, [0]), voice('b', 0, 96, [48])))).toEqual([[0, 96, 48]])
  })
  it('is moved against the counts, made exact, and taken out', () => {
    const r = routine(voice('a', 0, 192, [0.4, 24]))
    const moved = changeVoice(changeVoice(r, 'a', { later: -2 }), 'a', { exact: true })
    expect(moved.voices[0]?.pieces.map((p) => p.at)).toEqual([-1.6, 22])
    expect(moved.voices[0]?.exact).toBe(true)
    expect(removeVoice(moved, 'a').voices).toEqual([])
    const two = routine(voice('a', 0, 96, [0]), voice('b', 96, 192, [96]))
    expect(removeVoice(two, 'a').voices.map((v) => v.stretch.from)).toEqual([96])
  })
  it('goes where its sound goes when the counts are mended', () => {
    const r = routine(voice('a', 48, 96, [49.25, 71.25]))
    const old = Array.from({ length: 33 }, (_, i) => i)
    const twice = Array.from({ length: 65 }, (_, i) => i / 2)
    const there = rebase(r, bySound(old, twice), 64, newId).routine
    expect(shape(there)).toEqual([[96, 192, 98.5, 142.5]])
  })
  it('is called again where the same is danced again, but not to the other side, and not where it differs', () => {
    const base = routine(voice('a', 0, 96, [-1, 24]))
    const cue = { length: 24, layer: 'feet', move: 'step', side: 'none', call: '' } as const
    const repeats = [
      { id: 'r', to: { from: 192, to: 288 }, from: 0, mirrored: false },
      { id: 's', to: { from: 384, to: 480 }, from: 192, mirrored: false },
      { id: 't', to: { from: 576, to: 672 }, from: 0, mirrored: true },
    ]
    const at = (r: Routine) =>
      calledVoices(r).map((x) => [x.stretch.from, x.stretch.to, ...x.pieces.map((p) => p.at)])
    expect(at({ ...base, repeats })).toEqual([
      [0, 96, -1, 24],
      [192, 288, 191, 216],
      [384, 480, 383, 408],
    ])
    expect(at({ ...base, repeats, cues: [{ ...cue, id: 'c', at: 200 }] })).toEqual([[0, 96, -1, 24]])
  })
})
