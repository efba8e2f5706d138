import { printBeats, printLabels, readBeats, readLabels } from './beat-text'
import { isVtt, printSrt, printVtt, readCaptions } from './captions'
import { type JamsSong, printJams, readJams } from './jams'
import { MOST } from './limits'
import { printLrc, readLrc } from './lyrics'
import { type MidiPhrase, readMidiGrid, writeMidiGrid } from './midi-grid'
import { type BroughtGrid, type BroughtWords, FormatProblem, type TimedText } from './problem'
import { decodeText } from './text'

export type { BroughtGrid, TimedText } from './problem'

/** What a file brings: for a page's grid, or as words and sounds. */
export type Wanted = 'grid' | 'words'

/** All that a file says. */
export interface Brought extends BroughtGrid, BroughtWords {}

/** All that can be printed; every format takes what it carries. */
export interface Printed {
  song: JamsSong
  beats: readonly number[]
  numbers: readonly number[]
  phrases: readonly MidiPhrase[]
  /** `beat`: the beat a section begins on, from 0. */
  sections: readonly (TimedText & { beat: number })[]
  words: readonly TimedText[]
}

/** One kind of file. */
export interface Format {
  id: string
  name: string
  /** Endings, without the point, lower case; the first is printed. */
  endings: readonly [string, ...string[]]
  /** Media type. */
  type: string
  carries: readonly Wanted[]
  /** Does the beginning look like it? Asked when the ending does not decide. */
  sniff(text: string): boolean
  /** @throws FormatProblem */
  read(bytes: Uint8Array): Promise<Brought>
  print(content: Printed): string | Uint8Array
}

const NOTHING: Brought = { beats: [], numbers: null, sections: [], words: [], passedOver: 0 }

/** A format of text that says the grid. */
const grid = (read: (text: string) => BroughtGrid) => async (bytes: Uint8Array) => ({
  ...NOTHING,
  ...read(decodeText(bytes)),
})
const words =
  (read: (text: string) => BroughtWords | Promise<BroughtWords>) => async (bytes: Uint8Array) => ({
    ...NOTHING,
    ...(await read(decodeText(bytes))),
  })

/** Every kind of file a grid or words come from and go to. */
export const FORMATS = {
  beats: {
    id: 'beats',
    name: 'Beats as text',
    endings: ['txt', 'beats', 'csv'],
    type: 'text/plain',
    carries: ['grid'],
    sniff: (text) => /^(?:\s*#.*\n)*\s*[+-]?\d/.test(text) && !threeCells(text),
    read: grid(readBeats),
    print: (c) => printBeats(c.beats, c.numbers),
  },
  labels: {
    id: 'labels',
    name: 'Labels',
    endings: ['lab', 'labs', 'label', 'labels', 'txt'],
    type: 'text/plain',
    carries: ['grid', 'words'],
    sniff: threeCells,
    read: async (bytes) => {
      const labels = readLabels(decodeText(bytes))
      return { ...NOTHING, sections: labels, words: labels }
    },
    print: (c) => printLabels(c.words.length ? c.words : c.sections),
  },
  midi: {
    id: 'midi',
    name: 'MIDI tempo map',
    endings: ['mid', 'midi', 'smf'],
    type: 'audio/midi',
    carries: ['grid'],
    sniff: (text) => text.startsWith('MThd'),
    read: async (bytes) => ({ ...NOTHING, ...readMidiGrid(bytes) }),
    print: (c) => writeMidiGrid(c.beats, c.phrases, c.sections),
  },
  jams: {
    id: 'jams',
    name: 'JAMS',
    endings: ['jams', 'json'],
    type: 'application/json',
    carries: ['grid'],
    sniff: (text) => text.trimStart().startsWith('{'),
    read: grid(readJams),
    print: (c) => printJams(c.song, c.beats, c.numbers, c.sections),
  },
  lrc: {
    id: 'lrc',
    name: 'LRC',
    endings: ['lrc'],
    type: 'text/plain',
    carries: ['words'],
    sniff: (text) => /^\s*\[/.test(text),
    read: words(readLrc),
    print: (c) => printLrc(c.words),
  },
  vtt: {
    id: 'vtt',
    name: 'WebVTT',
    endings: ['vtt'],
    type: 'text/vtt',
    carries: ['words'],
    sniff: isVtt,
    read: words(readCaptions),
    print: (c) => printVtt(c.words),
  },
  srt: {
    id: 'srt',
    name: 'SRT',
    endings: ['srt'],
    type: 'text/plain',
    carries: ['words'],
    sniff: (text) => text.includes('-->'),
    read: words(readCaptions),
    print: (c) => printSrt(c.words),
  },
} as const satisfies Record<string, Format>

function threeCells(text: string): boolean {
  return text.split(/\r?\n/, 1)[0]?.split('\t').length === 3
}

/** The formats something wanted can come from. */
export const formatsOf = (wanted: Wanted): Format[] =>
  Object.values<Format>(FORMATS).filter((f) => f.carries.includes(wanted))

/** Their endings, as a file chooser takes them. */
export const endingsOf = (wanted: Wanted): string[] => [
  ...new Set(formatsOf(wanted).flatMap((f) => f.endings.map((e) => `.${e}`))),
]

/**
 * Reads a file by its ending, and where that does not decide by how it begins.
 * @throws FormatProblem also when it holds nothing that is wanted, or more than `MOST`
 */
export async function readFile(
  name: string,
  bytes: Uint8Array,
  wanted: Wanted,
): Promise<Brought & { format: Format }> {
  if (bytes.length > MOST.bytes)
    throw new FormatProblem(`The file has more than ${MOST.bytes / 1_000_000} MB.`)
  const ending = /\.([^.]+)$/.exec(name)?.[1]?.toLowerCase() ?? ''
  const text = decodeText(bytes.subarray(0, 2000))
  const known = formatsOf(wanted)
  const named = known.filter((f) => f.endings.includes(ending))
  const format =
    named.length > 1
      ? (named.find((f) => f.sniff(text)) ?? named[0])
      : (named[0] ?? known.find((f) => f.sniff(text)))
  if (!format) throw new FormatProblem(`It is none of these: ${known.map((f) => f.name).join(', ')}.`)
  const brought = await format.read(bytes)
  within(brought)
  if (wanted === 'words' && !brought.words.length) throw new FormatProblem('The file holds no timed words.')
  return { ...brought, format }
}

/** @throws FormatProblem when there is more than a page can hold, or a time no song has */
function within({ beats, sections, words }: Brought): void {
  for (const [list, most, what] of [
    [beats, MOST.beats, 'beats'],
    [sections, MOST.sections, 'sections'],
    [words, MOST.words, 'timed words'],
  ] as const)
    if (list.length > most)
      throw new FormatProblem(
        `The file has ${list.length.toLocaleString('en')} ${what}; a page holds ${most.toLocaleString('en')}.`,
      )
  const { min, max } = MOST.seconds
  const times = [...beats, ...[...sections, ...words].flatMap((t) => [t.start, t.end ?? t.start])]
  const wrong = times.find((t) => !(t >= min && t <= max))
  if (wrong !== undefined) throw new FormatProblem(`${wrong} s is no time in a song.`)
}
