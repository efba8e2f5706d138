import fc from 'fast-check'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../choreo'
import { printSrt, printVtt, readCaptions } from '../formats/captions'
import { printCalendar } from '../formats/icalendar'
import {
  addDancers,
  placeDancers,
  type Routine,
  setBorders,
  setRepeat,
  setSpace,
  setUsualBorder,
} from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import {
  type Contents,
  captionsOf,
  countTable,
  cueSheet,
  cueTable,
  eightsWords,
  fitOf,
  nothingIn,
  pasteText,
  placesTable,
  type SheetRow,
  setRow,
  spokenRow,
  usualContents,
} from '.'

const book = moveBook(STARTING_MOVES)
const times = Array.from({ length: 65 }, (_, i) => 10 + i * 0.5)
const FEET = '1 step R; 2 touch L; 3 step L; 4& kick R; 5-6 pivot ½ left; 7 step R; 8 together'
/** Two eights of feet and arms, a third that is the first to the other side with something new on 7. */
const dance = (): Routine => {
  const r = page(4, [
    ...cuesOf([FEET, FEET]),
    ...cuesOf(['1-4 reach R; 3-6 swing L', ''], 'arms'),
    {
      id: 'new',
      at: 2 * 192 + 6 * 24,
      length: 24,
      layer: 'feet',
      move: 'jump',
      side: 'none',
      call: '',
      tip: 'Land soft on your left.',
    },
  ])
  const named = {
    ...r,
    credit: 'The Invented Few',
    gear: 'flat shoes',
    sections: [
      { id: 'a', at: 0, name: '', kind: 'verse' as const, letter: 'A' },
      { id: 'b', at: 192, name: 'Big chorus', kind: 'chorus' as const, letter: 'B' },
    ],
    marks: [
      { id: 'm1', at: 10.1, end: 11.2, kind: 'lyric' as const, text: 'rain on the roof' },
      { id: 'm2', at: 14.2, end: null, kind: 'lyric' as const, text: 'again' },
    ],
  }
  return setRepeat(named, { id: 'r', to: { from: 384, to: 576 }, from: 0, mirrored: true }, ids()) as Routine
}
const all = (r: Routine, what: Partial<Contents> = {}): Contents => ({
  ...usualContents(r),
  stretch: { from: 0, to: 576 },
  ...what,
})

describe('rows of a dance that leans over its borders', () => {
  // 8& belongs to what follows; the 1 of the third eight is landed on by the second.
  const r = setBorders(setUsualBorder(dance(), { lean: 12, resolve: 0 }).routine, [384], {
    lean: 0,
    resolve: 24,
  })
  const rows = cueSheet(r, times, book, all(r))
  it('begin with their pick-up and end with what they land on, and their counts stand below each other', () => {
    expect(rows.map((x) => [x.from, x.from + x.length])).toEqual([
      [0, 180],
      [180, 408],
      [384, 576],
    ])
    const at = (i: number, label: string) => {
      const row = rows[i] as SheetRow
      return (row.indent + (row.counts.find((c) => c.label === label)?.at ?? Number.NaN)) / row.across
    }
    expect(rows[1]?.counts.map((c) => c.label)).toEqual(['8&', '1', '2', '3', '4', '5', '6', '7', '8', '1'])
    for (const label of ['1', '5'])
      expect([0, 1, 2].map((i) => at(i, label))).toEqual(Array(3).fill(at(0, label)))
  })
  it('lose no cue, and say a repeat in one line with its pick-up written out', () => {
    const written = (list: readonly SheetRow[]) =>
      list.flatMap((x) => x.lanes.flatMap((l) => l.lines.flat())).length
    expect(written(rows)).toBeGreaterThanOrEqual(written(cueSheet(dance(), times, book, all(dance()))))
    const short = cueSheet(r, times, book, all(r, { short: true }))
    expect(short[2]?.again).toContain('as Verse, eight 1')
  })
})

describe('own parts, and two sections of one name', () => {
  const r = {
    ...dance(),
    sections: [0, 192].map((at, i) => ({
      ...{ id: `s${i}`, at, name: '', kind: 'chorus' as const, letter: 'A' },
    })),
    parts: [
      { id: 'p1', at: 0, name: 'Part one' },
      { id: 'p2', at: 192 + 4 * 24, name: 'Part two' },
    ],
  }
  const counts = all(r)
  it('stand over the rows of the sheet, a part within a row with its count', () => {
    expect(cueSheet(r, times, book, counts).map((row) => row.heading)).toEqual([
      'Chorus · Part one',
      'Chorus, 2nd · Part two, from 5',
      '',
    ])
  })
  it('are in every table, text and list of chapters', () => {
    const cues = cueTable(r, times, counts)
    const part = cues.columns.indexOf('Part')
    expect([...new Set(cues.rows.map((row) => row[part]))]).toEqual(['Part one', 'Part two'])
    const table = countTable(r, times, counts)
    expect(table.rows.filter((row) => row[table.columns.indexOf('Part')] === 'Part one')).toHaveLength(12)
    const chapters = captionsOf(r, times, counts, 'chapters')
    expect(chapters.map((c) => [c.start, c.text])).toEqual([
      [10, 'Chorus, Part one'],
      [14, 'Chorus, 2nd'],
      [16, 'Part two'],
    ])
    const text = pasteText(r, times, book, counts)
    for (const line of ['0:10 Chorus, Part one', '0:14 Chorus, 2nd', '0:16 Part two'])
      expect(text).toContain(line)
  })
  it('says how fast the song is there, of songs that were cut together the slowest and the fastest', () => {
    const mix = [...Array(48).keys()].map((k) => (k < 24 ? k * 0.6 : 14.4 + (k - 24) * 0.5))
    const r = page(6, cuesOf(Array(6).fill('1 step R; 5 touch L')))
    const said = (from: number, to: number) =>
      pasteText(r, mix, book, all(r, { stretch: { from: from * 192, to: to * 192 } })).match(
        /[\d to]+ beats/,
      )?.[0]
    expect([said(0, 2), said(4, 6), said(1, 5)].map((x) => x?.trim())).toEqual([
      ...['100 beats', '120 beats', '100 to 120 beats'],
    ])
  })
})

describe('where one stands, as a table', () => {
  it('is a row a dancer for each formation, mirrored where that is asked for', () => {
    const newId = ids('x')
    const two = addDancers(dance(), 2, ids('d'))
    const stood = placeDancers(
      two,
      0,
      [
        { dancer: 'd0', x: -1, y: 1 },
        { dancer: 'd1', x: 1, y: 1, facing: 2 },
      ],
      newId,
    )
    const r = placeDancers(stood, 192, [{ dancer: 'd0', x: -1, y: 2 }], newId)
    const { columns, rows } = placesTable(r, times, usualContents(r), book)
    expect(columns.slice(0, 6)).toEqual(['Place', 'Count', 'Seconds', 'Formation', 'Who', 'Letter'])
    expect(rows.map((row) => [row[2], row[5], row[7], row[8], row[9], row[10]])).toEqual([
      [10, 'A', -1, 1, '', 0],
      [10, 'B', 1, 1, 'right', 0],
      [14, 'A', -1, 2, '', 1],
      [14, 'B', 1, 1, 'right', 0],
    ])
    const other = placesTable(r, times, { ...usualContents(r), mirrored: true }, book)
    expect(other.rows[1]?.slice(7, 10)).toEqual([-1, 1, 'left'])
    const later = placesTable(r, times, { ...usualContents(r), stretch: { from: 192, to: 384 } }, book)
    expect(later.rows).toEqual(rows.slice(2))
  })
  it('stands in the rows of a cue sheet where it begins, on one scale, mirrored with the rest', () => {
    const two = addDancers(dance(), 2, ids('d'))
    const at = (r: Routine, tick: number, x: number) =>
      placeDancers(
        r,
        tick,
        [
          { dancer: 'd0', x: -x, y: 1 },
          { dancer: 'd1', x, y: 2 },
        ],
        ids(`f${tick}-`),
      )
    const r = at(at(two, 0, 1), 216, 3)
    const rows = cueSheet(r, times, book, usualContents(r))
    expect(rows.map((row) => row.plans.map((p) => p.at))).toEqual([[0], [24], []])
    // Half a metre beside the outermost: seven metres wide, three and a half deep.
    expect(rows[1]?.plans[0]?.people.map((p) => [p.letters, p.x, p.y])).toEqual([
      ['A', 0.5 / 7, 1 / 3.5],
      ['B', 6.5 / 7, 2 / 3.5],
    ])
    const other = cueSheet(r, times, book, { ...usualContents(r), mirrored: true })
    expect(other[0]?.plans[0]?.says).toBe(
      'A 1 m right of the middle, 1 m from the front; B 1 m left of the middle, 2 m from the front',
    )
    expect(spokenRow(rows[1] as SheetRow)).toContain('formation on 2: A 3 m left of the middle')
    expect(cueSheet(r, times, book, { ...usualContents(r), plans: false }).flatMap((x) => x.plans)).toEqual(
      [],
    )
  })
  it('says in a sheet where the steps have led by the end of each row, where that is asked for', () => {
    const r = page(2, cuesOf(['1 walk R forward; 2 walk L forward', '1 step side R; 5 wander about R']))
    const ways = (more: Partial<Contents>) =>
      cueSheet(r, times, book, { ...usualContents(r), ...more }).map((row) => row.way)
    expect(ways({})).toEqual(['', ''])
    // Two walks of 0.6 m, and a step of 0.5 m to the side: by hand.
    expect(ways({ path: true })).toEqual([
      'ends 1.2 m forward of where you began',
      'ends 50 cm to the right, 1.2 m forward of where you began, as far as is known',
    ])
    expect(ways({ path: true, mirrored: true })[1]).toMatch(/^ends 50 cm to the left/)
    const [first] = cueSheet(r, times, book, { ...usualContents(r), path: true })
    expect(spokenRow(first as SheetRow)).toContain('. ends 1.2 m forward of where you began')
  })
  it('draws that in a sheet, all rows on one scale, from where the dancer begins', () => {
    const r = page(2, cuesOf(['1 walk R forward; 2 walk L forward', '1 step side R; 5 wander about R']))
    const paths = (of = r, more: Partial<Contents> = {}) =>
      cueSheet(of, times, book, { ...usualContents(of), path: true, ...more }).map((row) => row.path)
    const near = (list: readonly (readonly [number, number])[] = []) =>
      list.map(([x, y]) => [Math.round(1000 * x) / 1000, Math.round(1000 * y) / 1000])
    // By hand: half a metre is free around the way, so it begins 25 cm left of the middle and 1.7 m from the front. The plan
    // holds 1.7 m down and half a metre more, and twice as much across: 4.4 by 2.2 m.
    const [first, second] = paths()
    const [left, right] = [0.443, 0.557]
    const begin = [left, 0.773]
    expect(near(first?.row)).toEqual([begin, [left, 0.5], [left, 0.227]])
    // The wandering leads nobody knows where: the dancer stays drawn where they were.
    const side = [right, 0.227]
    expect(near(second?.row)).toEqual([[left, 0.227], side, side])
    const whole = [begin, [left, 0.5], [left, 0.227], side, side]
    expect([near(first?.all), near(second?.all)]).toEqual([whole, whole])
    expect([first?.uncertain, second?.uncertain]).toEqual([false, true])
    const other = [left, 0.227]
    expect(near(paths(r, { mirrored: true })[1]?.row)).toEqual([side, other, other])
    // In a room the plan is the room: ten metres across, five down, the way in its middle.
    const roomed = setSpace(r, { room: { width: 10, depth: 5 } })
    expect(near(paths(roomed)[0]?.row)).toEqual([
      [0.475, 0.62],
      [0.475, 0.5],
      [0.475, 0.38],
    ])
    expect(paths(page(1, cuesOf(['1 touch R'])))).toEqual([null])
    expect(paths(r, { path: false })).toEqual([null, null])
  })
  it('is a row a step for one dancer, and says what is not certain', () => {
    const r = page(2, cuesOf('1 walk R; 2 step side L; 3 step R; 4 walk L'))
    const { name, rows } = placesTable(r, times, usualContents(r), book)
    expect(name).toBe('Path')
    expect(rows.map((row) => [row[1], row[3], row[4], row[5], row[6]])).toEqual([
      ['1', 'walk', 0.25, 1.1, 'yes'],
      ['2', 'step side', -0.25, 1.1, 'yes'],
      ['3', 'step', -0.25, 1.1, 'no'],
      ['4', 'walk', -0.25, 0.5, 'no'],
    ])
  })
})

describe('what brings lines of its own', () => {
  const forged = 'x\n\n2\n00:00:05,000 --> 00:00:06,000\nforged'
  it('is one caption, in WebVTT and in SubRip', async () => {
    for (const print of [printVtt, printSrt])
      for (const text of [forged, '00:00:05,000 --> 00:00:06,000', '00:00:05.000 --> 00:00:06.000']) {
        const { words } = await readCaptions(print([{ start: 1, end: 2, text }]))
        expect(words.map((w) => [w.start, w.end])).toEqual([[1, 2]])
        // Other readers take any arrow between two times for the beginning of one.
        expect(print([{ start: 1, end: 2, text }]).match(/-->/g)).toHaveLength(1)
      }
  })
  it('is one event of a calendar', () => {
    const lines = 'a\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nUID:forged'
    const lesson = { id: lines, date: '2026-11-27T19:00', minutes: 60, title: lines, words: lines }
    const printed = printCalendar(lines, [lesson], new Date(0))
    const events = new ICAL.Component(ICAL.parse(printed)).getAllSubcomponents('vevent')
    expect(events).toHaveLength(1)
    expect(printed).not.toMatch(/^UID:forged/m)
    expect(events[0]?.getFirstPropertyValue('summary')).toBe('a END:VEVENT BEGIN:VEVENT UID:forged')
  })
})

describe('the cue sheet', () => {
  it('has a row a phrase: counts, lanes, feet, wall, lyric, tips; a repeat is one line', () => {
    const r = dance()
    const rows = cueSheet(r, times, book, all(r))
    expect(rows.map((x) => [x.heading, x.time, x.length])).toEqual([
      ['Verse', '0:10', 192],
      ['Big chorus', '0:14', 192],
      ['', '0:18', 192],
    ])
    const [first, , third] = rows
    // All that is sung in a row stands there; so does what usually goes wrong.
    const more = {
      ...r,
      marks: [...r.marks, { id: 'm3', at: 11.5, end: null, kind: 'lyric' as const, text: 'and on' }],
      cues: r.cues.map((c) => (c.tip ? { ...c, mistake: 'too far left', caution: 'jump' as const } : c)),
    }
    const said = cueSheet(more, times, book, all(more))
    expect(said[0]?.lyric).toBe('rain on the roof / and on')
    expect(said[2]?.notes).toEqual([
      '7 jump: Land soft on your left.; usual mistake: too far left; mind the jump',
    ])
    const turned = cueSheet(r, times, book, all(r, { mirrored: true }))[0]?.feet.map((f) => f.words)
    expect(turned?.join(' ')).toMatch(/^L L R R/)
    expect(first?.counts.map((c) => c.label).join(' ')).toBe('1 2 3 4 5 6 7 8')
    expect(first?.between).toEqual([{ at: 84, label: '&' }])
    expect(first && spokenRow(first)).toMatch(/^.*eight 1, 0:10\. feet: 1 .*4& .*\. arms: /)
    expect(first?.lanes.map((l) => [l.layer, l.lines.length])).toEqual([
      ['feet', 1],
      ['arms', 2],
    ])
    expect(first?.feet.map((f) => f.words).join(' ')).toMatch(/^R R L L/)
    expect(first?.wall).toBe('back')
    expect([first?.lyric, rows[1]?.lyric]).toEqual(['rain on the roof', 'again'])
    expect(third?.again).toBe('as Verse, eight 1, other side; new on 7')
    expect(third?.lanes[0]?.lines[0]?.map((c) => c.text)).toEqual(['jump'])
    expect(third?.notes).toEqual(['7 jump: Land soft on your left.'])
    // Written out, all of it stands there; as in a mirror, sides are turned, in tips too.
    const full = cueSheet(r, times, book, all(r, { short: false, mirrored: true }))
    expect(full[2]?.again).toBe('')
    expect(full[0]?.lanes[0]?.lines[0]?.[0]?.text).toBe('step L')
    expect(full[2]?.lanes[0]?.lines[0]?.[0]?.text).toBe('step R')
    expect(full[2]?.notes).toEqual(['7 jump: Land soft on your right.'])
  })
  it('holds every cue that is danced, whatever the stretch, none of two on one line at one time', () => {
    const r = dance()
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 1, max: 300 }), (from, n) => {
        const rows = cueSheet(r, times, book, all(r, { stretch: { from, to: from + n }, short: false }))
        const held = rows.flatMap((x) => x.lanes.flatMap((l) => l.lines.flat())).length
        expect(held).toBe(cueTable(r, times, all(r, { stretch: { from, to: from + n } })).rows.length)
        for (const line of rows.flatMap((x) => x.lanes.flatMap((l) => l.lines)))
          line.forEach((c, i) => {
            const next = line[i + 1]
            if (next) expect(next.at).toBeGreaterThanOrEqual(c.at + c.length)
          })
      }),
    )
  })
  it('words are wrapped, then smaller, then a footnote; none is cut', () => {
    const wide = (text: string, size: number) => text.length * size * 0.5
    expect(fitOf('step R', 40, [9, 8, 7], wide)).toEqual({ size: 9, footnote: false })
    expect(fitOf('roll shoulder', 33, [9, 8, 7], wide, 3)).toEqual({ size: 8, footnote: false })
    expect(fitOf('Donaudampfschifffahrt', 30, [9, 8, 7], wide)).toEqual({ size: 7, footnote: true })
    expect(fitOf('a b c d e f g h i j k l', 10, [9, 8], wide, 2).footnote).toBe(true)
  })
  it('every cue of a row has its words in its own counts or the free room after them, or a footnote', () => {
    const wide = (text: string, size: number) => text.length * size * 0.5
    const words = fc.stringMatching(/^[a-z]{1,9}( [a-z]{1,12}){0,9}$/)
    const some = fc.array(
      fc.record({ gap: fc.nat(3), counts: fc.integer({ min: 1, max: 4 }), text: words }),
      {
        minLength: 1,
        maxLength: 8,
      },
    )
    fc.assert(
      fc.property(some, fc.integer({ min: 150, max: 900 }), (list, across) => {
        let at = 0
        const line = list.map(({ gap, counts, text }) => {
          const cue = { at: at + gap * 12, length: counts * 12, text }
          at = cue.at + cue.length
          return cue
        })
        const length = Math.max(192, at)
        const row = { length, indent: 0, across: length, lanes: [{ layer: 'feet' as const, lines: [line] }] }
        const { lanes, foot } = setRow(row, across, [9, 8, 7], wide, 5)
        const all = lanes.flatMap((l) => l.lines.flat())
        expect(all.map((c) => c.at).sort((a, b) => a - b)).toEqual(line.map((c) => c.at))
        let notes = 0
        for (const set of lanes[0]?.lines ?? [])
          set.forEach((c, i) => {
            const free = (set[i + 1]?.left ?? across) - c.left
            expect(c.left).toBeCloseTo((c.at / row.length) * across, 6)
            expect(c.width).toBeLessThanOrEqual(free + 1e-6)
            expect(c.width).toBeGreaterThanOrEqual((c.length / row.length) * across - 1e-6)
            if (c.words === c.text) {
              const longest = Math.max(...c.text.split(' ').map((w) => wide(w, c.size)))
              expect(longest).toBeLessThanOrEqual(c.width - 5 + 1e-6)
            } else expect([c.words, foot[notes++]]).toEqual([`(${notes})`, c.text])
          })
        expect(notes).toBe(foot.length)
      }),
    )
  })
  const wide = (text: string, size: number) => text.length * size * 0.5
  const set = (texts: [number, number, string][], across: number) =>
    setRow(
      {
        ...{ length: 192, indent: 0, across: 192 },
        lanes: [{ layer: 'feet', lines: [texts.map(([at, length, text]) => ({ at, length, text }))] }],
      },
      ...([across, [17, 14, 12, 10], wide, 5] as const),
    )
  it('the words of a row have one size; one that would make all of them small is small by itself', () => {
    const sizes = (last: string) =>
      set(
        [
          [0, 48, 'step'],
          [48, 48, 'touch'],
          [96, 96, last],
        ],
        240,
      ).lanes[0]?.lines[0]?.map((c) => c.size)
    expect(sizes('go')).toEqual([17, 17, 17])
    expect(sizes('somersaultings')).toEqual([14, 14, 14])
    expect(sizes('double-somersaulting')).toEqual([17, 17, 10])
  })
  it('a short word on a sub-count stands on a line of its own rather than as a number', () => {
    const { lanes, foot } = set(
      [
        [0, 12, 'kick R'],
        [12, 12, 'overturn R'],
        [24, 24, 'step L'],
      ],
      480,
    )
    expect(foot).toEqual([])
    expect(lanes[0]?.lines.map((l) => l.map((c) => [c.at, c.words]))).toEqual([
      [
        [0, 'kick R'],
        [24, 'step L'],
      ],
      [[12, 'overturn R']],
    ])
  })
  it('says why there is nothing', () => {
    const r = dance()
    expect(nothingIn(r, [], all(r))).toMatch(/counts of this song/)
    expect(nothingIn(r, times, all(r, { stretch: { from: 600, to: 700 } }))).toMatch(/Nothing is written/)
    expect(nothingIn(r, times, all(r))).toBe('')
  })
})

describe('the text to paste', () => {
  it('says what it is, what is needed, what to know first, and where it is in the song', () => {
    const r = { ...dance(), title: 'Rain' }
    const learn = moveBook(STARTING_MOVES.map((m) => (m.name === 'kick' ? { ...m, learn: 'lesson 2' } : m)))
    const lines = pasteText(r, times, learn, all(r)).split('\n')
    expect(lines.slice(0, 2)).toEqual(['Rain', 'Song: The Invented Few'])
    expect(lines).toContain('What you need: flat shoes')
    expect(lines.some((l) => l.startsWith('3 eights, 0:12 of the song, 120 beats a minute'))).toBe(true)
    expect(lines).toContain('- kick: lesson 2')
    expect(lines.slice(-3)).toEqual(['0:10 Verse', '0:14 Big chorus', ''])
  })
  it('begins later where the film does, and has the moves where they are asked for', () => {
    const r = { ...dance(), title: 'Rain' }
    const text = pasteText(r, times, book, all(r), { moves: true, before: 75, stamps: null })
    expect(text).toContain('0:00 Before the song\n1:25 Verse\n1:29 Big chorus\n')
    // A film has times of its own.
    const own = pasteText(r, times, book, all(r), { moves: false, before: 0, stamps: ['0:12 Chorus'] })
    expect(own).toContain('\n0:12 Chorus\n')
    expect(own).not.toContain('Verse\n')
    const dancing = text.slice(text.indexOf('The dance:')).trim().split('\n')
    expect(dancing[1]).toMatch(/^Verse, eight 1: 1 step R, /)
    for (const row of cueTable(r, times, all(r)).rows)
      expect(dancing.find((l) => l.startsWith(`${row[0]}: `))).toContain(`${row[2]} ${row[6]}`)
    expect(pasteText(r, times, book, all(r))).not.toContain('The dance:')
  })
  it.each([
    [8, '1 eight'],
    [20, '2 eights and 4 counts'],
    [1, '1 count'],
    [0, '0 counts'],
  ])('%i counts are %s', (n, words) => expect(eightsWords(n)).toBe(words))
})

describe('tables', () => {
  it('a row a cue, and a row a count', () => {
    const r = dance()
    const cues = cueTable(r, times, all(r))
    expect(cues.rows[0]?.slice(0, 7)).toEqual(['Verse, eight 1', '', '1', 10, 1, 'feet', 'step R'])
    expect(cues.rows.every((x) => x.length === cues.columns.length)).toBe(true)
    const counts = countTable(r, times, all(r))
    expect(counts.rows).toHaveLength(24)
    expect(counts.rows[3]).toEqual(['Verse, eight 1', '', '4', 11.5, '4& kick R', ''])
  })
  it('has the cues of all roles and versions where they are asked for', () => {
    const first = dance().cues[0]
    if (!first) throw new Error('no cue')
    const others = [
      { ...first, id: 'role', move: 'stand', role: 'back row' },
      { ...first, id: 'version', move: 'march', option: 'easier' },
    ]
    const r = { ...dance(), cues: [...dance().cues, ...others] }
    const rows = (every: boolean) => cueTable(r, times, all(r), every).rows.map((x) => [x[6], x[8], x[9]])
    const has = (move: string, list: ReturnType<typeof rows>) =>
      list.filter((x) => String(x[0]).startsWith(move))
    expect(has('march', rows(false))).toEqual([])
    // The first phrase is danced again.
    expect(has('march', rows(true)).map((x) => x[2])).toEqual(['easier', 'easier'])
    expect(has('stand', rows(true)).map((x) => x[1])).toEqual(['back row', 'back row'])
  })
})

describe('captions', () => {
  it.each(['counts', 'cues', 'lyric', 'chapters'] as const)(
    'of %s come back from files as they were',
    async (kind) => {
      const r = dance()
      const list = captionsOf(r, times, all(r), kind)
      expect(list.length).toBeGreaterThan(1)
      list.forEach((t, i) => {
        expect(t.end ?? 0).toBeGreaterThan(t.start)
        const next = list[i + 1]
        if (next) expect(t.end ?? 0).toBeLessThanOrEqual(next.start + 1e-9)
      })
      for (const text of [printVtt(list), printSrt(list)]) {
        const back = await readCaptions(text)
        expect(back.words.map((t) => t.text)).toEqual(list.map((t) => t.text))
        for (const [i, t] of back.words.entries())
          expect(Math.abs(t.start - (list[i]?.start ?? 0))).toBeLessThan(0.0011)
      }
    },
  )
  it('counts have their calls; for a drill they begin with its lead and last as long as it does', () => {
    const r = { ...dance(), called: 'words' as const }
    const list = captionsOf(r, times, all(r, { stretch: { from: 0, to: 192 } }), 'counts', {
      speed: 0.5,
      lead: 2,
    })
    expect(list[0]).toMatchObject({ start: 2, text: '1 step R' })
    expect(list.at(-1)?.start).toBeCloseTo(2 + 7 / 1, 3)
    expect(list.some((t) => t.text.includes('kick'))).toBe(true)
    expect(captionsOf(r, times, all(r), 'chapters').map((t) => t.text)).toEqual(['Verse', 'Big chorus'])
  })
})
