import { describe, expect, it } from 'vitest'
import { placePhrases } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { leftBefore, leftLines, NO_LINE, previewLine, readOpenLine, readSeveral, stepLine } from './cue-line'
import { MOST_PASTED } from './pasted-lines'

const routine = page(3, [...cuesOf(['1 step; 2 touch', '1 kick']), ...cuesOf('1 reach', 'arms')])
const placed = placePhrases(routine)
const times = Array.from({ length: 65 }, (_, k) => k / 2)
const seen = { routine, placed, times, newId: ids('n') }
const open = (tick = 0, layer: 'feet' | 'arms' | 'whole' = 'feet') =>
  stepLine(NO_LINE, { line: 'open', tick, layer }, seen).line
const typed = (text: string, tick = 0) => stepLine(open(tick), { line: 'type', text }, seen).line

describe('a line', () => {
  it('opens with what stands in its layer, at the beginning of its phrase', () => {
    const at = stepLine(NO_LINE, { line: 'open', tick: 200, layer: 'feet' }, seen)
    expect(at.line).toMatchObject({
      open: { phrase: 192, layer: 'feet', text: '1 kick' },
      began: 'feet',
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
    // The same is left where the whole station is.
    expect(leftLines(typed('1 hop'), seen)).toEqual(left.line.drafts)
    expect([leftLines(kept, seen), leftLines(open(), seen)]).toEqual([{}, {}])
    // What was not changed is no draft.
    expect(stepLine(open(), { line: 'leave' }, seen).line.drafts).toEqual({})
    expect(stepLine(NO_LINE, { line: 'leave' }, seen)).toMatchObject({ closed: true })
  })
  it('that is open already, and asked for again, gets the keys as it is', () => {
    const line = typed('1 hop')
    const again = stepLine(line, { line: 'open', tick: 30, layer: 'feet' }, seen)
    expect(again.line).toEqual({ ...line, asked: line.asked + 1 })
    expect(again.to).toEqual({ tick: 0, layer: 'feet' })
    const pasted = stepLine(line, { line: 'paste', text: '1 a\n1 b' }, seen).line
    expect(stepLine(pasted, { line: 'open', tick: 30, layer: 'feet' }, seen).line.several).toBe('1 a\n1 b')
  })
  it('that is open while another is opened is left, not lost', () => {
    const other = stepLine(typed('1 hop'), { line: 'open', tick: 200, layer: 'arms' }, seen).line
    expect(other.open).toMatchObject({ phrase: 192, layer: 'arms' })
    const back = stepLine(other, { line: 'open', tick: 0, layer: 'feet' }, seen).line
    expect([back.open?.text, leftBefore(back)]).toEqual(['1 step; 2 touch', '1 hop'])
    const text = '1 hop\n1 turn'
    const pasted = stepLine(open(), { line: 'paste', text }, seen).line
    const beside = stepLine(pasted, { line: 'open', tick: 200, layer: 'feet' }, seen).line
    expect([beside.several, beside.open?.phrase]).toEqual([null, 192])
    expect(leftBefore(stepLine(beside, { line: 'open', tick: 0, layer: 'feet' }, seen).line)).toBe(text)
  })
  it('whose phrase went away meanwhile is left with what was pasted into it', () => {
    const pasted = stepLine(open(384), { line: 'paste', text: '1 hop\n1 turn' }, seen).line
    const gone = { ...seen, placed: placed.slice(0, 2) }
    expect(readSeveral(pasted, gone)).toBeNull()
    expect(stepLine(pasted, { line: 'keep', go: 'stay' }, gone).edit).toBeNull()
    const left = stepLine(pasted, { line: 'leave' }, gone)
    expect(left).toMatchObject({ closed: true, line: { open: null, several: null } })
    expect(leftBefore(stepLine(left.line, { line: 'open', tick: 384, layer: 'feet' }, seen).line)).toBe(
      '1 hop\n1 turn',
    )
  })
  it('takes several pasted lines, shown first: all at once, or none of them', () => {
    const text = '1 hop\narms: 1 clap\n1 turn'
    const asked = stepLine(open(), { line: 'paste', text }, seen)
    // Nothing is done before it is asked for.
    expect(asked).toMatchObject({ edit: null, closed: false, line: { several: text } })
    const shown = readSeveral(asked.line, seen)
    expect(shown?.list.map((l) => [l.phrase?.index, l.layer, l.cues])).toEqual([
      [0, 'feet', 1],
      [0, 'arms', 1],
      [1, 'feet', 1],
    ])
    const keep = stepLine(asked.line, { line: 'keep', go: 'stay' }, seen)
    expect(keep.edit?.did).toBe('paste 3 lines')
    const next = keep.edit?.change(routine)
    const moves = next && 'cues' in next ? next.cues.map((c) => `${c.at} ${c.layer} ${c.move}`).sort() : []
    expect(moves).toEqual(['0 arms clap', '0 feet hop', '192 feet turn'])
    expect(next).toMatchObject({ cues: expect.arrayContaining([expect.objectContaining({ move: 'hop' })]) })
    const kept = keep.edit && stepLine(keep.line, keep.edit.after, seen)
    expect(kept).toMatchObject({ line: { open: null, several: null }, closed: true, wrote: true })
  })
  it('keeps pasted lines to be changed while one of them cannot be put in', () => {
    const bad = stepLine(open(), { line: 'paste', text: '1 hop\n\n99 no' }, seen).line
    const read = readSeveral(bad, seen)
    expect(read?.list.map((l) => l.problem?.at ?? null)).toEqual([null, 0])
    expect(read?.good).toBe(false)
    // What can be read is shown all the same.
    expect(read?.routine.cues.some((c) => c.move === 'hop')).toBe(true)
    expect(stepLine(bad, { line: 'keep', go: 'stay' }, seen)).toMatchObject({ line: bad, edit: null })
    const mended = stepLine(bad, { line: 'type', text: '1 hop\n\n2 no' }, seen).line
    expect(stepLine(mended, { line: 'keep', go: 'stay' }, seen).edit?.did).toBe('paste 2 lines')
    // The open line itself is as it was.
    expect(mended.open?.text).toBe('1 step; 2 touch')
    expect(
      stepLine(stepLine(bad, { line: 'type', text: ' ' }, seen).line, { line: 'keep', go: 'stay' }, seen)
        .edit,
    ).toBeNull()
  })
  it('puts no more in at once than is read in time, however it is asked for', () => {
    const words = (n: number) => `1 hop\n${' '.repeat(n)}1 turn`
    const long = stepLine(open(), { line: 'paste', text: words(MOST_PASTED) }, seen).line
    expect(readSeveral(long, seen)?.good).toBe(false)
    expect(stepLine(long, { line: 'keep', go: 'stay' }, seen)).toMatchObject({ line: long, edit: null })
    const shorter = stepLine(long, { line: 'type', text: words(20) }, seen).line
    expect(readSeveral(shorter, seen)?.good).toBe(true)
  })
  it('says of pasted lines which has no phrase left, instead of losing it', () => {
    const beyond = stepLine(open(384), { line: 'paste', text: '1 a\n\n1 b' }, seen).line
    const read = readSeveral(beyond, seen)
    expect([read?.good, read?.list.map((l) => l.phrase?.index ?? null)]).toEqual([false, [2, null]])
    expect(stepLine(beyond, { line: 'keep', go: 'stay' }, seen).edit).toBeNull()
  })
  it('offers pasted lines that were left, as several again', () => {
    const text = '1 hop\n1 turn'
    const pasted = stepLine(open(), { line: 'paste', text }, seen).line
    const left = stepLine(pasted, { line: 'leave' }, seen)
    expect([left.closed, left.line.open, left.line.several]).toEqual([true, null, null])
    const again = stepLine(left.line, { line: 'open', tick: 0, layer: 'feet' }, seen).line
    expect([leftBefore(again), again.several]).toEqual([text, null])
    expect(stepLine(again, { line: 'take back' }, seen).line.several).toBe(text)
    // One line is typed, not pasted; nothing is pasted where no line is open.
    expect(stepLine(open(), { line: 'paste', text: '1 hop' }, seen).line.several).toBeNull()
    expect(stepLine(NO_LINE, { line: 'paste', text }, seen).line).toBe(NO_LINE)
    expect(readSeveral(NO_LINE, seen)).toBeNull()
  })
})
