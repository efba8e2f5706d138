import { describe, expect, it } from 'vitest'
import { placePhrases } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import {
  isSeveralLines,
  leftBefore,
  NO_LINE,
  previewLine,
  readLines,
  readOpenLine,
  stepLine,
} from './cue-line'

const routine = page(3, [...cuesOf(['1 step; 2 touch', '1 kick']), ...cuesOf('1 reach', 'arms')])
const placed = placePhrases(routine)
const times = Array.from({ length: 65 }, (_, k) => k / 2)
const seen = { routine, placed, times, newId: ids('n') }
const open = (tick = 0, layer: 'feet' | 'arms' | 'whole' = 'feet') =>
  stepLine(NO_LINE, { line: 'open', tick, layer }, seen).line
const typed = (text: string, tick = 0) => stepLine(open(tick), { line: 'type', text }, seen).line

describe('pasted lines', () => {
  it('go to phrases one after another, and to the layers they name', () => {
    expect(readLines('1 step\narms: 2 clap\n\nfeet: 1 touch\n1 hold\n', 'feet')).toEqual([
      { row: 0, layer: 'feet', text: '1 step' },
      { row: 0, layer: 'arms', text: '2 clap' },
      { row: 1, layer: 'feet', text: '1 touch' },
      { row: 2, layer: 'feet', text: '1 hold' },
    ])
    expect(readLines('\n\n Head : 1 look left', 'arms')).toEqual([
      { row: 0, layer: 'head', text: '1 look left' },
    ])
    expect(readLines('', 'feet')).toEqual([])
  })
  it('are several where more than one says something', () => {
    expect(['a\nb', 'a \n\n b', 'a\r\nb'].map(isSeveralLines)).toEqual([true, true, true])
    expect(['a', 'a\n', '\na', ' \n '].map(isSeveralLines)).toEqual([false, false, false, false])
  })
})

describe('a line', () => {
  it('opens with what stands in its layer, at the beginning of its phrase', () => {
    const at = stepLine({ ...NO_LINE, problem: 'before' }, { line: 'open', tick: 200, layer: 'feet' }, seen)
    expect(at.line).toMatchObject({
      open: { phrase: 192, layer: 'feet', text: '1 kick' },
      began: 'feet',
      problem: '',
    })
    expect(at.to).toEqual({ tick: 192, layer: 'feet' })
    expect(open(0, 'arms').open?.text).toBe('1 reach')
    expect(
      stepLine(NO_LINE, { line: 'open', tick: 0, layer: 'feet' }, { ...seen, placed: [] }).line.open,
    ).toBeNull()
  })
  it('opens first where the dance begins, after a pick-up', () => {
    const r = { ...routine, excerpt: { from: 200, to: 500 } }
    const first = stepLine(NO_LINE, { line: 'open first' }, { ...seen, routine: r })
    expect(first.line.open).toMatchObject({ phrase: 192, layer: 'feet' })
    expect(stepLine(NO_LINE, { line: 'open first' }, { ...seen, placed: [] }).line).toBe(NO_LINE)
  })
  it('is read and shown while it is typed; one that cannot be read shows what was there', () => {
    const good = typed('1 hop; 3 hold')
    const read = readOpenLine(good, seen)
    expect(read && 'cues' in read && read.cues.map((c) => c.move)).toEqual(['hop', 'hold'])
    const shown = previewLine(good, read, { ...seen, newId: ids('p') }).cues.filter((c) => c.layer === 'feet')
    expect(shown.map((c) => c.move).sort()).toEqual(['hold', 'hop', 'kick'])
    const bad = typed('99 hop')
    const unread = readOpenLine(bad, seen)
    expect(unread && 'problem' in unread).toBe(true)
    expect(previewLine(bad, unread, seen)).toBe(routine)
    expect(previewLine(NO_LINE, null, seen)).toBe(routine)
    expect(readOpenLine(NO_LINE, seen)).toBeNull()
    // Nothing is typed where no line is open.
    expect(stepLine(NO_LINE, { line: 'type', text: 'x' }, seen).line).toBe(NO_LINE)
  })
  it('is kept by an edit, and goes on only when that was taken', () => {
    const line = typed('1 hop')
    const asked = stepLine(line, { line: 'keep', go: 'phrase+' }, seen)
    expect([asked.line, asked.closed, asked.to]).toEqual([line, false, null])
    expect(asked.edit?.did).toBe('write a line of feet')
    expect(asked.edit?.after).toEqual({ line: 'kept', go: 'phrase+', wrote: true })
    const done = asked.edit?.change(routine)
    expect(done && 'cues' in done && done.cues.filter((c) => c.at < 192 && c.layer === 'feet')).toHaveLength(
      1,
    )
    expect(stepLine(typed('99 no'), { line: 'keep', go: 'stay' }, seen).edit).toBeNull()
    expect(stepLine(NO_LINE, { line: 'keep', go: 'stay' }, seen).edit).toBeNull()
    // An empty line empties its layer; nothing was written.
    expect(stepLine(typed(''), { line: 'keep', go: 'stay' }, seen).edit?.after).toMatchObject({
      wrote: false,
    })
  })
  it('leads to the next layer or phrase, or back to the sheet, where the first line was begun', () => {
    const line = typed('1 hop')
    const kept = (go: 'stay' | 'layer+' | 'layer-' | 'phrase+' | 'phrase-', from = line) =>
      stepLine(from, { line: 'kept', go, wrote: true }, seen)
    expect(kept('layer+')).toMatchObject({
      line: { open: { phrase: 0, layer: 'arms', text: '1 reach' } },
      wrote: true,
    })
    expect(kept('layer-')).toMatchObject({ line: { open: null }, closed: true })
    expect(kept('phrase+').line.open).toMatchObject({ phrase: 192, text: '1 kick' })
    expect(kept('phrase-')).toMatchObject({ line: { open: null }, closed: true })
    const up = kept('layer+').line
    expect(kept('stay', up)).toMatchObject({
      line: { open: null },
      to: { tick: 0, layer: 'feet' },
      closed: true,
    })
    expect(kept('stay', NO_LINE).line).toBe(NO_LINE)
    expect(kept('phrase+', typed('', 384))).toMatchObject({ line: { open: null }, closed: true })
  })
  it('that is left is offered when it is opened again, until it is kept, and stands in the way of nothing', () => {
    const left = stepLine(typed('1 hop'), { line: 'leave' }, seen)
    expect([left.closed, left.line.open]).toEqual([true, null])
    const offered = stepLine(left.line, { line: 'open', tick: 0, layer: 'feet' }, seen).line
    expect([offered.open?.text, leftBefore(offered)]).toEqual(['1 step; 2 touch', '1 hop'])
    // Looked at and left again it is still offered; elsewhere it is not.
    const looked = stepLine(offered, { line: 'leave' }, seen).line
    expect(leftBefore(stepLine(looked, { line: 'open', tick: 0, layer: 'feet' }, seen).line)).toBe('1 hop')
    expect(leftBefore(stepLine(looked, { line: 'open', tick: 0, layer: 'arms' }, seen).line)).toBeNull()
    const again = stepLine(offered, { line: 'take back' }, seen).line
    expect([again.open?.text, leftBefore(again)]).toEqual(['1 hop', null])
    expect(stepLine(again, { line: 'take back' }, seen).line).toBe(again)
    const kept = stepLine(again, { line: 'kept', go: 'stay', wrote: true }, seen).line
    expect(stepLine(kept, { line: 'open', tick: 0, layer: 'feet' }, seen).line.open?.text).toBe(
      '1 step; 2 touch',
    )
    // What was not changed is no draft.
    expect(stepLine(open(), { line: 'leave' }, seen).line.drafts).toEqual({})
    expect(stepLine(NO_LINE, { line: 'leave' }, seen)).toMatchObject({ closed: true })
  })
  it('takes several pasted lines at once, or none of them', () => {
    const text = '1 hop\narms: 1 clap\n1 turn'
    const asked = stepLine(open(), { line: 'paste', text }, seen)
    expect(asked.edit).toMatchObject({ did: 'paste 3 lines', after: { line: 'pasted' } })
    const next = asked.edit?.change(routine)
    const moves = next && 'cues' in next ? next.cues.map((c) => `${c.at} ${c.layer} ${c.move}`).sort() : []
    expect(moves).toEqual(['0 arms clap', '0 feet hop', '192 feet turn'])
    const bad = stepLine(open(), { line: 'paste', text: '1 hop\n\n99 no' }, seen)
    expect([bad.edit, bad.line.open?.layer]).toEqual([null, 'feet'])
    expect(bad.line.problem).toMatch(/^“99 no” was not taken: .*\. Nothing was changed\.$/)
    expect(stepLine(bad.line, { line: 'pasted' }, seen)).toMatchObject({
      line: { open: null, problem: '' },
      closed: true,
    })
    // Beyond the last phrase nothing is kept; one line is typed, not pasted.
    expect(stepLine(open(384), { line: 'paste', text: '1 a\n\n1 b\n\n1 c' }, seen).edit?.did).toBe(
      'paste 3 lines',
    )
    expect(stepLine(open(), { line: 'paste', text: '1 hop' }, seen).edit).toBeNull()
    expect(stepLine(NO_LINE, { line: 'paste', text }, seen).edit).toBeNull()
  })
})
