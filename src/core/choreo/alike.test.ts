import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { danced, mirrorCue, placePhrases, type Routine, setRepeat, written } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { alikes, linkAlike, soundsAlike } from './alike'
import { moveBook } from './moves'

const BOOK = moveBook([])
const EIGHT = 192
const found = (r: Routine) =>
  alikes(r, placePhrases(r), BOOK).map((a) => ({
    ...{ likeness: a.likeness, to: [a.to.from / 24, a.to.to / 24], from: a.from / 24 },
    ...{ mirrored: a.mirrored, same: a.same, own: a.own },
  }))
/** What is danced, without ids and what only comments on it. */
const steps = (r: Routine) =>
  danced(r)
    .map((c) => JSON.stringify([c.at, c.length, c.layer, c.move.toLowerCase(), c.side, c.role, c.option]))
    .sort()

const WALK = '1 step R; 2 step L; 3 kick R; 4 together R; 5-6 slow roll'

describe('alikes', () => {
  it('finds an eight written like an earlier one', () => {
    const r = page(3, cuesOf([WALK, '1 clap', WALK]))
    expect(found(r)).toEqual([{ likeness: 'alike', to: [16, 24], from: 0, mirrored: false, same: 5, own: 0 }])
  })

  it('takes a move for the same however it is written, and for another for somebody else or in another version', () => {
    const like = (line: string) =>
      found(page(2, cuesOf([WALK, line]))).map((f) => [f.likeness, f.same, f.own])
    expect(like(WALK.replace('kick', ' KICK '))).toEqual([['alike', 5, 0]])
    // The kick of everybody does not give way to the leader's.
    for (const who of ['@leader', '#harder'])
      expect(like(WALK.replace('3 kick R', `3 kick R ${who}`))).toEqual([])
    expect(like(WALK.replace('3 kick R', '3 kick L'))).toEqual([['alike', 4, 1]])
    const both = `${WALK} @leader`
    expect(found(page(2, cuesOf([both, both]))).map((f) => [f.same, f.own])).toEqual([[5, 0]])
  })

  it('finds one to the other side', () => {
    const turned = cuesOf([WALK]).map((c) => ({ ...mirrorCue(c), id: `t${c.id}`, at: c.at + EIGHT }))
    const r = page(2, [...cuesOf([WALK]), ...turned.map(({ mirrored: _, ...c }) => c)])
    expect(found(r)).toEqual([{ likeness: 'alike', to: [8, 16], from: 0, mirrored: true, same: 5, own: 0 }])
  })

  it('one that differs in a cue stays different there', () => {
    const r = page(2, cuesOf([WALK, `${WALK.replace('3 kick R', '3 knee R')}`]))
    expect(found(r)).toEqual([{ likeness: 'alike', to: [8, 16], from: 0, mirrored: false, same: 4, own: 1 }])
    const next = linkAlike(r, alikes(r, placePhrases(r), BOOK)[0] as never, BOOK, ids('n'))
    expect(next.cues.filter((c) => c.at >= EIGHT).map((c) => c.move)).toEqual(['knee'])
    expect(steps(next)).toEqual(steps(r))
  })

  it('where the earlier one has something beside, only the half without it is offered', () => {
    expect(found(page(2, cuesOf([`${WALK}; 8 clap`, WALK])))).toEqual([
      { likeness: 'half', to: [8, 12], from: 0, mirrored: false, same: 4, own: 0 },
    ])
  })

  it('finds one some counts later', () => {
    const later = cuesOf([WALK]).map((c) => ({ ...c, id: `l${c.id}`, at: c.at + 2 * EIGHT + 2 * 24 }))
    expect(found(page(4, [...cuesOf([WALK]), ...later]))).toEqual([
      { likeness: 'delayed', to: [18, 26], from: 0, mirrored: false, same: 5, own: 0 },
    ])
  })

  it('finds a half in the other half', () => {
    const r = page(
      2,
      cuesOf(['1 step R; 2& clap; 3 kick L; 5-8 roll', '1-4 wave; 5 step R; 6& clap; 7 kick L']),
    )
    expect(found(r)).toEqual([{ likeness: 'half', to: [12, 16], from: 0, mirrored: false, same: 3, own: 0 }])
  })

  it('phrases that follow one another alike are one stretch', () => {
    const two = ['1 step R; 2 step L; 3 tap R', '1 hop L; 3 hop R; 5 clap']
    expect(found(page(5, cuesOf([...two, '1 wave', ...two])))).toEqual([
      { likeness: 'alike', to: [24, 40], from: 0, mirrored: false, same: 6, own: 0 },
    ])
  })

  it('says nothing of what is linked already, or of two cues alike', () => {
    const r = page(2, cuesOf([WALK]))
    const linked = setRepeat(
      r,
      { id: 'r', to: { from: EIGHT, to: 2 * EIGHT }, from: 0, mirrored: false },
      ids(),
    )
    expect(found(linked)).toEqual([])
    expect(found(page(2, cuesOf(['1 step R; 2 step L', '1 step R; 2 step L'])))).toEqual([])
  })

  it('keeps a turn the move list gives another way to the other side', () => {
    const book = moveBook([{ name: 'swivel', step: 'pivot', turn: { to: 'right', eighths: 2 } } as never])
    const line = '1 swivel; 2 step R; 3 step L; 4 tap R'
    const other = '1 swivel; 2 step L; 3 step R; 4 tap L'
    const r = page(2, cuesOf([line, other]))
    const [a] = alikes(r, placePhrases(r), book)
    expect(a).toMatchObject({ mirrored: true, same: 3, own: 1 })
    const next = linkAlike(r, a as never, book, ids('n'))
    expect(next.cues.filter((c) => c.at >= EIGHT).map((c) => c.move)).toEqual(['swivel'])
  })

  it('what a cue says beyond the earlier one stays written', () => {
    const cues = cuesOf([WALK, WALK])
    const tipped = cues.map((c) => (c.at === EIGHT ? { ...c, tip: 'slide it' } : c))
    const r = page(2, tipped)
    const next = linkAlike(r, alikes(r, placePhrases(r), BOOK)[0] as never, BOOK, ids('n'))
    expect(next.cues.filter((c) => c.at >= EIGHT).map((c) => c.tip)).toEqual(['slide it'])
  })

  it('what starts on a word of its own, or is called otherwise, stays written', () => {
    const cues = cuesOf([WALK, WALK]).map((c) => {
      if (c.at === EIGHT) return { ...c, trigger: { kind: 'lyric' as const, mark: 'm' } }
      return c.at === EIGHT + 24 ? { ...c, call: 'and' } : c
    })
    const r = page(2, cues)
    const next = linkAlike(r, alikes(r, placePhrases(r), BOOK)[0] as never, BOOK, ids('n'))
    expect(next.cues.filter((c) => c.at >= EIGHT).map((c) => c.at - EIGHT)).toEqual([0, 24])
  })

  it('linking what was found changes no step that is danced', () => {
    const half = fc.constantFrom(
      '1 step R; 2 step L; 3 kick R',
      '1 clap; 2& hop L; 4 tap R; 4& tap L',
      '2 wave',
    )
    const later = (line: string) => line.replace(/\d/g, (n) => String(Number(n) + 4))
    const eight = fc.tuple(half, half).map(([a, b]) => `${a}; ${later(b)}`)
    const sides = fc.array(fc.tuple(eight, fc.boolean()), { minLength: 2, maxLength: 9 })
    let linked = 0
    fc.assert(
      fc.property(sides, fc.boolean(), (lines, armsToo) => {
        const cues = lines.flatMap(([line, turned], i) =>
          cuesOf([line], armsToo && i % 2 ? 'arms' : 'feet', ids(`c${i}-`)).map((c) => {
            const { mirrored: _, ...own } = turned ? mirrorCue(c) : c
            return { ...own, at: c.at + i * EIGHT }
          }),
        )
        let r = page(lines.length, cues)
        const before = steps(r)
        for (const a of alikes(r, placePhrases(r), BOOK)) {
          r = linkAlike(r, a, BOOK, ids(`n${linked++}-`))
          expect(steps(r)).toEqual(before)
        }
        // Nothing that was linked is found again.
        expect(r.cues.length).toBeLessThanOrEqual(cues.length)
      }),
      { numRuns: 150 },
    )
    expect(linked).toBeGreaterThan(50)
  })
})

describe('soundsAlike', () => {
  const like = (r: Routine, of: Record<number, number>) => {
    const placed = placePhrases(r)
    return soundsAlike(r, placed, (p) => placed[of[p.index] ?? -1] ?? null)
  }

  it('offers eights not cued yet that sound like a cued one, in one stretch', () => {
    const r = page(6, cuesOf([WALK, '1 clap']))
    expect(like(r, { 3: 0, 4: 1 })).toEqual([
      {
        ...{ likeness: 'sound', to: { from: 3 * EIGHT, to: 5 * EIGHT }, from: 0 },
        ...{ mirrored: false, same: 6, own: 0 },
      },
    ])
  })

  it('follows likeness to where something is cued, and leaves what is cued alone', () => {
    const r = page(4, cuesOf([WALK, '', '', '1 clap']))
    expect(like(r, { 1: 0, 2: 1, 3: 0 }).map((a) => [a.to.from / EIGHT, a.from / EIGHT])).toEqual([
      [1, 0],
      [2, 0],
    ])
    expect(like(r, { 1: 2 })).toEqual([])
  })

  it('linked, it is danced like the earlier one', () => {
    const r = page(2, cuesOf([WALK]))
    const [a] = like(r, { 1: 0 })
    const next = linkAlike(r, a as never, BOOK, ids('n'))
    const moves = (from: number) =>
      danced(next)
        .filter((c) => c.at >= from && c.at < from + EIGHT)
        .map((c) => [c.at - from, written(c).move])
    expect(moves(EIGHT)).toEqual(moves(0))
    expect(moves(0)).toHaveLength(5)
  })
})
