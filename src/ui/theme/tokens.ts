/** The colours and measures of Azalea. Contrast of text on its ground is AA or better. */
export const desk = {
  paper: '#FBF7F4',
  card: '#FFFFFF',
  ink: '#2A1F2D',
  quiet: '#6B5B6E',
  line: '#E4DAD8',
  azalea: '#B81F63',
  azaleaSoft: '#F8E1EB',
  leaf: '#2C6A4B',
  amber: '#8A5709',
  amberSoft: '#FBF0DC',
  danger: '#A3232B',
} as const

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

const TINTS: readonly Tint[] = [
  { ground: '#E3E8EF', ink: '#3F5670', pattern: hatch('#8296AE', 0) },
  { ground: '#E0EEE4', ink: '#2C6A4B', pattern: dots('#5E9A7B') },
  { ground: '#F1E8D3', ink: '#7A5A14', pattern: hatch('#B9974D', 90) },
  { ground: '#F6DCE7', ink: '#A31B57', pattern: hatch('#D66D9C', 45) },
  { ground: '#E6E0F3', ink: '#5B4592', pattern: hatch('#9682C8', 135) },
  { ground: '#DDECEE', ink: '#2A6570', pattern: dots('#4F95A1') },
  { ground: '#F5E1D6', ink: '#8C4622', pattern: `${hatch('#C98259', 45)}, ${hatch('#C98259', 135)}` },
]

const PLAIN: Tint = { ground: '#ECE7E4', ink: '#5C4F5F', pattern: 'none' }

/** The tint of a section letter; plain where there is no section. */
export function tintOf(letter: string | undefined): Tint {
  if (!letter) return PLAIN
  return TINTS[(letter.charCodeAt(0) - 65 + TINTS.length * 10) % TINTS.length] ?? PLAIN
}

/** A window narrower than a desk's, or one that is zoomed in: what stood side by side stands below one another. */
export const NARROW = '@media (max-width: 900px)'
