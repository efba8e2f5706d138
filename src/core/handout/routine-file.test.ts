import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Take } from '../match'
import { type Routine, repairedBeats, setRepeat } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { timeOfTick } from '../time'
import { NotOpened, onCopy, type RoutineFile } from '.'

const beats = Array.from({ length: 32 }, (_, i) => 2 + i * 0.5)
const LINE = '1 step R; 3 kick L; 5 turn right 1/2; 8& clap'
const made = {
  ...page(4, cuesOf([LINE, LINE, LINE, LINE])),
  marks: [{ id: 'm', at: 3.25, end: 3.75, kind: 'lyric' as const, text: 'la' }],
} as Routine
const file = (routine: Routine = made): RoutineFile => ({
  ...{ azalea: 'routine', version: 1, made: '2026-11-26T10:00:00.000Z', id: 'routine-one', routine },
  ...{
    song: { sha256: 'a'.repeat(64), seconds: 20 },
    beats,
    hearing: null,
    sound: '',
    moves: [],
    recordings: [],
    films: [],
  },
})
const heard = { version: 8, beats: Array.from({ length: 50 }, (_, i) => i * 0.4) }
const take = (from: number, to: number, at: number, rate = 1): Take => ({ from, to, at, rate, sure: 0.9 })
const timesOf = (r: Routine) => repairedBeats(heard.beats, r.repairs)

describe('a routine on another copy of its song', () => {
  it('keeps every count at its sound, whatever the lead-in and the speed', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 9, noNaN: true }),
        fc.double({ min: 0.95, max: 1.05, noNaN: true }),
        (lead, rate) => {
          const { routine, said } = onCopy(file(), heard, [take(lead, lead + 20 / rate, 0, rate)], ids())
          expect(said).toEqual([])
          expect(routine.cues).toEqual(made.cues)
          for (const [i, t] of timesOf(routine).entries())
            expect(Math.abs(t - (lead + (beats[i] as number) / rate))).toBeLessThan(1e-5)
          expect(Math.abs((routine.marks[0]?.at ?? 0) - (lead + 3.25 / rate))).toBeLessThan(0.002)
        },
      ),
    )
  })
  it('a part the copy has not got is left out with its cues, and what follows keeps its sound', () => {
    // The second eight, from 6 to 10 s, is not in it.
    const { routine, said } = onCopy(file(), heard, [take(0, 6, 0), take(6, 14, 10)], ids())
    expect(said[0]).toBe('8 counts are not in your copy of the song: 4 cues on them were left out.')
    expect(routine.phrases.reduce((n, p) => n + p.length, 0)).toBe(24)
    expect(routine.cues.map((c) => c.at)).toEqual(
      made.cues.filter((c) => c.at < 192 || c.at >= 384).map((c) => (c.at < 192 ? c.at : c.at - 192)),
    )
    const times = timesOf(routine)
    // The first step of the third eight was at 10 s of the song, which is 6 s of the copy.
    expect(timeOfTick(times, 192)).toBeCloseTo(6, 5)
  })
  it('a repeat of a part that is not there is written out where it was danced', () => {
    const plain = { ...made, cues: made.cues.filter((c) => c.at < 384) }
    const r = setRepeat(
      plain,
      { id: 'r', to: { from: 384, to: 576 }, from: 192, mirrored: false },
      ids('x'),
    ) as Routine
    const { routine } = onCopy(file(r), heard, [take(0, 6, 0), take(6, 14, 10)], ids('n'))
    expect(routine.repeats).toEqual([])
    expect(routine.cues.filter((c) => c.at >= 192 && c.at < 384)).toHaveLength(4)
  })
  it('another song, or too little of it, is refused', () => {
    expect(() => onCopy(file(), heard, [take(0, 5, 8), take(5, 6, 0)], ids())).toThrow(NotOpened)
    expect(() => onCopy(file(), heard, [], ids())).toThrow(NotOpened)
  })
})
