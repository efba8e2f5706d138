import { describe, expect, it } from 'vitest'
import { placePhrases, type Routine, setBorders, setUsualBorder } from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { leanings } from '.'

const LINE = '1 step R; 3 step L; 5 step R; 7 step L; 8& hop R'
/** Three eights; the hop of the first lasts over the line, as long as said. */
const hopping = (length: number): Routine => {
  const r = page(3, cuesOf([LINE, LINE, '1 step R']))
  return { ...r, cues: r.cues.map((c) => (c.move === 'hop' && c.at < 192 ? { ...c, length } : c)) }
}
const found = (r: Routine) => leanings(r, placePhrases(r))

describe('what leans over a border', () => {
  it('is a move that begins on 8& and lasts over the line', () => {
    expect(found(hopping(24))).toEqual([{ at: 192, lean: 12, move: 'hop' }])
    expect(found(hopping(12))).toEqual([])
  })
  it('is asked about no more once it is said', () => {
    const r = hopping(24)
    expect(found(setBorders(r, [192], { lean: 12, resolve: 0 }))).toEqual([])
    expect(found(setUsualBorder(r, { lean: 24, resolve: 0 }).routine)).toEqual([])
    // Somebody said that it belongs to what came before.
    expect(found(setBorders(r, [192], { lean: 0, resolve: 24 }))).toEqual([])
  })
  it('is no move that begins on a count, or long before', () => {
    const r = hopping(24)
    const moved = (at: number) => ({
      ...r,
      cues: r.cues.map((c) => (c.move === 'hop' && c.at < 192 ? { ...c, at, length: 96 } : c)),
    })
    expect(found(moved(168))).toEqual([])
    expect(found(moved(156))).toEqual([])
    expect(found(moved(174))).toEqual([{ at: 192, lean: 18, move: 'hop' }])
  })
  it('is a calling that begins there', () => {
    const r = hopping(12)
    const voice = {
      id: 'v',
      stretch: { from: 372, to: 480 },
      recording: 'rec',
      exact: true,
      pieces: [{ at: 372, from: 0, to: 0.2 }],
    }
    expect(found({ ...r, voices: [voice as never] })).toEqual([{ at: 384, lean: 12, move: '' }])
  })
})
