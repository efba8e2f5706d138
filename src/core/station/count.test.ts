import { describe, expect, it } from 'vitest'
import type { Hearing, Peaks } from '../hear'
import {
  commit,
  emptyRoutine,
  everyEight,
  layOut,
  placePhrases,
  type Routine,
  repairedBeats,
} from '../routine'
import { ids } from '../routine/hand.test-tools'
import { gridTempo } from '../time'
import {
  COUNT_AT_FIRST,
  type CountEffect,
  type CountEvent,
  type CountState,
  type CountWork,
  firstPlace,
  nextDoubt,
  otherWays,
  question,
  standsDrag,
  stepCount,
  twoEights,
} from './count'
import type { CountSeen } from './count-seen'
import { CURSOR, markStretch, moveTo } from './cursor'

const BEATS = Array.from({ length: 64 }, (_, k) => 1 + k * 0.5)
const hearing = {
  version: 8,
  beats: BEATS,
  phrases: [0, 8, 16, 24, 32, 40, 48, 56],
  same: [],
  sure: { beats: Array(8).fill(0.9), ones: [0.9, 0.9, 0.2, 0.9, 0.9, 0.2, 0.9, 0.9] },
  confidence: { beats: 0.9, one: 0.9 },
  pictures: { loudness: BEATS.map((_, k) => (k >= 20 ? 200 : 20)), low: BEATS.map(() => 0) },
  tempi: [
    { bpm: 240, factor: 2, shift: 0, weight: 0.3, one: 1, bar: 4 },
    { bpm: 60, factor: 0.5, shift: 0, weight: 0.2, one: 1, bar: 4 },
  ],
  bar: 4,
  bars: [],
  ones: [{ shift: 4, weight: 0.2 }],
} as unknown as Hearing
const laid = layOut(
  emptyRoutine('x'),
  {
    counts: 64,
    starts: everyEight(0, 64),
    sections: [
      { count: 0, letter: 'A' },
      { count: 32, letter: 'B' },
    ],
  },
  ids('p'),
)

/** A Count station with a page of its own: what it asks for is done, and what follows is told to it. */
class Station {
  routine: Routine
  state: CountState = { ...COUNT_AT_FIRST, tapping: false, cursor: CURSOR }
  did: string[] = []
  notice = ''
  effects: CountEffect[] = []
  playing = false
  playingAt: number | null = null
  strokes: Peaks | null = null
  renumbered = false
  private readonly newId = ids('n')
  constructor(
    routine: Routine = laid,
    private readonly beats: readonly number[] = BEATS,
  ) {
    this.routine = routine
  }
  get seen(): CountSeen {
    const times = repairedBeats(this.beats, this.routine.repairs)
    return {
      ...{ routine: this.routine, placed: placePhrases(this.routine), times, tempo: gridTempo(times) },
      ...{ renumbered: this.renumbered, hearing, beats: this.beats, strokes: this.strokes },
      ...{ playing: this.playing, playingAt: this.playingAt, newId: this.newId },
    }
  }
  send(event: CountEvent): this {
    const { state, effects } = stepCount(this.state, event, this.seen)
    this.state = state
    this.effects = [...effects]
    for (const e of effects) {
      if (e.kind !== 'edit') continue
      const done = commit(this.routine, e.change)
      if (!done.done || done.routine === this.routine) continue
      this.routine = done.routine
      this.notice = done.said.join(' ')
      this.did.push(e.did)
      if (e.after) this.send(e.after)
    }
    return this
  }
  do(what: CountWork): this {
    return this.send({ kind: 'do', what })
  }
  at(tick: number): this {
    this.state = { ...this.state, cursor: moveTo(this.state.cursor, tick) }
    return this
  }
  get lengths() {
    return this.routine.phrases.map((p) => p.length)
  }
  get repairs() {
    return this.routine.repairs
  }
}

describe('what is done to the page', () => {
  it('puts the 1 at the cursor, everywhere or from there on, and moves all by counts', () => {
    expect(
      new Station()
        .at(3 * 24)
        .do('one')
        .lengths.slice(0, 2),
    ).toEqual([3, 8])
    const on = new Station().at(19 * 24).do('oneOn')
    expect([on.lengths.slice(0, 4), on.did]).toEqual([[8, 8, 3, 8], ['the 1 from here on']])
    expect(new Station().do('later').lengths.slice(0, 2)).toEqual([1, 8])
    expect(new Station().do('earlier').lengths.slice(0, 2)).toEqual([7, 8])
    expect(new Station().do('bar').lengths.slice(0, 2)).toEqual([4, 8])
    const three = { ...laid, usual: 1 }
    expect(new Station(three).do('bar').did).toEqual(['all half a phrase later'])
  })
  it('makes the phrase at the cursor longer, shorter, two, one with the next, or of another feel', () => {
    const s = new Station().at(9 * 24)
    expect(s.do('more').lengths.slice(0, 3)).toEqual([8, 9, 8])
    expect(s.do('fewer').lengths.slice(0, 3)).toEqual([8, 8, 8])
    expect(
      s
        .at(11 * 24)
        .do('split')
        .lengths.slice(0, 4),
    ).toEqual([8, 3, 5, 8])
    expect(s.do('join').did.at(-1)).toBe('join two phrases')
    expect(
      new Station()
        .at(8 * 24)
        .do('four')
        .lengths.slice(0, 4),
    ).toEqual([8, 4, 8, 8])
    const feel = new Station().at(8 * 24).do('feel')
    expect(feel.routine.phrases[1]?.feel).toBe('triplet')
    expect(feel.do('feel').routine.phrases[1]?.feel).toBe('straight')
  })
  it('says what a phrase made longer or shorter takes off its music, and puts it back', () => {
    const s = new Station().at(9 * 24)
    expect(s.do('more').notice).toMatch(/^The \d+ phrases after it begin a count later in the music now/)
    expect(s.do('more').state.moved).toEqual({ phrase: 1, length: 10, by: 2 })
    expect(s.send({ kind: 'leave next' }).lengths.slice(0, 4)).toEqual([8, 10, 6, 8])
    expect(s.state.moved).toBeNull()
    const short = new Station().at(9 * 24).do('fewer')
    expect(short.notice).toContain('a count earlier')
    expect(short.send({ kind: 'leave next' }).lengths.slice(0, 4)).toEqual([8, 7, 1, 8])
    // One back and forth moves nothing; another command leaves it as it is.
    expect(
      new Station()
        .at(9 * 24)
        .do('more')
        .do('fewer').state.moved,
    ).toBeNull()
    expect(
      new Station()
        .at(9 * 24)
        .do('more')
        .do('split').state.moved,
    ).toBeNull()
    expect(new Station().send({ kind: 'leave next' }).did).toEqual([])
    // Undone meanwhile, it is not put back once more.
    const undone = new Station().at(9 * 24).do('more')
    undone.routine = laid
    expect(undone.send({ kind: 'leave next' }).lengths).toEqual(laid.phrases.map((p) => p.length))
  })
  it('begins sections and parts, moves a section, and sets the ends of the dance', () => {
    const s = new Station().at(17 * 24).do('section')
    expect(s.routine.sections.map((x) => [x.at, x.kind, x.letter])).toContainEqual([16 * 24, 'part', 'C'])
    // Where one begins already it keeps its name.
    expect(s.at(33 * 24).do('section').routine.sections).toHaveLength(3)
    const named = { ...laid, sections: laid.sections.map((x) => ({ ...x, name: 'Hook' })) }
    expect(new Station(named).at(32 * 24).do('section').routine).toBe(named)
    const moved = new Station().at(33 * 24).do('sectionLater')
    expect(moved.did).toEqual(['the section begins a count later'])
    expect(moved.do('sectionEarlier').did).toHaveLength(2)
    const ends = new Station().at(30).do('begin').at(480).do('end')
    expect(ends.routine.excerpt).toEqual({ from: 30, to: 504 })
    expect(ends.at(492).do('end').routine.excerpt?.to).toBe(492)
    expect(new Station().at(48).do('part').routine.parts).toMatchObject([{ at: 48 }])
  })
  it('marks a sound where the song is playing, else at the cursor, and opens the words', () => {
    const s = new Station().at(48).do('sound')
    expect([s.routine.marks[0]?.at, s.state.aside]).toEqual([2, 'words'])
    // It waits for its name; while it plays the next one may come at once.
    expect(s.state.naming).toBe(s.routine.marks[0]?.id)
    expect(s.send({ kind: 'named' }).state.naming).toBeNull()
    expect(s.at(0).do('part').state.naming).toBe(s.routine.parts[0]?.id)
    s.playingAt = 96
    s.playing = true
    expect(s.do('sound').routine.marks.map((m) => m.at)).toContain(3)
    expect(s.state.naming).toBeNull()
  })
})

describe('repairs of the beat', () => {
  it('take the cursor along where counts get other numbers', () => {
    const twice = new Station().at(48).do('double')
    expect([twice.repairs[0]?.kind, twice.state.cursor.tick, twice.did]).toEqual([
      'double',
      96,
      ['twice the tempo'],
    ])
    const half = new Station().at(9 * 24).do('halve')
    expect([half.repairs[0], half.state.cursor.tick]).toEqual([{ kind: 'halve', keep: 0 }, 4 * 24])
    // The beats kept are those that hold the 1 at or before the cursor.
    const odd = new Station()
      .at(3 * 24)
      .do('one')
      .at(5 * 24)
      .do('halve')
    expect([odd.repairs[0], odd.state.cursor.tick]).toEqual([{ kind: 'halve', keep: 1 }, 2 * 24])
  })
  it('are of the song the cursor is in, where several were cut together', () => {
    // 32 beats at 120, 32 at 80 after them.
    const mix = BEATS.map((t, k) => (k < 32 ? t : 17 + (k - 32) * 0.75))
    const at = (count: number, what: CountWork) => new Station(laid, mix).at(count * 24).do(what)
    const times = (s: Station) => s.seen.times
    const later = at(40, 'double')
    expect(later.did).toEqual(['twice the tempo of this song'])
    expect(times(later).slice(0, 32)).toEqual(mix.slice(0, 32))
    expect(times(later).slice(32)).toEqual(Array.from({ length: 64 }, (_, k) => 17 + k * 0.375))
    expect([later.lengths, later.state.cursor.tick]).toEqual([Array(12).fill(8), 48 * 24])
    const first = at(9, 'double')
    expect(times(first).slice(60, 66)).toEqual([16, 16.25, 16.5, 16.75, 17, 17.75])
    expect([first.lengths, first.state.cursor.tick]).toEqual([Array(12).fill(8), 18 * 24])
    const half = at(35, 'halve')
    expect([half.did, half.state.cursor.tick]).toEqual([['half the tempo of this song'], 33 * 24])
    expect(times(half).slice(30, 35)).toEqual([16, 16.5, 17, 18.5, 20])
    expect(times(half)).toHaveLength(48)
    // Those are kept that hold the 1 at or before the cursor.
    const odd = new Station(laid, mix)
      .at(33 * 24)
      .do('one')
      .at(35 * 24)
      .do('halve')
    expect(times(odd).slice(31, 34)).toEqual([16.5, 17.75, 19.25])
    expect(odd.state.cursor.tick).toBe(33 * 24)
    const off = at(0, 'half')
    expect([off.did, off.lengths]).toEqual([
      ['half a beat later, of this song'],
      laid.phrases.map((p) => p.length),
    ])
    expect(times(off).slice(0, 2)).toEqual([1.25, 1.75])
    expect(times(off).slice(31, 33)).toEqual([16.75, 17])
    // A song that is cut in late leaves no room for the last.
    const near = BEATS.map((t, k) => (k < 32 ? t : 16.6 + (k - 32) * 0.75))
    expect(new Station(laid, near).at(0).do('half').seen.times.slice(30, 32)).toEqual([16.25, 16.6])
    expect(new Station(laid, near).at(0).do('double').seen.times.slice(61, 65)).toEqual([
      16.25, 16.5, 16.6, 17.35,
    ])
  })
  it('move all beats, or those from the cursor on', () => {
    const shift = (what: CountWork, tick = 48) => new Station().at(tick).do(what).repairs[0]
    expect(shift('earlier10')).toEqual({ kind: 'shift', seconds: -0.01 })
    expect(shift('later10')).toEqual({ kind: 'shift', seconds: 0.01 })
    expect(shift('fromEarlier')).toEqual({ kind: 'shift', seconds: -0.01, from: 2 })
    expect(shift('fromLater')).toEqual({ kind: 'shift', seconds: 0.01, from: 2 })
    expect(new Station().do('fromLater').did).toEqual(['the beat 10 ms later from here'])
    expect(shift('half')).toEqual({ kind: 'shift', seconds: 0.25 })
    // At the last beat half of the page's own.
    expect(shift('half', 63 * 24)).toMatchObject({ kind: 'shift', seconds: 0.25 })
  })
  it('hold a count where it is or is dragged to; what the grid would not stand is said, and nothing is changed', () => {
    const s = new Station().at(48).do('pin')
    expect([s.repairs, s.did]).toEqual([[{ kind: 'pin', beat: 2, at: 2 }], ['pin this count']])
    s.at(4 * 24).send({ kind: 'drag', by: 0.05 })
    expect([s.repairs.at(-1), s.did.at(-1)]).toEqual([{ kind: 'pin', beat: 4, at: 3.05 }, 'drag the count'])
    const before = s.routine
    s.at(3 * 24).send({ kind: 'drag', by: 2 })
    expect([s.routine, s.effects]).toEqual([before, []])
    expect(s.state.said).toMatch(/Nothing was changed\.$/)
    expect([standsDrag(s.seen, 72, 2), standsDrag(s.seen, 72, 0.01), standsDrag(s.seen, 1e6, 0)]).toEqual([
      false,
      true,
      false,
    ])
    // The next move that is taken says nothing more.
    expect(s.do('later10').state.said).toBe('')
    expect(s.at(1e6).do('pin').effects).toEqual([])
  })
  it('by the strokes are refused in words where those were not kept', () => {
    for (const what of ['meet', 'follow'] as const) {
      const s = new Station().do(what)
      expect([s.did, s.state.said]).toEqual([[], expect.stringContaining('Hear it again first.')])
    }
  })
  it('by the strokes lay the counts on them, once', () => {
    const s = new Station()
    const frameRate = 100
    const onset = new Uint8Array(40 * frameRate)
    for (const b of BEATS) onset[Math.round((b + 0.03) * frameRate)] = 200
    s.strokes = { levels: [], frameRate, onset }
    expect(s.do('meet').did).toEqual(['meet the sound'])
    expect(s.do('meet').state.said).toBe('The counts lie on the sound already.')
    expect(s.do('follow').did.at(-1)).toBe('follow the sound')
  })
  it('make a section steady, and bring back what was heard, all or in the section', () => {
    const s = new Station().do('double').at(0)
    expect(s.do('heard').repairs).toEqual([])
    const pinned = new Station()
      .at(4 * 24)
      .send({ kind: 'drag', by: 0.05 })
      .at(0)
    expect(pinned.do('steady').did.at(-1)).toBe('make the section steady')
    expect(pinned.do('heardHere').did.at(-1)).toBe('what was heard, in this section')
  })
})

describe('a spare 4 that was not heard', () => {
  it.each([0, 1, 2, 3, 5])('after eight %i: all that follows is right in two moves', (eight) => {
    // The right 1s come four counts later from there on.
    const s = new Station().at((eight * 8 + 4) * 24).do('split')
    expect(s.lengths.slice(eight, eight + 3)).toEqual([4, 4, 8])
    const one = new Station().at((eight * 8 + 4) * 24).do('oneOn')
    const ones = placePhrases(one.routine).map((p) => p.start / 24)
    const right = [...Array(8).keys()].map((k) => k * 8 + 4).filter((n) => n > eight * 8)
    expect(ones.filter((n) => n > eight * 8)).toEqual(right)
    expect([one.did, ones.filter((n) => n <= eight * 8)]).toEqual([
      ['the 1 from here on'],
      [...Array(eight + 1).keys()].map((k) => k * 8),
    ])
  })
})

describe('what an undo step is called', () => {
  it.each<[CountWork, string, number?]>([
    ['one', 'this is the 1', 72],
    ['oneOn', 'the 1 from here on', 72],
    ['earlier', 'all a count earlier'],
    ['later', 'all a count later'],
    ['bar', 'all half a phrase later'],
    ['fewer', 'a count fewer'],
    ['more', 'a count more'],
    ['split', 'split the phrase', 72],
    ['join', 'join two phrases'],
    ['four', '4 more counts'],
    ['feel', 'change the feel'],
    ['section', 'begin a section', 192],
    ['begin', 'the excerpt begins', 48],
    ['end', 'the excerpt ends', 480],
    ['sectionEarlier', 'the section begins a count earlier', 32 * 24],
    ['sectionLater', 'the section begins a count later', 32 * 24],
    ['part', 'begin a part'],
    ['sound', 'mark a sound'],
    ['double', 'twice the tempo'],
    ['halve', 'half the tempo'],
    ['half', 'half a beat later'],
    ['earlier10', 'the beat 10 ms earlier'],
    ['later10', 'the beat 10 ms later'],
    ['fromEarlier', 'the beat 10 ms earlier from here'],
    ['fromLater', 'the beat 10 ms later from here'],
    ['pin', 'pin this count', 48],
  ])('%s: “%s”', (what, did, tick = 0) => {
    expect(new Station().at(tick).do(what).did).toEqual([did])
  })
  it('moves the section of the cursor by one count, either way', () => {
    const from = (what: CountWork) =>
      new Station()
        .at(33 * 24)
        .do(what)
        .routine.sections.map((s) => s.at / 24)
    expect([from('sectionEarlier'), from('sectionLater')]).toEqual([
      [0, 31],
      [0, 33],
    ])
  })
  it('does nothing that breaks where nothing is counted', () => {
    const none = { ...laid, phrases: [], sections: [] }
    for (const what of ['fewer', 'feel', 'section', 'sectionLater', 'steady', 'heardHere', 'halve'] as const)
      expect(() => new Station(none).do(what)).not.toThrow()
  })
  it('makes the beats of the section even, and no others', () => {
    const wavy = new Station()
    for (const [beat, by] of [
      [4, 0.06],
      [40, 0.06],
    ] as const)
      wavy.at(beat * 24).send({ kind: 'drag', by })
    const times = (from: number, to: number) => wavy.seen.times.slice(from, to)
    const uneven = (list: readonly number[]) => {
      const gaps = list.slice(1).map((t, i) => t - (list[i] as number))
      return Math.max(...gaps) - Math.min(...gaps)
    }
    const [a, b] = [times(0, 31), times(33, 60)]
    wavy.at(0).do('steady')
    expect([uneven(a) > 0.001, uneven(times(0, 31)) < 1e-6]).toEqual([true, true])
    expect(times(33, 60)).toEqual(b)
    wavy.at(40 * 24).do('heardHere')
    expect(times(33, 60)).toEqual(BEATS.slice(33, 60))
    expect(uneven(times(0, 31))).toBeLessThan(1e-6)
  })
})

describe('what else was likely', () => {
  it('is offered until the person begins to repair, and the 1 only where it is as it was heard', () => {
    const names = (r: Routine) => otherWays(hearing, r).map((c) => c.name)
    expect(names(laid).length).toBeGreaterThan(0)
    expect(names({ ...laid, repairs: [{ kind: 'double' }] })).toEqual([])
    expect(otherWays(null, laid)).toEqual([])
    const moved = new Station().do('later').routine
    expect(names(moved).length).toBeLessThan(names(laid).length)
  })
  it('is heard one after the other, from press to press, and changes nothing', () => {
    const s = new Station()
    const ways = otherWays(hearing, laid).length
    for (let i = 0; i < ways + 1; i++) {
      s.do('otherWay')
      expect(s.effects.map((e) => e.kind)).toEqual(['play once'])
    }
    expect([s.state.nextWay, s.routine]).toEqual([ways + 1, laid])
    const none = new Station({ ...laid, repairs: [{ kind: 'double' }] })
    expect(none.do('otherWay').effects).toEqual([])
    expect(s.do('asCounted').effects.map((e) => e.kind)).toEqual(['play once'])
    const [way] = otherWays(hearing, laid)
    if (!way) throw new Error('no other way')
    expect(s.send({ kind: 'hear way', choice: way }).effects.map((e) => e.kind)).toEqual(['play once'])
    expect(s.send({ kind: 'take way', choice: way }).did).toEqual([way.name.toLowerCase()])
  })
  it('is asked for once where the song is in doubt: of its beat, or of its 1', () => {
    const of = (beats: number, one: number) => ({ ...hearing, confidence: { beats, one } })
    expect(question(hearing, laid)).toBeNull()
    expect(question(of(0.6, 0.9), laid)).toMatchObject({ doubt: { of: 'beat', sure: 0.6 } })
    expect(question(of(0.6, 0.3), laid)?.other.name).toBe('Twice as fast: 240 BPM')
    expect(question(of(0.9, 0.5), laid)?.other.name).toBe('The 1 is 4 counts later')
    const threes = { ...of(0.9, 0.5), bars: [{ bar: 3 as const, weight: 0.4, one: 1 }] }
    expect(question(threes, laid)?.other.name).toBe('Counted in threes')
    // What else it could be is not known, or a way was taken.
    expect(question({ ...of(0.6, 0.9), tempi: [] }, laid)).toBeNull()
    expect(question(of(0.6, 0.9), { ...laid, repairs: [{ kind: 'double' }] })).toBeNull()
    expect(question(null, laid)).toBeNull()
    // Said to be right as it is: of this hearing it is not asked again, of a newer one it is.
    const s = new Station().send({ kind: 'confirm' })
    expect([s.did, s.routine.phrases]).toEqual([['counted right'], laid.phrases])
    expect(question(of(0.6, 0.9), s.routine)).toBeNull()
    expect(question({ ...of(0.6, 0.9), version: 9 }, s.routine)).not.toBeNull()
    expect(otherWays(hearing, s.routine).length).toBe(otherWays(hearing, laid).length)
  })
  it('is two eights long, from a phrase on, and within the page', () => {
    const t = twoEights(hearing, laid)
    // Where the song is fullest: at the first phrase after its twentieth beat.
    expect([t?.counts.length, t?.from]).toEqual([16, 24 * 24])
    expect(twoEights(null, laid)).toBeNull()
    expect(twoEights({ ...hearing, beats: [] }, laid)).toBeNull()
    const short = { ...laid, phrases: laid.phrases.slice(0, 1), sections: [] }
    expect(twoEights(hearing, short)?.counts.length).toBe(8)
  })
})

describe('looking around', () => {
  it('begins with the first whole phrase in which a beat is heard, past a pick-up and a free beginning', () => {
    const page = (lengths: number[], sure: number[]) => {
      const starts = lengths.map((_, i) => lengths.slice(0, i).reduce((sum, n) => sum + n, 0))
      const routine: Routine = {
        ...laid,
        phrases: lengths.map((length) => ({ length, feel: 'straight', pickUp: false })),
      }
      const h: Hearing = {
        ...hearing,
        phrases: starts,
        confidence: { ...hearing.confidence, beats: 0.9 },
        sure: { beats: sure, ones: sure.map(() => 0.95) },
      }
      return firstPlace({ placed: placePhrases(routine), hearing: h, routine }) / 24
    }
    expect(page([8, 8, 8], [0.9, 0.9, 0.9])).toBe(0)
    expect(page([3, 8, 8], [0.9, 0.9, 0.9])).toBe(3)
    expect(page([3, 8, 8], [0.9, 0.1, 0.9])).toBe(11)
    // Where nothing is sure, or nothing whole, it begins as it may.
    expect(page([3, 8], [0.1, 0.1])).toBe(3)
    expect(page([3, 2], [0.9, 0.9])).toBe(0)
  })
  it('goes from one doubtful phrase to the next, and from the top again', () => {
    const s = new Station()
    expect([16, 40, 16].map(() => s.do('doubt').state.cursor.tick / 24)).toEqual([16, 40, 16])
    s.renumbered = true
    expect(nextDoubt(s.seen, 0)).toBeNull()
    expect(s.at(5).do('doubt').state.cursor.tick).toBe(5)
    expect(nextDoubt({ ...s.seen, renumbered: false, hearing: null }, 0)).toBeNull()
  })
  it('presses and pulls whole counts, and plays from there while the song plays', () => {
    const s = new Station().send({ kind: 'press', at: 60, shift: false })
    expect([s.state.cursor.tick, s.effects]).toEqual([48, []])
    s.send({ kind: 'press', at: 130, shift: true })
    expect(s.state.cursor.marked).toMatchObject({ from: 48, to: 144, layers: ['feet'] })
    s.send({ kind: 'press', at: 10, shift: false })
    expect(s.state.cursor.marked).toBeNull()
    s.send({ kind: 'pull', at: 50, first: true }).send({ kind: 'pull', at: 100, first: false })
    expect(s.state.cursor.marked).toMatchObject({ from: 0, to: 120 })
    s.state = { ...s.state, cursor: markStretch(s.state.cursor, { from: 0, to: 24 }) }
    s.playing = true
    s.send({ kind: 'press', at: 75, shift: false })
    expect([s.effects, s.state.cursor.marked]).toEqual([[{ kind: 'play from', tick: 72 }], null])
  })
  it('opens and closes what stands beside it; Escape closes that first, then unmarks', () => {
    const s = new Station().do('words').do('mark')
    expect([s.state.aside, s.state.cursor.marked?.from]).toEqual(['words', 0])
    s.send({ kind: 'escape' })
    expect([s.state.aside, s.state.cursor.marked?.from]).toEqual([null, 0])
    expect(s.send({ kind: 'escape' }).state.cursor.marked).toBeNull()
    expect(s.do('mark').do('mark').state.cursor.anchor).toBeNull()
    expect(s.do('files').state.aside).toBe('files')
    expect(s.send({ kind: 'close', what: 'aside' }).state.aside).toBeNull()
    expect(s.do('tap').state.tapping).toBe(true)
    expect(s.send({ kind: 'close', what: 'tapping' }).state.tapping).toBe(false)
  })
})
