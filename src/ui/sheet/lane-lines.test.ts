import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TICKS_PER_COUNT } from '@/core/time'
import { broken, type Wanted, writeLane } from './lane-lines'

/** Every letter eight pixels wide, seven where it is small; six on each side of a text. */
const widthOf = (text: string, small = false) => (small ? 7 : 8) * text.length
const setting = { widthOf, around: 12 }
const lane = (wanted: readonly Wanted[], pixels = 60) => writeLane(wanted, pixels, 8 * pixels, setting)
const cue = (at: number, text: string, length = 24): Wanted => ({ at, length, text })

describe('what is written in a lane', () => {
  it('stands at its place, as long as it lasts, in one line where all of it fits', () => {
    const { written, lines } = lane([cue(0, 'step'), cue(24, 'roll', 48), cue(168, 'hold')])
    expect(lines).toBe(1)
    expect(written.map((w) => [w.left, w.width, w.line])).toEqual([
      [0, 60, 0],
      [60, 120, 0],
      [420, 60, 0],
    ])
  })
  it('takes the free room to its right', () => {
    const [long] = lane([cue(0, 'ball-change'), cue(48, 'hold')]).written
    expect([long?.width, long?.lasts, long?.words]).toEqual([100, 60, ['ball-change']])
  })
  it('is set smaller where that keeps it in its line', () => {
    const { written, lines } = lane([cue(0, 'grand'), cue(18, 'roll'), cue(60, 'hold')])
    expect(lines).toBe(1 + 1)
    const [one, two] = lane([cue(0, 'cross'), cue(24, 'turning'), cue(48, 'hold')], 51).written
    expect([one?.small, two?.small]).toEqual([true, false])
    const [fits, over] = lane([cue(0, 'step'), cue(24, 'behind'), cue(48, 'hold')], 56).written
    expect([fits?.small, over?.small, over?.width, over?.line]).toEqual([false, true, 56, 0])
    expect(written[0]?.small).toBe(false)
  })
  it('goes a line lower where there is no room: sub-counts below counts', () => {
    const beats = ['tap', 'kick', 'tap', 'kick'].map((t, i) => cue(i * 12, t, 12))
    expect(lane(beats).written.map((w) => w.line)).toEqual([0, 1, 0, 1])
    expect(lane([cue(0, 'reach'), cue(0, 'clap')]).written.map((w) => w.line)).toEqual([0, 1])
  })
  it('is broken between words where it is longer than two counts, and at hyphens', () => {
    const { written, lines } = lane([cue(0, 'slow ball-change to the back'), cue(48, 'hold')])
    expect(written[0]?.words).toEqual(['slow ball-', 'change to the', 'back'])
    expect([written[0]?.width, written[1]?.line, lines]).toEqual([116, 0, 3])
  })
  it('at the end of the lane is broken, and moved to the left where a word is longer than what is left', () => {
    expect(lane([cue(168, 'go now')]).written[0]).toMatchObject({ left: 420, words: ['go now'] })
    const end = lane([cue(180, 'together', 12)]).written[0]
    expect(end).toMatchObject({ left: 480 - 76, width: 76, words: ['together'], begins: 46, lasts: 30 })
  })
  it('is never cut off, and never over another', () => {
    const texts = fc.stringMatching(/^[a-z]{1,14}( [a-z-]{1,14}){0,4}$/)
    const cues = fc.array(fc.tuple(fc.integer({ min: 0, max: 31 }), fc.integer({ min: 1, max: 40 }), texts), {
      maxLength: 18,
    })
    fc.assert(
      fc.property(cues, fc.integer({ min: 40, max: 140 }), (list, pixels) => {
        const wanted = list
          .map(([at, length, text]) => cue(at * 6, text, length * 6))
          .sort((a, b) => a.at - b.at)
        const { written, lines } = writeLane(wanted, pixels, 8 * pixels, setting)
        for (const [i, w] of written.entries()) {
          expect(w.words.join('').replaceAll(' ', '')).toBe((wanted[i] as Wanted).text.replaceAll(' ', ''))
          for (const words of w.words)
            expect(widthOf(words, w.small) + setting.around).toBeLessThanOrEqual(w.width)
          expect(w.left).toBeGreaterThanOrEqual(0)
          if (w.width <= 8 * pixels) expect(w.left + w.width).toBeLessThanOrEqual(8 * pixels + 1e-6)
          expect(w.left + w.begins).toBeCloseTo(((wanted[i] as Wanted).at / TICKS_PER_COUNT) * pixels, 9)
          expect(w.line + w.words.length).toBeLessThanOrEqual(lines)
          for (const other of written.slice(0, i)) {
            const apart =
              other.left + other.width <= w.left + 1e-6 ||
              w.left + w.width <= other.left + 1e-6 ||
              other.line + other.words.length <= w.line ||
              w.line + w.words.length <= other.line
            expect(apart).toBe(true)
          }
        }
      }),
    )
  })
})

describe('a broken text', () => {
  it('is one line where it fits, and a word alone stays whole', () => {
    expect(broken('left and right', 112, widthOf)).toEqual(['left and right'])
    expect(broken('left and right', 64, widthOf)).toEqual(['left and', 'right'])
    expect(broken('counterclockwise', 40, widthOf)).toEqual(['counterclockwise'])
  })
})
