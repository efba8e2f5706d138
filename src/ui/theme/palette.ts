/*
 * The colours of the desk by day and by night, as the system asks for them. Style sheets name them by property, so that one
 * page serves both; what is drawn by hand (waves, charts) asks for their values (use-palette.ts).
 */

interface Colours {
  /** The ground, what lies on it, and what is pressed in. */
  paper: string
  card: string
  ink: string
  quiet: string
  line: string
  /** The edge of what is filled in, of what is placed on the sheet, and of what is hardly there. */
  edge: string
  rule: string
  faint: string
  track: string
  azalea: string
  azaleaSoft: string
  /** Under the pointer. */
  azaleaOver: string
  leaf: string
  /** A station that is ready. */
  ready: string
  amber: string
  amberSoft: string
  danger: string
  /** Words on azalea, leaf, amber and danger. */
  on: string
  shade: string
  veil: string
}

/** A section's ground, the ink on it, and what its pattern is drawn with. */
type TintColours = readonly [ground: string, ink: string, pattern: string]

export interface Palette {
  desk: Colours
  tints: readonly TintColours[]
  plain: readonly [ground: string, ink: string]
}

export const DAY: Palette = {
  desk: {
    paper: '#FBF7F4',
    card: '#FFFFFF',
    ink: '#2A1F2D',
    quiet: '#6B5B6E',
    line: '#E4DAD8',
    edge: '#948596',
    rule: '#6F6073',
    faint: '#A392A6',
    track: '#CFC3CD',
    azalea: '#B81F63',
    azaleaSoft: '#F8E1EB',
    azaleaOver: '#9C1853',
    leaf: '#2C6A4B',
    ready: '#4E9B74',
    amber: '#8A5709',
    amberSoft: '#FBF0DC',
    danger: '#A3232B',
    on: '#FFFFFF',
    shade: '#2A1F2D33',
    veil: '#2A1F2D88',
  },
  tints: [
    ['#E3E8EF', '#3F5670', '#8296AE'],
    ['#E0EEE4', '#2C6A4B', '#5E9A7B'],
    ['#F1E8D3', '#7A5A14', '#B9974D'],
    ['#F6DCE7', '#A31B57', '#D66D9C'],
    ['#E6E0F3', '#5B4592', '#9682C8'],
    ['#DDECEE', '#2A6570', '#4F95A1'],
    ['#F5E1D6', '#8C4622', '#C98259'],
  ],
  plain: ['#ECE7E4', '#5C4F5F'],
}

export const NIGHT: Palette = {
  desk: {
    paper: '#17111B',
    card: '#221A29',
    ink: '#F6ECF1',
    quiet: '#BFB0C4',
    line: '#3C3045',
    edge: '#85778B',
    rule: '#A999B0',
    faint: '#7F7187',
    track: '#54465C',
    azalea: '#F274A8',
    azaleaSoft: '#46203A',
    azaleaOver: '#FF93BD',
    leaf: '#7CCBA2',
    ready: '#5DAF87',
    amber: '#E5B25C',
    amberSoft: '#3A2C17',
    danger: '#FF8A8F',
    on: '#1A0F18',
    shade: '#00000099',
    veil: '#000000AA',
  },
  tints: [
    ['#27303B', '#B4C7DE', '#5E7591'],
    ['#1F3328', '#8FD0AC', '#4B8868'],
    ['#372D18', '#E0BE74', '#8E733A'],
    ['#452036', '#F49AC0', '#A54A77'],
    ['#2F2744', '#BFABEC', '#6F5CA3'],
    ['#1C3337', '#8CCBD6', '#3F7C86'],
    ['#3D271C', '#EBA883', '#98603F'],
  ],
  plain: ['#2B242D', '#BBAEBE'],
}

const TINT_PARTS = ['ground', 'ink', 'pattern'] as const

/** The name of a colour in style sheets. */
export const colourName = (name: string) => `--${name}`

/** Every colour of a palette by its name in style sheets. */
export function namedColours({ desk, tints, plain }: Palette): Record<string, string> {
  const named = (key: string, list: readonly string[]) =>
    list.map((colour, i) => [colourName(`${key}-${TINT_PARTS[i]}`), colour])
  return Object.fromEntries([
    ...Object.entries(desk).map(([name, colour]) => [colourName(name), colour]),
    ...tints.flatMap((tint, i) => named(`tint-${i}`, tint)),
    ...named('plain', plain),
  ])
}

const declared = (palette: Palette) =>
  Object.entries(namedColours(palette))
    .map(([name, colour]) => `${name}:${colour}`)
    .join(';')

/** For what is paper at any time of day. */
export const BY_DAY = `${declared(DAY)};color-scheme:light;`

export const NIGHT_ASKED = '(prefers-color-scheme: dark)'

/** The colours of a page: on a screen as the system asks, on paper always those of the day. */
export const PALETTE_STYLE = `:root{${BY_DAY}}@media screen and ${NIGHT_ASKED}{:root{${declared(NIGHT)};color-scheme:dark}}`
