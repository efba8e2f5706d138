import { describe, expect, it } from 'vitest'
import { commit, type DancedCue, danced, placePhrases, type Routine, setRepeat } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { cueOfFields, type Draft, type DraftEvent, draftFor, readSide, stepDraft } from './cue-draft'
import type { CueEffect } from './cue-work'
import { CURSOR, moveTo } from './cursor'
import { linesOf } from './lines'

const routine = page(2, cuesOf('1 step L; 2 touch'))
const lines = linesOf(placePhrases(routine))
const newId = ids('n')
const [step, touch] = danced(routine) as [DancedCue, DancedCue]
const place = (tick: number, beside: { tick: number; layer: string } | null = null) => ({
  cursor: moveTo(CURSOR, tick),
  beside,
})
const of = (cue: DancedCue | null, tick = cue?.at ?? 96) => draftFor(null, place(tick), cue, newId)
const run = (draft: Draft, event: DraftEvent, cue: DancedCue | null, tick = cue?.at ?? 96) =>
  stepDraft(draft, event, moveTo(CURSOR, tick), cue, { lines, newId })
const write = (draft: Draft, what: Partial<Pick<Draft, 'move' | 'call' | 'side'>>) =>
  run(draft, { draft: 'write', what }, null).draft
const edited = (effects: readonly CueEffect[], from: Routine = routine): Routine => {
  const [e] = effects
  if (e?.kind !== 'edit') throw new Error('no edit')
  const done = commit(from, e.change)
  return done.done ? done.routine : from
}
const kinds = (effects: readonly CueEffect[]) => effects.map((e) => (e.kind === 'edit' ? e.did : e.kind))

describe('the fields of a cue', () => {
  it('begin with what it says, and anew with another cue or place', () => {
    const first = of(step)
    expect(first).toMatchObject({ of: step.id, move: 'step', call: '', side: 'none', kept: null })
    const typed = write(first, { move: 'ste', call: 'x' })
    expect(draftFor(typed, place(0), step, newId)).toBe(typed)
    expect(draftFor(typed, place(24), touch, newId)).toMatchObject({ of: touch.id, move: 'touch', call: '' })
    const empty = draftFor(typed, place(96), null, newId)
    expect([empty.of, empty.move]).toEqual(['96 feet', ''])
    expect(draftFor(write(empty, { move: 'hop' }), place(120), null, newId).move).toBe('')
  })
  it('follow what the cue says, each by itself', () => {
    const typed = write(of(step), { move: 'typed', call: 'typed' })
    expect(draftFor(typed, place(0), { ...step, move: 'kick' }, newId)).toMatchObject({
      move: 'kick',
      call: 'typed',
    })
    expect(draftFor(typed, place(0), { ...step, call: 'now' }, newId)).toMatchObject({
      move: 'typed',
      call: 'now',
    })
  })
  it('are of a new cue where another is begun beside the one that stands there', () => {
    const beside = { tick: 0, layer: 'feet' }
    expect(cueOfFields(place(0, beside), step)).toBeNull()
    expect(cueOfFields(place(24, beside), touch)).toBe(touch)
    expect(cueOfFields(place(0, { tick: 0, layer: 'arms' }), step)).toBe(step)
    expect(draftFor(null, place(0, beside), step, newId)).toMatchObject({ of: 'another 0 feet', move: '' })
  })
})

describe('a cue that is there', () => {
  it('is rewritten once by Enter and the leaving after it, and again when it is written again', () => {
    const typed = write(of(step), { move: ' kick R ' })
    const enter = run(typed, { draft: 'enter' }, step)
    expect(kinds(enter.effects)).toEqual(['rewrite a cue', 'focus sheet'])
    expect(edited(enter.effects).cues.find((c) => c.id === step.id)).toMatchObject({
      move: 'kick',
      side: 'right',
    })
    expect(enter.cursor.tick).toBe(0)
    expect(run(enter.draft, { draft: 'leave move' }, step).effects).toEqual([])
    const again = write(enter.draft, { move: 'hop' })
    expect(kinds(run(again, { draft: 'leave move' }, step).effects)).toEqual(['rewrite a cue'])
  })
  it('keeps its move where nothing or the same is written, and its side where none is', () => {
    const empty = run(write(of(step), { move: '  ' }), { draft: 'leave move' }, step)
    expect([empty.draft.move, empty.effects]).toEqual(['step', []])
    expect(run(of(step), { draft: 'leave move' }, step).effects).toEqual([])
    const side = edited(run(write(of(step), { move: 'hop' }), { draft: 'leave move' }, step).effects)
    expect(side.cues.find((c) => c.id === step.id)?.side).toBe('left')
    expect(run(write(of(step), { move: 'x' }), { draft: 'give up' }, step)).toMatchObject({
      draft: { move: 'step' },
      effects: [{ kind: 'focus sheet' }],
    })
  })
  it('has another call, or something else, where that is changed', () => {
    const call = run(write(of(step), { call: ' go ' }), { draft: 'leave call' }, step)
    expect(edited(call.effects).cues.find((c) => c.id === step.id)?.call).toBe('go')
    expect(run(of(step), { draft: 'leave call' }, step).effects).toEqual([])
    expect(run(write(of(null), { call: 'go' }), { draft: 'leave call' }, null).effects).toEqual([])
    const tip = run(
      of(touch),
      { draft: 'change', cue: step, what: { tip: 'low' }, did: 'change the tip' },
      touch,
    )
    expect(kinds(tip.effects)).toEqual(['change the tip'])
    expect(edited(tip.effects).cues.find((c) => c.id === step.id)?.tip).toBe('low')
    expect(tip.effects[0]).toMatchObject({ after: { kind: 'written', id: step.id } })
  })
  it('does not come back where it was taken away meanwhile', () => {
    const { effects } = run(of(step), { draft: 'change', cue: step, what: { tip: 'low' }, did: 'x' }, step)
    const without = { ...routine, cues: routine.cues.filter((c) => c.id !== step.id) }
    expect(edited(effects, without)).toBe(without)
  })
  it('becomes one of its own where it was linked: however often it is changed, one', () => {
    const to = { from: 192, to: 384 }
    const r = setRepeat(routine, { id: 'r', to, from: 0, mirrored: false }, ids('cut'))
    const linked = danced(r).find((c) => c.link) as DancedCue
    const draft = of(linked)
    const one = run(
      draft,
      { draft: 'change', cue: linked, what: { side: 'right' }, did: 'change the side' },
      linked,
    )
    const two = run(
      draft,
      { draft: 'change', cue: linked, what: { tip: 'x' }, did: 'change the tip' },
      linked,
    )
    expect(kinds(one.effects)).toEqual(['change the side here only'])
    const both = edited(two.effects, edited(one.effects, r))
    expect(both.cues.filter((c) => c.at === linked.at)).toHaveLength(1)
    // Of one whose fields are shown no longer, an id of its own.
    const late = run(of(touch), { draft: 'change', cue: linked, what: { tip: 'x' }, did: 'x' }, touch)
    expect(edited(late.effects, r).cues.filter((c) => c.at === linked.at)).toHaveLength(1)
  })
})

describe('a new cue', () => {
  it('is set at the cursor with the side behind its move, and the cursor goes on to the next count', () => {
    const typed = write(of(null), { move: 'step LR', call: ' one ' })
    const { effects, cursor } = run(typed, { draft: 'enter' }, null)
    expect(kinds(effects)).toEqual(['cue “step”', 'focus sheet'])
    const made = edited(effects).cues.at(-1)
    expect(made).toMatchObject({ at: 96, length: 24, layer: 'feet', move: 'step', side: 'both', call: 'one' })
    expect(cursor.tick).toBe(120)
    const half = run(write(of(null, 108), { move: 'clap', side: 'left' }), { draft: 'enter' }, null, 108)
    expect(edited(half.effects).cues.at(-1)).toMatchObject({ at: 108, length: 12, side: 'left' })
    expect(half.cursor.tick).toBe(120)
  })
  it('is nothing without a move; at the last count the cursor stays on the page', () => {
    expect(run(write(of(null), { move: ' ' }), { draft: 'enter' }, null)).toMatchObject({ effects: [] })
    expect(run(write(of(null, 372), { move: 'hop' }), { draft: 'enter' }, null, 372).cursor.tick).toBe(372)
    expect(run(write(of(null), { move: 'hop' }), { draft: 'leave move' }, null).effects).toEqual([])
  })
})

describe('a side behind a move', () => {
  it('is L, R or LR after a blank, and part of the move anywhere else', () => {
    expect(
      ['step L', 'step R', 'step LR', 'step', 'L', 'stepL', 'step L now', 'step  L'].map(readSide),
    ).toEqual([
      { move: 'step', side: 'left' },
      { move: 'step', side: 'right' },
      { move: 'step', side: 'both' },
      { move: 'step', side: null },
      { move: 'L', side: null },
      { move: 'stepL', side: null },
      { move: 'step L now', side: null },
      { move: 'step', side: 'left' },
    ])
  })
})
