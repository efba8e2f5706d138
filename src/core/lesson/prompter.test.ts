import { describe, expect, it } from 'vitest'
import { asDanced, moveBook, namedMove, STARTING_MOVES, stanceWords } from '../choreo'
import { type Cue, danced, placePhrases } from '../routine'
import { cuesOf, ids, page } from '../routine/hand.test-tools'
import { promptOf } from './prompter'

const book = moveBook(STARTING_MOVES)
const prompt = (cues: readonly Cue[], stretch = { from: 0, to: 192 }, version = 'base', moves = book) => {
  const r = page(2, cues)
  const all = danced(r)
  const [own, base] = [asDanced(all, '', version), asDanced(all, '', 'base')]
  return promptOf(own, base, r.positions, stretch, placePhrases(r), moves)
}
const ready = (line: string, layer: 'feet' | 'arms' = 'feet') =>
  prompt(cuesOf([line], layer)).lines.flatMap((l) => l.ready.map((w) => `${l.label}: ${w}`))

describe('the prompter', () => {
  it('says how it begins and ends, and count by count what each layer does', () => {
    const p = prompt(
      [...cuesOf(['1 step R; 2& kick L; 4 jump']), ...cuesOf(['2 snap R'], 'arms', ids('a'))],
      {
        from: 0,
        to: 96,
      },
    )
    expect(stanceWords(p.begin)).toBe('right foot free, facing front')
    expect(stanceWords(p.end)).toBe('weight on both feet, facing front, arms: snap R')
    expect(p.lines.map((l) => [l.label, ...l.cues.map((c) => `${c.layer} ${c.label} ${c.words}`)])).toEqual([
      ['1', 'feet  step R'],
      ['2', 'feet 2& kick L', 'arms  snap R'],
      ['3'],
      ['4', 'feet  jump'],
    ])
  })

  it('says level, quality, look, caution, tip and the usual mistake, its own before the move list’s', () => {
    const [cue] = cuesOf(['1 dip R'])
    const more = { level: 'low', quality: 'soft', look: 'down', caution: 'knee', tip: 'slowly' } as const
    const list = moveBook([{ ...namedMove('d', 'dip'), mistakes: 'knees fall in' }])
    const said = (c: Partial<Cue>) =>
      prompt([{ ...(cue as Cue), ...c }], { from: 0, to: 24 }, 'base', list).lines[0]?.cues[0]
    expect(said(more)).toMatchObject({
      more: ['low', 'soft', 'look down', 'mind the knee'],
      tip: 'slowly',
      mistake: 'knees fall in',
    })
    expect(said({ mistake: 'too fast' })?.mistake).toBe('too fast')
  })

  it('says what a version does instead', () => {
    const cues = cuesOf(['1 turn right 1/1; 1 step R #easier; 3 hop L'])
    const lines = prompt(cues, { from: 0, to: 72 }, 'easier').lines
    expect(lines[0]?.cues).toMatchObject([{ words: 'step R', insteadOf: 'turn right 1/1' }])
    expect(lines[2]?.cues).toMatchObject([{ words: 'hop L', insteadOf: '' }])
  })

  it('begins and ends on sub-counts', () => {
    const lines = prompt(cuesOf(['1 step R; 1& step L; 2 step R']), { from: 12, to: 48 }).lines
    expect(lines.map((l) => [l.label, l.cues.map((c) => c.words)])).toEqual([
      ['1', ['step L']],
      ['2', ['step R']],
    ])
  })
})

// What must be ready, worked by hand.
describe('what must be ready', () => {
  it.each<[string, string[]]>([
    ['1 step L; 2 touch R; 3 kick R', ['2: stay off the right foot: it kicks on 3']],
    ['1 jump; 2 step L', ['1: stay off the left foot: it steps on 2']],
    ['1 step R; 2 step L; 3 step R', []],
    ['1 step L; 2 touch R; 3 step R', []],
    ['1 step R; 3 turn right 1/2', ['2: turn right on 3, to the back']],
    ['1 step R; 2& turn left 1/4', ['1: turn left on 2&, to the left']],
    ['1 step R; 2 spin', ['1: a turn on 2']],
  ])('%s', (line, warnings) => {
    expect(ready(line)).toEqual(warnings)
  })
  it('an arm that was held is brought back for its next move', () => {
    expect(ready('1-4 reach R; 5 punch R', 'arms')).toEqual([
      '4: the right arm back in place for “punch R” on 5',
    ])
    expect(ready('1-4 reach R; 5 punch L', 'arms')).toEqual([])
    expect(ready('1 reach R; 2 punch R', 'arms')).toEqual([])
    expect(ready('1-2 reach LR; 3 punch L', 'arms')).toEqual([
      '2: the left arm back in place for “punch L” on 3',
    ])
  })
  it('another level is said a count before', () => {
    const cues = cuesOf(['1 step R; 3 step L; 5 roll']).map((c) =>
      c.at === 0 ? { ...c, level: 'middle' as const } : c.at === 96 ? { ...c, level: 'floor' as const } : c,
    )
    expect(prompt(cues).lines.flatMap((l) => l.ready)).toEqual(['to the floor on 5'])
  })
  it('nothing is said of what lies after the stretch', () => {
    const lines = prompt(cuesOf(['1 step L; 2 touch R; 3 kick R']), { from: 0, to: 48 }).lines
    expect(lines.flatMap((l) => l.ready)).toEqual([])
  })
})
