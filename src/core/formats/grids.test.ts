import fc from 'fast-check'
import { parseMidi, writeMidi } from 'midi-file'
import { describe, expect, it } from 'vitest'
import { printBeats, printLabels, readBeats, readLabels } from './beat-text'
import { printJams, readJams } from './jams'
import { midiClock, readMidiGrid, writeMidiGrid } from './midi-grid'

const beats = fc
  .tuple(
    fc.double({ min: 0, max: 40, noNaN: true }),
    fc.array(fc.double({ min: 0.1, max: 2, noNaN: true }), { minLength: 1, maxLength: 60 }),
  )
  .map(([start, gaps]) => {
    const out = [start]
    for (const g of gaps) out.push((out.at(-1) as number) + g)
    return out
  })
const inEights = (list: readonly number[]) => list.map((_, i) => (i % 8) + 1)

describe('beats as text', () => {
  it('come back exactly', () => {
    fc.assert(
      fc.property(beats, (list) => {
        const back = readBeats(printBeats(list, inEights(list)))
        expect(back.beats).toEqual(list)
        expect(back.numbers).toEqual(inEights(list))
      }),
    )
  })
  it('may be times alone, with remarks, blanks or commas', () => {
    expect(readBeats('# tapped\n0.5\n 1.0 \r\n1.5\n')).toMatchObject({ beats: [0.5, 1, 1.5], numbers: null })
    expect(readBeats('0.5,1\n1.0,2\n')).toMatchObject({ numbers: [1, 2] })
  })
  it('may have decimal commas where there is no point', () => {
    expect(readBeats('0,5\n1,0\n1,5\n')).toMatchObject({ beats: [0.5, 1, 1.5], numbers: null })
    expect(readBeats('0,500;1\n1,000;2\n')).toMatchObject({ beats: [0.5, 1], numbers: [1, 2] })
    expect(readBeats('0,5\t1\n1,0\t2\n')).toMatchObject({ beats: [0.5, 1], numbers: [1, 2] })
    expect(readLabels('0,5\t1,25\tturn\n')).toEqual([{ start: 0.5, end: 1.25, text: 'turn' }])
  })
  it.each([
    ['0.5\nhalf past\n', 'Line 2: “half” is not a time in seconds'],
    ['0.5\n\n0.5\n', 'Line 3: 0.5 is not later than the beat before'],
    ['0.5 1\n1.0\n', 'Line 2: some beats have a number and some have none'],
    ['0.5 one\n', 'Line 1: “one” is not the number of a beat'],
    ['0.5\n', 'The file names fewer than two beats.'],
    ['', 'The file names fewer than two beats.'],
  ])('%j is refused: %s', (text, why) => {
    expect(() => readBeats(text)).toThrow(why)
  })
})

describe('label files', () => {
  it('come back exactly', () => {
    const label = fc.record({
      start: fc.double({ min: 0, max: 600, noNaN: true }),
      length: fc.double({ min: 0.001, max: 60, noNaN: true }),
      text: fc.stringMatching(/^[A-Za-z][A-Za-z :]{0,20}[A-Za-z]$/),
    })
    fc.assert(
      fc.property(fc.array(label, { minLength: 1, maxLength: 20 }), (rows) => {
        const list = rows
          .map((r) => ({ start: r.start, end: r.start + r.length, text: r.text }))
          .sort((a, b) => a.start - b.start)
        expect(readLabels(printLabels(list))).toEqual(list)
      }),
    )
  })
  it('may be labels without length, with words of several parts', () => {
    expect(readLabels('1.5\t1.5\tclap now\n')).toEqual([{ start: 1.5, end: null, text: 'clap now' }])
    expect(readLabels('0.0 12.5 intro one\n')).toEqual([{ start: 0, end: 12.5, text: 'intro one' }])
  })
  it('may have remarks, lines of frequencies, blanks, decimal commas and spaces around', () => {
    const file = [
      '# a list',
      '   ',
      '\\\t100\t900',
      ' 1,5 \t 2,25 \t one# ',
      '3  4.5   two  words',
      '5 7',
      '8\t9',
      '',
    ]
    expect(readLabels(file.join('\n'))).toEqual([
      { start: 1.5, end: 2.25, text: 'one#' },
      { start: 3, end: 4.5, text: 'two words' },
      // Two cells and no tab: a start and its words, which are a number here.
      { start: 5, end: null, text: '7' },
      { start: 8, end: 9, text: '' },
    ])
    expect(readLabels('1\thi\\\n')).toEqual([{ start: 1, end: null, text: 'hi\\' }])
    expect(() => readLabels(`${'x'.repeat(40)}\t1\ta`)).toThrow(`“${'x'.repeat(30)}” is`)
  })
  it('name the line that cannot be read', () => {
    expect(() => readLabels('0\t2\ta\nverse\t3\tb\n')).toThrow('Line 2: “verse” is not a time')
    expect(() => readLabels('3\t2\ta\n')).toThrow('Line 1: the end lies before the start')
  })
})

describe('JAMS', () => {
  const song = { title: 'Made up', artist: 'Nobody', duration: 90 }
  it('comes back exactly', () => {
    fc.assert(
      fc.property(beats, (list) => {
        const sections = [{ start: list[0] as number, end: null, text: 'A verse' }]
        const back = readJams(printJams(song, list, inEights(list), sections))
        expect(back.beats).toEqual(list)
        expect(back.numbers).toEqual(inEights(list))
        expect(back.sections).toEqual(sections)
      }),
    )
  })
  it('reads namespaces and both ways to store data of the published schema', () => {
    // Shapes after Humphrey et al. 2014 and the schema of jams 0.3: sparse observations, and dense columns.
    const file = {
      annotations: [
        {
          namespace: 'beat_position',
          data: [1, 2, 3, 4].map((position) => ({
            time: position / 2,
            duration: 0,
            confidence: null,
            value: { position, measure: 1, num_beats: 4, beat_units: 4 },
          })),
        },
        { namespace: 'segment_salami_upper', data: { time: [0, 8], duration: [8, 4], value: ['A', 'B'] } },
      ],
    }
    expect(readJams(JSON.stringify(file))).toEqual({
      beats: [0.5, 1, 1.5, 2],
      numbers: [1, 2, 3, 4],
      sections: [
        { start: 0, end: 8, text: 'A' },
        { start: 8, end: 12, text: 'B' },
      ],
    })
  })
  it('says what is wrong', () => {
    expect(() => readJams('{')).toThrow('This is not a JSON file')
    expect(() => readJams('{"annotations": [{"namespace": 1}]}')).toThrow('annotations.0.namespace')
    expect(() => readJams('{"annotations": []}')).toThrow('neither beats nor segments')
  })
})

describe('MIDI tempo maps', () => {
  it('keep every beat to the microsecond: nothing adds up', () => {
    fc.assert(
      fc.property(beats, (list) => {
        const phrases = Array.from({ length: Math.ceil(list.length / 8) }, (_, i) => ({
          counts: Math.min(8, list.length - 8 * i),
          pickUp: false,
        }))
        const back = readMidiGrid(writeMidiGrid(list, phrases, [{ beat: 0, text: 'A intro' }]))
        expect(back.beats).toHaveLength(list.length)
        list.forEach((t, i) => {
          expect(Math.abs((back.beats[i] as number) - t)).toBeLessThan(0.51e-6)
        })
        expect(back.numbers).toEqual(inEights(list))
        expect(back.sections.map((s) => s.text)).toEqual(['A intro'])
      }),
    )
  })
  it('tell any tick’s time in any order, the new tempo from its own tick on', () => {
    const tempo = (tick: number, microsecondsPerBeat: number) => ({
      tick,
      event: { type: 'setTempo' as const, deltaTime: 0, microsecondsPerBeat },
    })
    const at = midiClock([tempo(480, 1_000_000), tempo(960, 250_000)], 480)
    // By hand: half a second, then a whole one, then quarters of one.
    expect([1440, 0, 720, 960, 480, 1200, 240].map(at)).toEqual([1.75, 0, 1, 1.5, 0.5, 1.625, 0.25])
  })
  it('printed twice are the same bytes', () => {
    const list = [0.5, 1.0001, 1.5, 2.2]
    const once = writeMidiGrid(list, [{ counts: 4, pickUp: false }], [])
    expect(writeMidiGrid(readMidiGrid(once).beats, [{ counts: 4, pickUp: false }], [])).toEqual(once)
  })
  it('hold the tempo as the standard says: 500 000 µs a quarter at 120 BPM, 4/4, and a pick-up of its own', () => {
    const list = Array.from({ length: 11 }, (_, i) => i * 0.5)
    const bytes = writeMidiGrid(
      list,
      [
        { counts: 3, pickUp: true },
        { counts: 8, pickUp: false },
      ],
      [],
    )
    const [track] = parseMidi(bytes).tracks
    expect(track?.filter((e) => e.type === 'setTempo')).toMatchObject([{ microsecondsPerBeat: 500_000 }])
    expect(track?.filter((e) => e.type === 'timeSignature')).toMatchObject([
      { numerator: 3 },
      { numerator: 4 },
    ])
    expect(readMidiGrid(bytes).numbers).toEqual([6, 7, 8, 1, 2, 3, 4, 5, 6, 7, 8])
  })
  it('of others give beats by their metre, three eighths a beat in 6/8', () => {
    const meta = { meta: true as const }
    const bytes = Uint8Array.from(
      writeMidi({
        header: { format: 1, numTracks: 2, ticksPerBeat: 96 },
        tracks: [
          [
            {
              deltaTime: 0,
              ...meta,
              type: 'timeSignature',
              numerator: 6,
              denominator: 8,
              metronome: 36,
              thirtyseconds: 8,
            },
            { deltaTime: 0, ...meta, type: 'setTempo', microsecondsPerBeat: 400_000 },
            { deltaTime: 288, ...meta, type: 'marker', text: 'Verse' },
            { deltaTime: 0, ...meta, type: 'setTempo', microsecondsPerBeat: 800_000 },
            { deltaTime: 288, ...meta, type: 'endOfTrack' },
          ],
          [{ deltaTime: 0, ...meta, type: 'endOfTrack' }],
        ],
      }),
    )
    const { beats: got, numbers, sections } = readMidiGrid(bytes)
    expect(got.map((t) => Math.round(t * 1e6) / 1e6)).toEqual([0, 0.6, 1.2, 2.4, 3.6])
    expect(numbers).toEqual([1, 2, 1, 2, 1])
    expect(sections).toEqual([{ start: 1.2, end: null, text: 'Verse' }])
  })
  /** A file of one track by its bytes, with the given events. */
  const bytesOf = (ppq: number, ...events: number[]) =>
    new Uint8Array([
      ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, ppq >> 8, ppq & 255],
      ...[0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, events.length, ...events],
    ])
  const END = [0xff, 0x2f, 0]
  it.each([
    ['a long wait at one tick a beat', bytesOf(1, 0xff, 0xff, 0xff, 0x7f, ...END), 'more than 20,000 beats'],
    [
      'a denominator of 2^30',
      bytesOf(96, 0, 0xff, 0x58, 4, 4, 30, 24, 8, 96, ...END),
      'time signature of 4/',
    ],
    ['a numerator of 0', bytesOf(96, 0, 0xff, 0x58, 4, 0, 2, 24, 8, 96, ...END), 'time signature of 0/4'],
    ['a tempo of 0', bytesOf(96, 0, 0xff, 0x51, 3, 0, 0, 0, 0x83, 0, ...END), 'tempo of no length'],
    ['a wait of too many bytes', bytesOf(96, 0x8f, 0xff, 0xff, 0xff, 0x7f, ...END), 'longer than the format'],
  ])('with %s is refused', (_, bytes, why) => {
    expect(() => readMidiGrid(bytes)).toThrow(why)
  })
  it('whose phrases overlap are refused', () => {
    const cue = (text: string) => [0xff, 7, text.length, ...[...text].map((c) => c.charCodeAt(0))]
    const bytes = bytesOf(96, 0, ...cue('phrase 8'), 96, ...cue('phrase 8'), 96, ...END)
    expect(() => readMidiGrid(bytes)).toThrow('overlap')
  })
  it('keep names in any script', () => {
    const bytes = writeMidiGrid(
      [0, 0.5, 1],
      [{ counts: 3, pickUp: false }],
      [{ beat: 0, text: 'Припев ダンス' }],
    )
    expect(readMidiGrid(bytes).sections[0]?.text).toBe('Припев ダンス')
  })
  it('that are cut short are refused', () => {
    const whole = writeMidiGrid([0, 0.5, 1], [{ counts: 3, pickUp: false }], [])
    expect(() => readMidiGrid(whole.slice(0, 20))).toThrow('not a whole MIDI file')
    // A marker whose length takes five bytes: below zero once the parser has read it.
    const marker = [0x00, 0xff, 0x06, 0xf8, 0x9c, 0x81, 0xe9, 0x56]
    const track = [...marker, 0x00, 0xff, 0x2f, 0x00]
    const head = [...'MThd', 0, 0, 0, 6, 0, 0, 0, 1, 1, 0xe0, ...'MTrk', 0, 0, 0, track.length]
    const bytes = [...head, ...track].map((b) => (typeof b === 'string' ? b.charCodeAt(0) : b))
    expect(() => readMidiGrid(Uint8Array.from(bytes))).toThrow('a length that the format does not allow')
    expect(() => readMidiGrid(new Uint8Array([1, 2, 3]))).toThrow('not a whole MIDI file')
  })
})
