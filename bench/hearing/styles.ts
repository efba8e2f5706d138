/* Songs made by rule in the common styles of dance music, each at a tempo its dancers step at: training data whose beat
   and felt tempo are known. Patterns and tempo ranges: common practice, no published source. */
import { DRUMS, type Note, type Setting, type Song } from './midi'
import { chance } from './spoil'

export interface Style {
  name: string
  bpm: readonly [number, number]
  /** Beats in a bar. */
  beats: 3 | 4 | 5 | 7
  /** Steps a beat: 4, or 3 where halves are swung. */
  grid: 3 | 4
  /** One line a drum, one character a step of the bar; a digit is how loud. */
  drums: Record<string, string>
  /** Steps of the bar on which the bass and the chords sound. */
  bass: string
  chords: string
}

const K = 36
const S = 38
const DRUM: Record<string, number> = {
  kick: K,
  snare: S,
  hat: 42,
  open: 46,
  ride: 51,
  pedal: 44,
  rim: 37,
  clap: 39,
  tom: 45,
}

const STYLES: readonly Style[] = [
  {
    name: 'rock',
    bpm: [92, 148],
    beats: 4,
    grid: 4,
    drums: { kick: '9.......9.7.....', snare: '....9.......9...', hat: '7.5.7.5.7.5.7.5.' },
    bass: '9.6.9.6.9.6.9.6.',
    chords: '9...............',
  },
  {
    name: 'fast rock',
    bpm: [158, 184],
    beats: 4,
    grid: 4,
    drums: { kick: '9.......9...7...', snare: '....9.......9...', hat: '8...8...8...8...' },
    bass: '9.8.9.8.9.8.9.8.',
    chords: '9.......8.......',
  },
  {
    name: 'punk',
    bpm: [162, 186],
    beats: 4,
    grid: 4,
    drums: { kick: '9.....9.9.......', snare: '....9.......9...', ride: '8.6.8.6.8.6.8.6.' },
    bass: '8.8.8.8.8.8.8.8.',
    chords: '8.8.8.8.8.8.8.8.',
  },
  {
    name: 'house',
    bpm: [116, 134],
    beats: 4,
    grid: 4,
    drums: { kick: '9...9...9...9...', clap: '....8.......8...', open: '..7...7...7...7.' },
    bass: '..8...8...8...8.',
    chords: '...8..8....8..8.',
  },
  {
    name: 'disco',
    bpm: [106, 128],
    beats: 4,
    grid: 4,
    drums: {
      kick: '9...9...9...9...',
      snare: '....8.......8...',
      hat: '5.5.5.5.5.5.5.5.',
      open: '..6...6...6...6.',
    },
    bass: '9.8.9.8.9.8.9.8.',
    chords: '..7...7...7...7.',
  },
  {
    name: 'ballad',
    bpm: [60, 82],
    beats: 4,
    grid: 4,
    drums: { kick: '9.........8.....', snare: '....8.......8...', hat: '6.5.6.5.6.5.6.5.' },
    bass: '9.......7.7.....',
    chords: '7...6...7...6...',
  },
  {
    name: 'slow pop',
    bpm: [66, 88],
    beats: 4,
    grid: 4,
    drums: { kick: '9.....8.8.......', snare: '....9.......9...', hat: '6466646664666466' },
    bass: '9.....7.8.......',
    chords: '8...............',
  },
  {
    name: 'hip hop',
    bpm: [80, 104],
    beats: 4,
    grid: 4,
    drums: { kick: '9......7..8.....', snare: '....9.......9...', hat: '6.6.6.6.6.6.6.66' },
    bass: '9......7..8.....',
    chords: '7.......6.......',
  },
  {
    name: 'shuffle',
    bpm: [96, 138],
    beats: 4,
    grid: 3,
    drums: { kick: '9.....9.....', snare: '...9.....9..', hat: '7.57.57.57.5' },
    bass: '9.79.79.79.7',
    chords: '8..........',
  },
  {
    name: 'twelve eight',
    bpm: [58, 78],
    beats: 4,
    grid: 3,
    drums: { kick: '9....78.....', snare: '...8.....8..', hat: '655655655655' },
    bass: '9....78.....',
    chords: '756656656656',
  },
  {
    name: 'swing',
    bpm: [118, 188],
    beats: 4,
    grid: 3,
    drums: { ride: '8..8.58..8.5', pedal: '...7.....7..', kick: '4..4..4..4..' },
    bass: '8..8..8..8..',
    chords: '..7.......6.',
  },
  {
    name: 'waltz',
    bpm: [96, 172],
    beats: 3,
    grid: 4,
    drums: { kick: '9...........', snare: '....6...6...', hat: '6...5...5...' },
    bass: '9...........',
    chords: '....7...7...',
  },
  {
    name: 'slow waltz',
    bpm: [80, 100],
    beats: 3,
    grid: 4,
    drums: { kick: '9...........', rim: '....5...6...', hat: '6.4.6.4.6.4.' },
    bass: '9.......6...',
    chords: '7...6...6...',
  },
  {
    name: 'bossa',
    bpm: [112, 144],
    beats: 4,
    grid: 4,
    drums: { kick: '8.....68......6.', rim: '7.....7.....7...', hat: '6.5.6.5.6.5.6.5.' },
    bass: '9.....6.8.....6.',
    chords: '7.....7....7....',
  },
  {
    name: 'one drop',
    bpm: [66, 90],
    beats: 4,
    grid: 4,
    drums: { kick: '........9.......', rim: '........8.......', hat: '6.5.6.5.6.5.6.5.' },
    bass: '..7.8.....7.7...',
    chords: '..8...8...8...8.',
  },
  {
    name: 'reggaeton',
    bpm: [86, 104],
    beats: 4,
    grid: 4,
    drums: { kick: '9...9...9...9...', snare: '...8..8....8..8.', hat: '5.5.5.5.5.5.5.5.' },
    bass: '9..7....9..7....',
    chords: '7...............',
  },
  {
    name: 'march',
    bpm: [104, 124],
    beats: 4,
    grid: 4,
    drums: { kick: '9.......9.......', snare: '....8.66....8.66', hat: '................' },
    bass: '9...7...9...7...',
    chords: '....7.......7...',
  },
  {
    name: 'samba',
    bpm: [94, 116],
    beats: 4,
    grid: 4,
    drums: { kick: '7..69..67..69..6', snare: '6.66.6.66.66.6.6', hat: '6556655665566556' },
    bass: '8..68..68..68..6',
    chords: '..7..7..7.7..7..',
  },
  {
    name: 'strummed',
    bpm: [84, 132],
    beats: 4,
    grid: 4,
    drums: {},
    bass: '8.......7.......',
    chords: '8...6.65..5.6.65',
  },
  {
    name: 'arpeggio',
    bpm: [58, 90],
    beats: 4,
    grid: 4,
    drums: {},
    bass: '8...............',
    chords: '7.6.6.6.7.6.6.6.',
  },
  {
    name: 'electro',
    bpm: [122, 146],
    beats: 4,
    grid: 4,
    drums: { kick: '9...9...9...9...', clap: '....7.......7...', hat: '................' },
    bass: '8688868886888688',
    chords: '7...............',
  },
  {
    name: 'train',
    bpm: [100, 124],
    beats: 4,
    grid: 4,
    drums: { kick: '9...8...9...8...', snare: '5585558555855585' },
    bass: '9.......8.......',
    chords: '....6.......6...',
  },
]

/** Every song of the set: id, style and tempo. */
export const STYLED = STYLES.flatMap((style) =>
  [0, 1, 2, 3].map((i) => {
    const id = `made-${style.name.replaceAll(' ', '_')}-${i}`
    const [low, high] = style.bpm
    return { id, style, bpm: Math.round(10 * (low + ((high - low) * (i + chance(`${id} bpm`))) / 4)) / 10 }
  }),
)

const TURNS = [
  [0, 9, 5, 7],
  [0, 5, 7, 5],
  [9, 5, 0, 7],
  [0, 7, 9, 5],
  [2, 7, 0, 0],
] as const
const MINOR = new Set([9, 2, 4])

/** Renders a style as notes: sections of eight bars with their own layers, a fill before each, a crash on its first beat. */
export function styled({ id, style, bpm }: { id: string; style: Style; bpm: number }): Song {
  const { beats: perBar, grid } = style
  const beat = 60 / bpm
  const bar = perBar * beat
  const bars = Math.min(56, Math.max(24, Math.round(75 / bar / 8) * 8))
  const start = 0.4 + 1.5 * chance(`${id} start`)
  const root = 45 + Math.floor(12 * chance(`${id} root`))
  const turn = TURNS[Math.floor(TURNS.length * chance(`${id} turn`))] as readonly number[]
  const wave = 0.012 * chance(`${id} human`)
  const notes: Note[] = []
  const play = (t: number, length: number, channel: number, pitch: number, velocity: number) => {
    const on = start + t + wave * (chance(`${id} ${t} ${pitch}`) - 0.5)
    notes.push({ on, off: on + length, channel, pitch, velocity: Math.min(127, Math.round(velocity)) })
  }
  const steps = perBar * grid
  const at = (b: number, i: number) => (b + i / steps) * bar
  for (let b = 0; b < bars; b++) {
    const section = b >> 3
    const full = section % 3 === 2
    const chord = root + (turn[b % 4] as number)
    const tones = [0, MINOR.has(turn[b % 4] as number) ? 3 : 4, 7].map((x) => chord + 12 + x)
    const fill = b % 8 === 7 && chance(`${id} fill ${b}`) < 0.7
    const drumless = section === 0 && chance(`${id} quiet`) < 0.35
    if (!drumless)
      for (const [name, line] of Object.entries(style.drums))
        [...line].forEach((c, i) => {
          if (c !== '.' && !(fill && i >= steps * 0.75))
            play(at(b, i), 0.1, DRUMS, DRUM[name] as number, 11 * Number(c) + 8)
        })
    if (Object.keys(style.drums).length && fill && !drumless)
      for (let i = Math.ceil(steps * 0.75); i < steps; i++)
        play(at(b, i), 0.1, DRUMS, i % 2 ? 45 : S, 70 + 3 * i)
    if (b % 8 === 0 && section > 0 && Object.keys(style.drums).length) play(at(b, 0), 1, DRUMS, 49, 100)
    ;[...style.bass].forEach((c, i) => {
      if (c === '.') return
      const fifth = chance(`${id} walk ${b} ${i}`) < 0.25 ? 7 : 0
      play(at(b, i), beat * 0.45, 1, chord - 12 + fifth, 10 * Number(c) + 15)
    })
    if (section > 0 || style.drums.kick === undefined)
      [...style.chords].forEach((c, i) => {
        if (c === '.') return
        const next = [...style.chords].findIndex((x, k) => k > i && x !== '.')
        const length = ((next < 0 ? steps : next) - i) * (bar / steps)
        if (style.name === 'arpeggio')
          play(at(b, i), length * 1.5, 2, tones[(i >> 1) % 3] as number, 9 * Number(c) + 20)
        else for (const pitch of tones) play(at(b, i), length * 0.9, 2, pitch, 8 * Number(c) + 15)
      })
    if (full) for (const pitch of tones) play(at(b, 0), bar * 0.98, 4, pitch, 60)
    // A tune over every section but the first, in halves and quarters of beats, with rests.
    if (section > 0)
      for (let i = 0; i < steps; ) {
        const dice = chance(`${id} tune ${b % 4} ${section % 2} ${i}`)
        const held = dice < 0.4 ? grid : dice < 0.75 ? Math.floor(grid / 2) || 1 : 2 * grid
        if (chance(`${id} rest ${b % 4} ${i}`) < 0.72) {
          const tone = tones[Math.floor(3 * chance(`${id} tone ${b % 4} ${i}`))] as number
          play(at(b, i), held * (bar / steps) * 0.85, 3, tone + 12, 70 + 25 * Number(full))
        }
        i += held
      }
  }
  const pick = (names: readonly number[], what: string) =>
    names[Math.floor(names.length * chance(`${id} ${what}`))] as number
  const programs = [
    [1, pick([32, 33, 34, 38], 'bass')],
    [
      2,
      pick(
        style.name === 'strummed' ? [25, 26] : style.name === 'arpeggio' ? [0, 4, 24] : [0, 4, 27, 28, 62],
        'chords',
      ),
    ],
    [3, pick([65, 73, 80, 56, 52, 11], 'tune')],
    [4, pick([48, 50, 89, 90], 'pad')],
  ] as const
  const settings: Setting[] = programs.map(([channel, programNumber]) => ({
    at: 0,
    event: { type: 'programChange', channel, programNumber, deltaTime: 0 },
  }))
  const beats = Array.from({ length: bars * perBar }, (_, k) => start + k * beat)
  return {
    notes: notes.sort((a, b) => a.on - b.on),
    settings,
    end: start + bars * bar,
    beats,
    downbeats: beats.filter((_, k) => k % perBar === 0),
    eights: beats.filter((_, k) => k % (2 * perBar) === 0),
    tempo: bpm,
  }
}
