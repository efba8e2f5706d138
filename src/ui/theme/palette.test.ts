import { describe, expect, it } from 'vitest'
import { DAY, NIGHT, namedColours, type Palette } from './palette'

/** Relative luminance and contrast ratio of WCAG 2.2. */
function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const c = Number.parseInt(colour.slice(i, i + 2), 16) / 255
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number]
  return (light + 0.05) / (dark + 0.05)
}

/** What is read (1.4.3: 4.5 to 1), and what only has to be seen (1.4.11: 3 to 1). */
function pairs({ desk: d, tints, plain }: Palette): { read: [string, string][]; seen: [string, string][] } {
  const grounds = [d.paper, d.card]
  return {
    read: [
      ...grounds.flatMap((g) =>
        [d.ink, d.quiet, d.azalea, d.leaf, d.amber, d.danger].map((c): [string, string] => [c, g]),
      ),
      ...[d.azalea, d.azaleaOver, d.leaf, d.amber, d.danger].map((g): [string, string] => [d.on, g]),
      ...[d.azaleaSoft, d.amberSoft].flatMap((g): [string, string][] => [
        [d.ink, g],
        [d.quiet, g],
      ]),
      [d.amber, d.amberSoft],
      [d.azalea, d.azaleaSoft],
      ...tints.map(([ground, ink]): [string, string] => [ink, ground]),
      [plain[1], plain[0]],
    ],
    seen: [
      ...grounds.flatMap((g) => [d.edge, d.rule, d.ready].map((c): [string, string] => [c, g])),
      ...tints.map(([, ink]): [string, string] => [ink, d.paper]),
    ],
  }
}

describe.each([
  ['day', DAY],
  ['night', NIGHT],
])('the colours of the %s', (_, palette) => {
  const { read, seen } = pairs(palette)
  it.each(read)('%s is read on %s', (a, b) => expect(contrast(a, b)).toBeGreaterThanOrEqual(4.5))
  it.each(seen)('%s is seen on %s', (a, b) => expect(contrast(a, b)).toBeGreaterThanOrEqual(3))
})

it('have the same names by day and by night', () => {
  expect(Object.keys(namedColours(NIGHT))).toEqual(Object.keys(namedColours(DAY)))
  // Black on white is 21 to 1.
  expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21, 9)
})
