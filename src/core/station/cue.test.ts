import { describe, expect, it } from 'vitest'
import { commit, copiedDance, danced, type Layer, placePhrases, type Routine, setRepeat } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { CUE_AT_FIRST, type CueEvent, type CueSeen, type CueState, cueHere, cuesAt, stepCue } from './cue'
import { draftFor } from './cue-draft'
import { NO_LINE } from './cue-line'
import { type CueEffect, whatToPaste } from './cue-work'
import { CURSOR, markStretch, moveTo } from './cursor'
import { linesOf } from './lines'

/** A Cue station with a page of its own: what it asks for is done, and what follows is told to it. */
class Station {
  routine: Routine
  state: CueState
  did: string[] = []
  effects: CueEffect[] = []
  findings: CueSeen['findings'] = []
  playing = false
  /** Edits are refused. */
  refusing = false
  readonly newId = ids('n')
  constructor(routine: Routine) {
    this.routine = routine
    const draft = draftFor(null, { cursor: CURSOR, beside: null }, null, this.newId)
    this.state = { ...CUE_AT_FIRST, cursor: CURSOR, line: NO_LINE, draft }
    this.follow()
  }
  get seen(): CueSeen {
    const placed = placePhrases(this.routine)
    return {
      routine: this.routine,
      placed,
      times: Array.from({ length: 200 }, (_, k) => k / 2),
      lines: linesOf(placed),
      shown: danced(this.routine),
      findings: this.findings,
      layers: ['feet', 'arms'],
      playing: this.playing,
      newId: this.newId,
    }
  }
  private follow() {
    const { here } = cueHere(this.seen.shown, this.state.cursor)
    this.state = { ...this.state, draft: draftFor(this.state.draft, this.state, here, this.newId) }
  }
  send(event: CueEvent): this {
    const { state, effects } = stepCue(this.state, event, this.seen)
    this.state = state
    this.follow()
    this.effects = [...effects]
    for (const e of effects) {
      if (e.kind !== 'edit' || this.refusing) continue
      const done = commit(this.routine, e.change)
      if (!done.done) continue
      this.routine = done.routine
      this.did.push(e.did)
      this.follow()
      const mine = this.effects
      if (e.after) this.send(e.after)
      this.effects = [...mine, ...this.effects]
    }
    return this
  }
  at(tick: number, layer: Layer = 'feet'): this {
    this.state = { ...this.state, cursor: moveTo(this.state.cursor, tick, layer) }
    this.follow()
    return this
  }
  get cursor() {
    const { tick, layer, cue } = this.state.cursor
    return [tick, layer, cue]
  }
  moves(layer: Layer = 'feet') {
    return danced(this.routine)
      .filter((c) => c.layer === layer)
      .map((c) => [c.at, c.move])
  }
}
const on = (lines: string | string[], eights = 4) => new Station(page(eights, cuesOf(lines)))
const kinds = (s: Station) => s.effects.map((e) => e.kind)

describe('what stands at a place', () => {
  const cues = danced(page(2, [...cuesOf('1 step; 3-4 roll; 6& clap'), ...cuesOf('1 reach', 'arms')]))
  it('is what starts there in the layer, else what lasts over it, else what starts within half a count', () => {
    const moves = (tick: number, layer: Layer = 'feet') => cuesAt(cues, tick, layer).map((c) => c.move)
    expect([moves(0), moves(0, 'arms'), moves(24)]).toEqual([['step'], ['reach'], []])
    expect([moves(48), moves(72), moves(132), moves(128)]).toEqual([['roll'], ['roll'], ['clap'], ['clap']])
    expect(moves(120)).toEqual([])
  })
  it('is the one that is named, else the first', () => {
    const two = danced(page(1, [...cuesOf('1 step L; 1 kick R')]))
    const at = (cue: string | null) => cueHere(two, { tick: 0, layer: 'feet', cue })
    expect(at(null).here?.move).toBe(at('none').stack[0]?.move)
    expect(at(two[1]?.id ?? null).here).toBe(at(null).stack[1])
  })
})

describe('up and down', () => {
  it('go through what stands at one place, the layers, and the lines', () => {
    const s = on('1 step L; 1 kick R')
    const [a, b] = cuesAt(s.seen.shown, 0, 'feet').map((c) => c.id)
    s.send({ kind: 'step', by: 1 })
    expect(s.cursor).toEqual([0, 'feet', b])
    s.send({ kind: 'step', by: -1 })
    expect(s.cursor).toEqual([0, 'feet', a])
    s.send({ kind: 'step', by: 1 }).send({ kind: 'step', by: 1 })
    expect(s.cursor).toEqual([0, 'arms', null])
    expect(s.at(24, 'whole').send({ kind: 'step', by: 1 }).cursor).toEqual([216, 'feet', null])
    expect(s.send({ kind: 'step', by: -1 }).cursor).toEqual([24, 'whole', null])
    // At both ends of the page it stays.
    expect(s.at(24, 'feet').send({ kind: 'step', by: -1 }).cursor).toEqual([24, 'feet', null])
    expect(s.at(700, 'whole').send({ kind: 'step', by: 1 }).cursor).toEqual([700, 'whole', null])
  })
})

describe('the panel', () => {
  it('opens where writing, marking and findings are', () => {
    const s = on('1 step')
    s.findings = [
      { at: 24, layer: 'arms', says: 'Too fast.' },
      { at: 96, layer: 'feet', says: 'On no foot.' },
    ]
    expect(s.send({ kind: 'next finding' }).effects).toEqual([{ kind: 'say', words: 'Too fast.' }])
    expect([s.state.tab, ...s.cursor]).toEqual(['checks', 24, 'arms', null])
    expect(s.send({ kind: 'next finding' }).cursor).toEqual([96, 'feet', null])
    expect(s.send({ kind: 'next finding' }).cursor).toEqual([24, 'arms', null])
    s.findings = []
    expect(s.send({ kind: 'next finding' }).cursor).toEqual([24, 'arms', null])
    expect(s.send({ kind: 'tab', tab: 'moves' }).state.tab).toBe('moves')
    s.send({ kind: 'go to finding', at: 48, layer: 'feet' })
    expect([s.state.tab, ...s.cursor]).toEqual(['checks', 48, 'feet', null])
    s.send({ kind: 'toggle mark' })
    expect([s.state.tab, s.state.cursor.marked]).toEqual(['cue', { from: 48, to: 72, layers: ['feet'] }])
    s.send({ kind: 'toggle mark' })
    expect(s.state.cursor.marked).toBeNull()
    s.send({ kind: 'tab', tab: 'eight' }).send({ kind: 'toggle mark' }).send({ kind: 'unmark' })
    expect([s.state.tab, s.state.cursor.anchor]).toEqual(['cue', null])
    const before = s.state.writing
    s.send({ kind: 'tab', tab: 'moves' }).send({ kind: 'write', another: false })
    expect([s.state.tab, s.state.writing, s.state.beside]).toEqual(['cue', before + 1, null])
    expect(s.send({ kind: 'replace', open: true }).state.replacing).toBe(true)
    expect(s.send({ kind: 'replace', open: false }).state.replacing).toBe(false)
  })
})

describe('pressing and pulling', () => {
  it('presses hits, and goes on to naming them or back to the sheet', () => {
    const s = new Station(page(2))
    s.send({ kind: 'tab', tab: 'moves' }).send({ kind: 'toggle mark' }).send({ kind: 'press hits' })
    expect([s.state.tab, s.state.pressing, s.state.cursor.marked]).toEqual(['cue', true, null])
    expect(s.send({ kind: 'name hits', from: 48 }).effects).toEqual([])
    expect([s.state.pressing, s.state.namingFrom]).toEqual([false, 48])
    expect(s.send({ kind: 'name hits', from: null }).effects).toEqual([{ kind: 'focus sheet later' }])
    s.send({ kind: 'name hits', from: 24 }).send({ kind: 'press hits' })
    expect(s.state.namingFrom).toBeNull()
  })
  it('goes to the place and its lane, plays from there while the song plays, and only over the sound', () => {
    const s = on('1 step')
    s.send({ kind: 'press', at: 60, layer: 'arms', shift: false })
    expect([s.cursor, kinds(s)]).toEqual([[60, 'arms', null], []])
    s.playing = true
    expect(kinds(s.send({ kind: 'press', at: 84, layer: 'arms', shift: false }))).toEqual([])
    s.send({ kind: 'press', at: 96, layer: undefined, shift: false })
    expect(s.effects).toEqual([{ kind: 'play from', tick: 96 }])
    expect(s.cursor).toEqual([96, 'arms', null])
  })
  it('marks what is pulled over: lanes, or over the sound all of them', () => {
    const s = on('1 step')
    s.send({ kind: 'press', at: 0, layer: 'feet', shift: false })
    s.send({ kind: 'tab', tab: 'eight' }).send({ kind: 'pull', at: 48, layer: 'arms', first: true })
    expect([s.state.tab, s.state.cursor.marked]).toEqual([
      'cue',
      { from: 0, to: 72, layers: ['feet', 'arms'] },
    ])
    s.send({ kind: 'pull', at: 24, layer: 'feet', first: false })
    expect(s.state.cursor.marked).toEqual({ from: 0, to: 48, layers: ['feet'] })
    s.send({ kind: 'press', at: 96, layer: undefined, shift: false })
    expect(s.state.cursor.marked).toBeNull()
    s.send({ kind: 'pull', at: 120, layer: undefined, first: true })
    expect(s.state.cursor.marked).toEqual({ from: 96, to: 144, layers: ['feet', 'arms'] })
  })
  it('means the cue that is pressed; with shift everything up to it', () => {
    const s = on('1 step; 3 kick')
    const [step, kick] = s.seen.shown
    if (!step || !kick) throw new Error('no cues')
    expect(s.send({ kind: 'press cue', cue: kick, shift: false }).cursor).toEqual([48, 'feet', kick.id])
    s.send({ kind: 'tab', tab: 'moves' }).send({ kind: 'press cue', cue: step, shift: true })
    expect([s.state.tab, s.state.cursor.marked]).toEqual(['cue', { from: 0, to: 72, layers: ['feet'] }])
  })
})

describe('work on cues', () => {
  it('copies all roles and versions, also those that are not shown: pasting takes none away', () => {
    const s = on('1 step L; 1 hop L #easier; 3 kick @rows')
    const hidden = s.seen.shown.filter((c) => c.option !== 'easier' && !c.role)
    const own = Object.getOwnPropertyDescriptor(Station.prototype, 'seen')?.get as () => CueSeen
    Object.defineProperty(s, 'seen', { get: () => ({ ...own.call(s), shown: hidden }) })
    s.at(96).send({ kind: 'work', work: 'copy' })
    const [kept] = s.effects
    expect(kept?.kind === 'keep copied' && kept.copied.cues.map((c) => c.move)).toEqual([
      'step',
      'hop',
      'kick',
    ])
    s.send({ kind: 'work', work: 'duplicate' })
    expect(s.moves().map(([, move]) => move)).toEqual(['step', 'hop', 'kick', 'step', 'hop', 'kick'])
  })
  it('lays moves written elsewhere with their 1 on that of the phrase, and their pick-up before it', () => {
    const elsewhere = on(['8 jump', '1 step R; 5 turn L']).routine
    const laid = copiedDance(elsewhere)
    expect([laid.length, laid.cues.map((c) => [c.at, c.move])]).toEqual([
      192,
      [
        [-24, 'jump'],
        [0, 'step'],
        [96, 'turn'],
      ],
    ])
    const s = on(['', '1 old; 8 old too'])
    s.at(250).send({ kind: 'work', work: 'lay', from: laid, name: 'Turns' })
    expect(s.moves()).toEqual([
      [168, 'jump'],
      [192, 'step'],
      [288, 'turn'],
    ])
    expect(s.cursor[0]).toBe(192)
    // There is nothing before the first count.
    const first = on('1 old')
    first.at(0).send({ kind: 'work', work: 'lay', from: laid, name: 'Turns' })
    expect(first.moves().map(([, move]) => move)).toEqual(['step', 'turn'])
  })
  const take = { kind: 'work', work: 'take away' } as const
  it('is done to what is marked, else to the cue here, else to the phrase, and says so', () => {
    const s = on('1 step L; 2 touch; 3 kick')
    s.send(take)
    expect([s.moves(), s.did]).toEqual([
      [
        [24, 'touch'],
        [48, 'kick'],
      ],
      ['delete “step”'],
    ])
    s.state = { ...s.state, cursor: markStretch(s.state.cursor, { from: 0, to: 48 }) }
    s.send({ kind: 'work', work: 'mirror' }).send({ kind: 'work', work: 'cut' })
    expect(s.did.slice(1)).toEqual(['what is marked to the other side', 'cut what is marked'])
    expect(s.moves()).toEqual([[48, 'kick']])
    s.send({ kind: 'unmark' }).at(96).send({ kind: 'work', work: 'mirror' })
    expect(s.did.at(-1)).toBe('the phrase to the other side')
    // Nothing here and nothing marked: nothing is deleted.
    expect(s.at(96).send(take).did).toHaveLength(4)
  })
  it('mirrors one cue alone, and the whole phrase where that is asked', () => {
    const s = on('1 step L; 2 touch L')
    const sides = () => danced(s.routine).map((c) => c.side)
    s.send({ kind: 'work', work: 'mirror' })
    expect([sides(), s.did]).toEqual([['right', 'left'], ['“step” to the other side']])
    expect(s.send({ kind: 'work', work: 'mirror phrase' }).did.at(-1)).toBe('the phrase to the other side')
    expect(sides()).toEqual(['left', 'right'])
  })
  it('copies of several at one place the one that is meant, and pastes it where the cursor is', () => {
    const s = on('1 step L; 1 kick R')
    s.send({ kind: 'step', by: 1 }).send({ kind: 'work', work: 'copy' })
    const [kept] = s.effects
    if (kept?.kind !== 'keep copied') throw new Error('nothing copied')
    expect(kept.copied.cues).toHaveLength(1)
    s.at(96).send({ kind: 'work', work: 'paste', from: kept.copied })
    expect(s.moves().at(-1)).toEqual([96, kept.copied.cues[0]?.move])
  })
  it('pastes a whole phrase to the beginning of one, a text as it is read, and refuses what is none', () => {
    const s = on('1 step; 5 kick')
    s.at(72).send({ kind: 'work', work: 'copy' })
    const [kept] = s.effects
    if (kept?.kind !== 'keep copied') throw new Error('nothing copied')
    s.at(192 + 72).send({ kind: 'work', work: 'paste', from: kept.copied })
    expect(s.moves().slice(2)).toEqual([
      [192, 'step'],
      [288, 'kick'],
    ])
    s.at(384, 'arms').send({ kind: 'work', work: 'paste', from: '1 reach' })
    expect(s.moves('arms')).toEqual([[384, 'reach']])
    const before = s.routine
    expect(s.send({ kind: 'work', work: 'paste', from: '99 what' }).routine).toBe(before)
  })
  it('copies to the next phrase and goes there; after the last there is none', () => {
    const s = on('1 step', 2)
    s.at(24).send({ kind: 'work', work: 'duplicate' })
    expect([s.moves(), s.cursor, s.did]).toEqual([
      [
        [0, 'step'],
        [192, 'step'],
      ],
      [192, 'feet', null],
      ['copy to the next phrase'],
    ])
    expect(s.at(216).send({ kind: 'work', work: 'duplicate' }).effects).toEqual([])
  })
  it('moves the cue here and goes along; refused, it stays where it is', () => {
    const s = on('1 step')
    s.send({ kind: 'work', work: 'shift', by: 12 })
    expect([s.moves(), s.cursor[0]]).toEqual([[[12, 'step']], 12])
    s.send({ kind: 'work', work: 'shift', by: -24 })
    expect([s.moves(), s.cursor[0]]).toEqual([[[12, 'step']], 12])
    s.send({ kind: 'work', work: 'lengthen', by: 12 }).send({ kind: 'work', work: 'lengthen', by: -6 })
    expect([danced(s.routine)[0]?.length, s.did.slice(1)]).toEqual([30, ['a longer cue', 'a shorter cue']])
    expect(s.at(96).send({ kind: 'work', work: 'shift', by: 12 }).effects).toEqual([])
    expect(s.send({ kind: 'work', work: 'lengthen', by: 12 }).effects).toEqual([])
  })
  it('pulls a cue along its lane or at its end; one that is linked stays', () => {
    const r = setRepeat(
      page(2, cuesOf('1 step')),
      { id: 'r', to: { from: 192, to: 384 }, from: 0, mirrored: false },
      ids('cut'),
    )
    const s = new Station(r)
    const [own, linked] = s.seen.shown
    if (!own || !linked) throw new Error('no cues')
    for (const work of ['pull along', 'pull end'] as const)
      expect(s.send({ kind: 'work', work, cue: linked, by: 24 }).effects).toEqual([])
    expect(s.at(192).send({ kind: 'work', work: 'shift', by: 24 }).effects).toEqual([])
    expect(s.send({ kind: 'work', work: 'lengthen', by: 24 }).effects).toEqual([])
    s.send({ kind: 'work', work: 'pull end', cue: own, by: 12 })
    s.send({ kind: 'work', work: 'pull along', cue: own, by: 48 })
    expect([s.did, s.cursor]).toEqual([
      ['stretch a cue', 'move a cue'],
      [48, 'feet', null],
    ])
    expect(s.moves()).toEqual([
      [48, 'step'],
      [240, 'step'],
    ])
    // Taken away here alone: where it comes from it stays.
    s.at(240).send(take)
    expect(s.moves()).toEqual([[48, 'step']])
  })
})

describe('writing', () => {
  it('a line goes on to the next one only when the edit was taken, and then gives the keys back', () => {
    const s = on(['1 step', '1 kick'])
    s.at(24).send({ kind: 'line', line: 'open', tick: 24, layer: 'feet' })
    expect([s.state.line.open?.text, s.cursor, kinds(s)]).toEqual(['1 step', [0, 'feet', null], []])
    s.send({ kind: 'line', line: 'type', text: '1 hop; 3 hold' })
    s.refusing = true
    s.send({ kind: 'line', line: 'keep', go: 'phrase+' })
    expect(s.state.line.open).toMatchObject({ phrase: 0, text: '1 hop; 3 hold' })
    s.refusing = false
    s.send({ kind: 'line', line: 'keep', go: 'phrase+' })
    expect([s.did, s.moves().slice(0, 2), s.cursor]).toEqual([
      ['write a line of feet'],
      [
        [0, 'hop'],
        [48, 'hold'],
      ],
      [192, 'feet', null],
    ])
    expect(kinds(s)).toEqual(['edit', 'wrote a line'])
    s.send({ kind: 'line', line: 'type', text: '' }).send({ kind: 'line', line: 'keep', go: 'stay' })
    expect([kinds(s), s.state.line.open]).toEqual([['edit', 'focus sheet later'], null])
    expect(kinds(s.send({ kind: 'line', line: 'leave' }))).toEqual(['focus sheet later'])
  })
  it('a cue is set in the fields, and the cursor goes on', () => {
    const s = on('1 step')
    s.at(48).send({ kind: 'draft', draft: 'write', what: { move: 'kick L' } })
    expect(s.state.draft).toMatchObject({ of: '48 feet', move: 'kick L' })
    s.send({ kind: 'draft', draft: 'enter' })
    expect([s.did, s.moves(), s.cursor]).toEqual([
      ['cue “kick”'],
      [
        [0, 'step'],
        [48, 'kick'],
      ],
      [72, 'feet', null],
    ])
    expect(kinds(s)).toEqual(['edit', 'focus sheet'])
    expect(s.state.draft).toMatchObject({ of: '72 feet', move: '' })
  })
  it('another is begun beside the one that stands there, and is the one that is meant then', () => {
    const s = on('1 step')
    s.send({ kind: 'write', another: true })
    expect([s.state.beside, s.state.draft.of]).toEqual([{ tick: 0, layer: 'feet' }, 'another 0 feet'])
    // Set in the fields: its own cue, and the first stays as it was.
    const step = s.seen.shown[0]
    if (!step) throw new Error('no cue')
    s.send({ kind: 'draft', draft: 'change', cue: step, what: { tip: 'low' }, did: 'change the tip' })
    expect([s.state.beside, s.cursor]).toEqual([null, [0, 'feet', step.id]])
    s.send({ kind: 'write', another: true }).at(24)
    expect(s.state.draft.of).toBe('24 feet')
    expect(s.send({ kind: 'written', id: 'x' }).cursor).toEqual([24, 'feet', null])
    expect(s.send({ kind: 'write', another: false }).state.beside).toBeNull()
  })
  it('follows a cue that is rewritten by undo or elsewhere', () => {
    const s = on('1 step')
    s.send({ kind: 'draft', draft: 'write', what: { move: 'typed' } })
    const cue = s.routine.cues[0]
    if (!cue) throw new Error('no cue')
    s.routine = { ...s.routine, cues: [{ ...cue, move: 'hop' }] }
    expect(s.send({ kind: 'tab', tab: 'cue' }).state.draft.move).toBe('hop')
  })
})

describe('what is pasted', () => {
  const copied = { length: 24, cues: [] }
  it('is what was copied here, where the clipboard has its text or was not asked; else the text', () => {
    const kept = { copied, text: '1 step\n2 touch' }
    expect(whatToPaste(undefined, kept)).toBe(copied)
    expect(whatToPaste('  ', kept)).toBe(copied)
    expect(whatToPaste('1 step\r\n2 touch\r\n', kept)).toBe(copied)
    expect(whatToPaste('1 kick', kept)).toBe('1 kick')
    expect(whatToPaste(undefined, { copied: null, text: '' })).toBeNull()
  })
})
