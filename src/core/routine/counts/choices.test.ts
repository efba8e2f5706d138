import { describe, expect, it } from 'vitest'
import {
  barChoices,
  type Choice,
  commit,
  emptyRoutine,
  everyEight,
  layOut,
  oneChoices,
  placePhrases,
  repairedBeats,
  repairsTo,
  tempoChoices,
} from '..'

const heard = Array.from({ length: 64 }, (_, k) => 1 + k * 0.5)
let n = 0
const newId = () => `c${n++}`
const routine = () =>
  layOut(emptyRoutine('Test'), { counts: 64, starts: everyEight(0, 64), sections: [] }, newId)

/** The routine with one of the choices taken. */
const changed = (choice: Choice | undefined) => {
  const done = commit(routine(), (r) => choice?.change(r, newId) ?? r)
  if (!done.done) throw new Error(done.why)
  return done.routine
}

/** What the other way says the beats are: the heard period over the factor, from the first heard beat on. */
const truth = (factor: number, shift: number) => (t: number) => {
  const x = (t - 1 - shift) / (0.5 / factor)
  return Math.abs(x - Math.round(x)) * (0.5 / factor)
}

describe('another way to hear the beat, as repairs', () => {
  it.each([
    ['twice as fast', 2, 0],
    ['twice as fast, off by an eighth', 2, 0.125],
    ['half as fast, on the first', 0.5, 0],
    ['half as fast, on the second', 0.5, 0.5],
    ['half as fast, in between', 0.5, 0.25],
    ['half as fast, in between the other way', 0.5, 0.75],
    ['on the off-beat', 1, 0.25],
    ['a little earlier', 1, 0.45],
  ])('%s', (_, factor, shift) => {
    const repairs = repairsTo({ bpm: 120 * factor, factor, shift, weight: 0.2, one: -1, bar: 4 }, 0.5)
    const beats = repairedBeats(heard, repairs ?? [])
    expect(beats.length).toBeGreaterThan(20)
    for (const t of beats) expect(truth(factor, shift)(t)).toBeLessThan(1e-9)
    expect((beats[1] as number) - (beats[0] as number)).toBeCloseTo(0.5 / factor, 9)
  })
  it.each([
    ['three against two', 1.5, 0.1, 2.1],
    ['two against three', 2 / 3, 0.5, 5.25],
    ['four against three', 4 / 3, 0, 1],
    ['three against four', 0.75, 0.25, 3.25],
  ])('%s takes other beats, with eights from their own 1 on', (_, factor, shift, one) => {
    const other = { bpm: 120 * factor, factor, shift, weight: 0.3, one, bar: 4 }
    expect(repairsTo(other, 0.5)).toBeNull()
    const [choice] = tempoChoices(heard, [other], 4)
    expect(choice?.name).toBe(`${factor > 1 ? 'Faster' : 'Slower'}: ${Math.round(120 * factor)} BPM`)
    const next = changed(choice)
    const beats = repairedBeats(heard, next.repairs)
    for (const t of beats) expect(truth(factor, shift)(t)).toBeLessThan(1e-9)
    expect((beats.at(-1) as number) - 32.5).toBeLessThan(1e-9)
    expect(32.5 - (beats.at(-1) as number)).toBeLessThan(0.5 / factor)
    const ones = placePhrases(next)
      .filter((p) => !p.phrase.pickUp)
      .map((p) => beats[p.start / 24] as number)
    for (const t of ones) {
      const eights = (t - one) / ((8 * 0.5) / factor)
      expect(Math.abs(eights - Math.round(eights))).toBeLessThan(1e-9)
    }
  })
  it('brings the 1 along where it is known', () => {
    const [choice] = tempoChoices(
      heard,
      [{ bpm: 120, factor: 1, shift: 0.25, weight: 0.3, one: 2.25, bar: 4 }],
      4,
    )
    const next = changed(choice)
    const beats = repairedBeats(heard, next.repairs)
    const first = placePhrases(next).find((p) => !p.phrase.pickUp)
    expect(beats[(first?.start ?? 0) / 24]).toBeCloseTo(2.25, 9)
  })
  it('whose beats are of another family keeps its 1, and begins with its first beat where it knows none', () => {
    // Three beats where two were heard.
    const ones = (one: number) => {
      const [choice] = tempoChoices(heard, [{ bpm: 180, factor: 1.5, shift: 0, weight: 0.3, one, bar: 4 }], 4)
      const next = changed(choice)
      const beats = repairedBeats(heard, next.repairs)
      return placePhrases(next)
        .filter((p) => !p.phrase.pickUp)
        .map((p) => (beats[p.start / 24] as number).toFixed(3))
    }
    expect(ones(-1).slice(0, 2)).toEqual(['1.000', (1 + 8 / 3).toFixed(3)])
    expect(ones(1 + 5 / 3)[0]).toBe((1 + 5 / 3).toFixed(3))
    // Later 1s of the same count are the same count.
    expect(ones(1 + 21 / 3)[0]).toBe((1 + 5 / 3).toFixed(3))
  })
  it('is named by the nearest way there', () => {
    const at = (shift: number) =>
      tempoChoices(heard, [{ bpm: 120, factor: 1, shift, weight: 0.3, one: -1, bar: 4 }], 4)[0]?.name
    expect([0.1, 0.25, 0.4].map(at)).toEqual([
      'The beat comes 100 ms later',
      'The beat lies between these',
      'The beat comes 100 ms earlier',
    ])
  })
  it('is one change of the routine, and leaves unlikely ones out', () => {
    const others = [
      { bpm: 60, factor: 0.5, shift: 0, weight: 0.2, one: -1, bar: 4 },
      { bpm: 240, factor: 2, shift: 0, weight: 0.01, one: -1, bar: 4 },
    ]
    const [half, ...rest] = tempoChoices(heard, others, 4)
    expect(half?.name).toBe('Half as fast: 60 BPM')
    expect(rest).toEqual([])
    expect(changed(half).repairs).toEqual([{ kind: 'halve', keep: 0 }])
  })
})

describe('bars of another size', () => {
  it('are counted from where their own first 1 is, in phrases of two', () => {
    const [threes, ...rest] = barChoices(heard, [
      { bar: 3, weight: 0.3, one: 2.02 },
      { bar: 7, weight: 0.02, one: 1 },
    ])
    expect([threes?.name, rest]).toEqual(['Counted in threes', []])
    const r = changed(threes)
    expect([r.usual, r.phrases.slice(0, 3).map((p) => p.length)]).toEqual([6, [2, 6, 6]])
    expect(r.phrases[0]?.pickUp).toBe(true)
  })
  it('come with another beat, and say so', () => {
    const other = { bpm: 90, factor: 0.75, shift: 0, weight: 0.3, one: 3, bar: 3 }
    const [slower] = tempoChoices(heard, [other], 4)
    expect(slower?.name).toBe('Slower: 90 BPM, in threes')
    const phrases = placePhrases(changed(slower)).filter((p) => !p.phrase.pickUp)
    expect(phrases[0]?.phrase.length).toBe(6)
    const half = { bpm: 60, factor: 0.5, shift: 0, weight: 0.3, one: 4, bar: 3 }
    const halved = changed(tempoChoices(heard, [half], 4)[0])
    expect([halved.repairs.length, halved.usual]).toEqual([1, 6])
    expect(placePhrases(halved).some((p) => !p.phrase.pickUp && p.start === 3 * 24)).toBe(true)
  })
  it('moves of the 1 are told within their own phrases', () => {
    expect(oneChoices([{ shift: 5, weight: 0.4 }], 6)[0]?.name).toBe('The 1 is 1 count earlier')
    expect(oneChoices([{ shift: 5, weight: 0.4 }], 10)[0]?.name).toBe('The 1 is 5 counts later')
  })
})

describe('another place for the 1', () => {
  it('moves every phrase there; seven later is one earlier', () => {
    const [later, earlier] = oneChoices(
      [
        { shift: 4, weight: 0.3 },
        { shift: 7, weight: 0.1 },
        { shift: 2, weight: 0.01 },
      ],
      8,
    )
    expect([later?.name, earlier?.name]).toEqual(['The 1 is 4 counts later', 'The 1 is 1 count earlier'])
    const ones = (r: ReturnType<typeof routine>) =>
      placePhrases(r)
        .filter((p) => !p.phrase.pickUp)
        .map((p) => p.start / 24)
    expect(ones(changed(later))[0]).toBe(4)
    expect(ones(changed(earlier))[0]).toBe(7)
  })
})
