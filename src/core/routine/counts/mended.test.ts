/* A song heard wrong in each of the usual ways is put right by the repair meant for it, at any tempo and beginning. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyRoutine, layOut, oneHere, placePhrases, type Routine, repair, shiftPhrases } from '..'
import { repairedBeats } from './repairs'

const even = (from: number, step: number, n: number) => Array.from({ length: n }, (_, i) => from + i * step)
const eights = (n: number, from = 0) =>
  even(from, 8, Math.ceil((n - from) / 8)).filter((i) => i >= 0 && i < n)

interface Wrong {
  what: string
  /** The beats as heard, and the indices of their 1s; `n` counts of `step` seconds from `start` are true. */
  heard: (start: number, step: number, n: number) => { beats: number[]; ones: number[] }
  mend: (r: Routine, beats: readonly number[], step: number, id: () => string) => Routine
}

const late =
  (by: number): Wrong['heard'] =>
  (start, step, n) => ({
    beats: even(start, step, n),
    ones: eights(n, by),
  })
const routineOf = (edited: Routine | { routine: Routine }) => ('routine' in edited ? edited.routine : edited)

const WRONG: Wrong[] = [
  {
    what: 'half the tempo',
    heard: (start, step, n) => ({ beats: even(start, 2 * step, n / 2), ones: eights(n / 2) }),
    mend: (r, beats, _, id) => routineOf(repair(r, beats, { kind: 'double' }, id)),
  },
  {
    what: 'twice the tempo',
    heard: (start, step, n) => ({ beats: even(start, step / 2, 2 * n), ones: eights(2 * n) }),
    mend: (r, beats, _, id) => routineOf(repair(r, beats, { kind: 'halve', keep: 0 }, id)),
  },
  { what: 'the 1 a beat late', heard: late(1), mend: (r) => shiftPhrases(r, -1) },
  { what: 'the 1 two beats late', heard: late(2), mend: (r) => shiftPhrases(shiftPhrases(r, -1), -1) },
  { what: 'the 1 three beats late', heard: late(3), mend: (r) => oneHere(r, 8) },
  { what: 'eights off by a bar', heard: late(4), mend: (r) => shiftPhrases(r, 4) },
  {
    what: 'half a beat early',
    heard: (start, step, n) => ({ beats: even(start - step / 2, step, n), ones: eights(n) }),
    mend: (r, beats, step, id) => routineOf(repair(r, beats, { kind: 'shift', seconds: step / 2 }, id)),
  },
]

describe('a hearing that is wrong', () => {
  for (const { what, heard, mend } of WRONG)
    it(`by ${what} is right after the repair meant for it`, () => {
      fc.assert(
        fc.property(
          fc.double({ min: 60, max: 190, noNaN: true }),
          fc.double({ min: 0.6, max: 20, noNaN: true }),
          fc.integer({ min: 4, max: 40 }).map((k) => 8 * k),
          (bpm, start, n) => {
            const step = 60 / bpm
            let made = 0
            const id = () => `i${made++}`
            const { beats, ones } = heard(start, step, n)
            const page = layOut(
              emptyRoutine('Song'),
              { counts: beats.length, starts: ones, sections: [] },
              id,
            )
            const onesOf = (r: Routine) => {
              const grid = repairedBeats(beats, r.repairs)
              return placePhrases(r)
                .filter((p) => !p.phrase.pickUp)
                .map((p) => grid[p.start / 24] as number)
            }
            const isRight = (r: Routine) => {
              const got = onesOf(r).slice(1, -1)
              return (
                got.length >= n / 8 - 3 &&
                got.every((t) => {
                  const eight = (t - start) / (8 * step)
                  return Math.abs(eight - Math.round(eight)) < 1e-6
                })
              )
            }
            // Only the eights' places tell a wrong grid where it has as many beats as the right one.
            const right = isRight(page) && repairedBeats(beats, page.repairs).length === n
            expect(right).toBe(false)
            const mended = mend(page, beats, step, id)
            expect(isRight(mended)).toBe(true)
            expect(repairedBeats(beats, mended.repairs).length).toBeGreaterThanOrEqual(n - 1)
            expect(repairedBeats(beats, mended.repairs).length).toBeLessThanOrEqual(n + 1)
          },
        ),
        { numRuns: 60 },
      )
    })
})
