import { colourName, DAY } from './palette'

/** The colours of the desk, by their names in style sheets. Contrast of text on its ground is AA or better, by day and by night. */
export const desk = Object.fromEntries(
  Object.keys(DAY.desk).map((name) => [name, `var(${colourName(name)})`]),
) as Record<keyof typeof DAY.desk, string>

/** A colour let through: so much of it in a hundred. */
export const faded = (colour: string, percent: number) =>
  `color-mix(in srgb, ${colour} ${percent}%, transparent)`

/** The floor is dark at any time of day. */
export const floor = {
  ground: '#1A1220',
  card: '#261B2E',
  line: '#4A3A55',
  ink: '#FCF2F6',
  quiet: '#C4B4CC',
  azalea: '#F26BA2',
  clean: '#245B40',
  shaky: '#5F4212',
  missed: '#661E3A',
} as const

/** Faces of other scripts, in front of the machine's own: set on the page where its words need them (ui/theme/letters.tsx). */
export const LETTERS = '--letters'
const others = `var(${LETTERS}, system-ui)`

export const font = {
  text: `'Figtree Variable', ${others}, sans-serif`,
  display: `'Bricolage Grotesque Variable', 'Figtree Variable', ${others}, sans-serif`,
} as const

/** One tint a section letter: ground, ink on it, and a pattern so that colour is never alone. */
export interface Tint {
  ground: string
  ink: string
  pattern: string
}

const dots = (c: string) => `radial-gradient(circle at 3px 3px, ${c} 1.3px, transparent 1.6px) 0 0 / 6px 6px`
const hatch = (c: string, angle: number) =>
  `repeating-linear-gradient(${angle}deg, ${c} 0 1.5px, transparent 1.5px 5px)`

const tintVar = (key: string, part: string) => `var(${colourName(`${key}-${part}`)})`
const PATTERNS: readonly ((colour: string) => string)[] = [
  (c) => hatch(c, 0),
  dots,
  (c) => hatch(c, 90),
  (c) => hatch(c, 45),
  (c) => hatch(c, 135),
  dots,
  (c) => `${hatch(c, 45)}, ${hatch(c, 135)}`,
]

const TINTS: readonly Tint[] = PATTERNS.map((pattern, i) => ({
  ground: tintVar(`tint-${i}`, 'ground'),
  ink: tintVar(`tint-${i}`, 'ink'),
  pattern: pattern(tintVar(`tint-${i}`, 'pattern')),
}))

const PLAIN: Tint = { ground: tintVar('plain', 'ground'), ink: tintVar('plain', 'ink'), pattern: 'none' }

/** The tint of a section letter; plain where there is no section. */
export function tintOf(letter: string | undefined): Tint {
  if (!letter) return PLAIN
  return TINTS[(letter.charCodeAt(0) - 65 + TINTS.length * 10) % TINTS.length] ?? PLAIN
}

/** A window narrower than a desk's, or one that is zoomed in: what stood side by side stands below one another. */
export const NARROW = '@media (max-width: 900px)'
