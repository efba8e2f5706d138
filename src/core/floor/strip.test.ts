import { describe, expect, it } from 'vitest'
import { type DancedCue, danced, type Layer, placePhrases, setUsualBorder } from '../routine'
import { cuesOf, page } from '../routine/hand.test-tools'
import { nowIn, saidCount, stripAt, subCounts, tipsIn } from '.'

// Eights of 192 ticks; the & is 12, e 6, a 18. All by hand.
const placed = placePhrases(page(3))
const all = (...lines: [Layer, string][]) =>
  danced(
    page(
      3,
      lines.flatMap(([layer, line]) => cuesOf(line, layer)),
    ),
  )
const what = (cues: readonly DancedCue[], tick: number) =>
  nowIn(cues, tick).map((l) => [l.layer, l.cues.map((c) => c.move).join('+')])

describe('the count that is said large', () => {
  const cues = all(['feet', '7 step L; 7& tap R; 8 kick R'])
  const said = (tick: number) => {
    const { number, sub } = saidCount(placed, cues, tick)
    return number + sub
  }
  it('keeps its sub-count until the next one: 7, 7&, and never 7 again', () => {
    expect([144, 150, 156, 162, 168, 174].map(said)).toEqual(['7', '7', '7&', '7&', '8', '8'])
  })
  it('of counts nothing begins between is the count alone', () => {
    expect([0, 6, 12, 18].map(said)).toEqual(['1', '1', '1', '1'])
  })
  it('divides in threes where the phrase does', () => {
    const r = page(1)
    const three = placePhrases({ ...r, phrases: [{ length: 8, feel: 'triplet', pickUp: false }] })
    expect(saidCount(three, [{ at: 16 }], 20)).toEqual({ number: '1', sub: 'a' })
  })
})

describe('what is danced now', () => {
  it('is one move a layer: what is followed has ended, the feet come first', () => {
    const cues = all(['feet', '1-4 walk; 2 kick R'], ['arms', '1-8 open'], ['head', '3 look L'])
    expect(what(cues, 0)).toEqual([
      ['feet', 'walk'],
      ['arms', 'open'],
    ])
    expect(what(cues, 24)).toEqual([
      ['feet', 'kick'],
      ['arms', 'open'],
    ])
    // The kick is over, and it ended the walk.
    expect(what(cues, 48)).toEqual([
      ['arms', 'open'],
      ['head', 'look'],
    ])
  })
  it('is the long move inside a long move', () => {
    expect(what(all(['feet', '1-8 box step']), 100)).toEqual([['feet', 'box step']])
  })
  it('is one for each who dances there', () => {
    const cues = all(['feet', '1 step R']).flatMap((c) =>
      ['front', 'back'].map((role) => ({ ...c, role, id: role, move: `${role} step` })),
    )
    expect(what(cues, 0)).toEqual([['feet', 'front step+back step']])
  })
})

describe('the counts that are seen at once', () => {
  const leaning = placePhrases(setUsualBorder(page(3), { lean: 12, resolve: 0 }).routine)
  it('are a phrase, from the count its pick-up lies in; its pick-up is seen with it', () => {
    expect(stripAt(placed, 200)?.shown).toEqual({ from: 192, to: 384 })
    expect(stripAt(leaning, 179)?.shown).toEqual({ from: 0, to: 192 })
    expect(stripAt(leaning, 180)?.shown).toEqual({ from: 168, to: 384 })
    expect(stripAt([], 0)).toBeNull()
  })
  it('have every & and all that is danced between', () => {
    const cues = all(['feet', '2e tap R; 3a tap L'])
    expect(subCounts(placed, cues, { from: 0, to: 72 })).toEqual([
      { at: 12, name: '&' },
      { at: 30, name: 'e' },
      { at: 36, name: '&' },
      { at: 60, name: '&' },
      { at: 66, name: 'a' },
    ])
  })
})

describe('what is to be minded', () => {
  const cues = all(['feet', '1 step R; 4 tap L; 7 jump']).map((c) => ({
    ...c,
    ...(c.move === 'tap' ? { tip: 'No weight on your left.' } : {}),
    ...(c.move === 'jump' ? { caution: 'jump' as const, mistake: 'stiff knees' } : {}),
  }))
  const tips = (slips: number[], to = 192, mirrored = false) =>
    tipsIn(placed, cues, { from: 0, to }, slips, mirrored)
  it('is said with its count, in order, where most slipped first', () => {
    expect(tips([]).map((t) => [t.label, t.says])).toEqual([
      ['4', 'tap L: No weight on your left.'],
      ['7', 'jump: mind the jump; not: stiff knees'],
    ])
    expect(tips([150, 144, 80]).map((t) => t.label)).toEqual(['7', '4'])
  })
  it('is of what is danced, and to the side that is seen', () => {
    expect(tips([], 144).map((t) => t.label)).toEqual(['4'])
    expect(tips([], 144, true)[0]?.says).toBe('tap R: No weight on your right.')
  })
})
