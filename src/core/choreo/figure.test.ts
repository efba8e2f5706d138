import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mirrorFacing, otherSide } from '../routine'
import { armsOf, type Figure, figure, liesIn, type Pair, type Pose, type Spot } from './figure'

const poses: fc.Arbitrary<Pose> = fc.record({
  weight: fc.constantFrom('left', 'right', 'both', 'unknown'),
  facing: fc.integer({ min: 0, max: 7 }),
  level: fc.constantFrom('high', 'middle', 'low', 'floor', 'unknown'),
  arms: fc.constantFrom('left', 'right', 'both', 'none', null),
  lies: fc.boolean(),
})

const turned = (p: Pose): Pose => ({
  ...p,
  weight: p.weight === 'left' ? 'right' : p.weight === 'right' ? 'left' : p.weight,
  facing: p.facing === 'unknown' ? p.facing : mirrorFacing(p.facing),
  arms: p.arms && otherSide(p.arms),
})

const flipped = (s: Spot): Spot => [-s[0], s[1]]

function near(a: Spot, b: Spot) {
  expect(a[0]).toBeCloseTo(b[0], 9)
  expect(a[1]).toBeCloseTo(b[1], 9)
}

describe('arms that are in use', () => {
  it.each([
    [[], null],
    [['feet left'], null],
    [['arms left'], 'left'],
    [['arms none', 'arms right'], 'right'],
    [['arms none'], 'none'],
    [['arms left', 'arms right'], 'both'],
    [['arms left', 'feet right'], 'left'],
    [['arms both'], 'both'],
    [['arms none', 'arms both'], 'both'],
  ] as const)('%j: %s', (running, arms) => {
    const cues = running.map((text) => {
      const [layer, side] = text.split(' ')
      return { layer, side } as Parameters<typeof armsOf>[0][number]
    })
    expect(armsOf(cues)).toBe(arms)
  })
})

describe('the drawn figure', () => {
  it('of a mirrored pose is the mirrored figure', () => {
    fc.assert(
      fc.property(poses, (pose) => {
        const [a, b] = [figure(pose), figure(turned(pose))]
        for (const k of ['head', 'neck', 'hips'] as const) near(a[k], flipped(b[k]))
        for (const k of ['shoulders', 'elbows', 'hands', 'knees', 'feet'] as const) {
          near((a[k] as Pair).left, flipped((b[k] as Pair).right))
          near((a[k] as Pair).right, flipped((b[k] as Pair).left))
        }
        expect(a.nose === null).toBe(b.nose === null)
        if (a.nose && b.nose) near(a.nose, flipped(b.nose))
      }),
    )
  })

  it('stands over the foot with the weight, the other one off the floor', () => {
    const f = figure({ weight: 'left', facing: 0, arms: null })
    expect(f.hips[0]).toBeLessThan(0)
    expect(f.feet.left[1]).toBe(0)
    expect(f.feet.right[1]).toBeGreaterThan(0.03)
    expect(f.feet.left[0]).toBeLessThan(f.feet.right[0])
  })

  it('shows its back to the front, its face to the back, and turns right to the right', () => {
    const at = (facing: number): Figure => figure({ weight: 'both', facing, arms: null })
    expect(at(0).nose).toBeNull()
    expect(at(4).nose).not.toBeNull()
    expect((at(2).nose as Spot)[0]).toBeGreaterThan(0.05)
    expect((at(6).nose as Spot)[0]).toBeLessThan(-0.05)
    // Turned to face us, its right is on our left.
    expect(at(4).hands.right[0]).toBeLessThan(at(4).hands.left[0])
  })

  it('sits on the floor, or lies there where the move says so', () => {
    const at = (lies: boolean) => figure({ weight: 'both', facing: 0, arms: null, level: 'floor', lies })
    const [sits, lies] = [at(false), at(true)]
    const stands = figure({ weight: 'both', facing: 0, arms: null })
    expect(sits.hips[1]).toBeLessThan(0.12)
    // The knees are drawn up, the trunk is as long as ever.
    expect(sits.knees.left[1]).toBeGreaterThan(sits.hips[1])
    expect(sits.head[1] - sits.hips[1]).toBeCloseTo(stands.head[1] - stands.hips[1], 9)
    const flat = [lies.head, lies.hips, lies.feet.left].map(([, up]) => up)
    expect(Math.max(...flat) - Math.min(...flat)).toBeLessThan(0.2)
    expect(lies.nose).not.toBeNull()
    const moves = (...list: string[]) => liesIn(list.map((move) => ({ move })))
    expect([moves('lie on the back'), moves('knee', 'plank'), moves('sit'), moves('relay')]).toEqual([
      ...[true, true, false, false],
    ])
  })
  it('holds both arms out, lets them hang, or has them close to it', () => {
    const hands = (arms: Pose['arms']) => figure({ weight: 'both', facing: 0, arms }).hands
    const { neck } = figure({ weight: 'both', facing: 0, arms: null })
    for (const side of ['left', 'right'] as const) {
      const out = (spot: Spot) => spot[0] * (side === 'left' ? -1 : 1)
      expect(hands('both')[side][1]).toBeGreaterThan(neck[1])
      expect(out(hands('both')[side])).toBeCloseTo(0.36, 6)
      // Hanging they are as low as the hips; crossed before it near its middle, below the neck.
      expect(hands(null)[side][1]).toBeLessThan(neck[1] - 0.2)
      expect(out(hands('none')[side])).toBeCloseTo(0.03, 6)
      expect(hands('none')[side][1]).toBeLessThan(neck[1])
      expect(hands('none')[side][1]).toBeGreaterThan(hands(null)[side][1])
    }
  })
  it('lifts the arm that is cued, and goes down with the level', () => {
    const f = figure({ weight: 'both', facing: 0, arms: 'right' })
    expect(f.hands.right[1]).toBeGreaterThan(f.neck[1])
    expect(f.hands.left[1]).toBeLessThan(f.neck[1])
    expect(figure({ weight: 'both', facing: 0, arms: null, level: 'low' }).head[1]).toBeLessThan(f.head[1])
    expect(armsOf([{ layer: 'feet', side: 'left' }])).toBeNull()
    expect(
      armsOf([
        { layer: 'arms', side: 'left' },
        { layer: 'arms', side: 'right' },
      ]),
    ).toBe('both')
    expect(armsOf([{ layer: 'arms', side: 'none' }])).toBe('none')
  })
})
