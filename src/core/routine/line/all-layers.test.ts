import { describe, expect, it } from 'vitest'
import {
  elsewhereIn,
  inAllLayers,
  type Layer,
  lineOf,
  parseLine,
  placePhrases,
  printLine,
  putLineInLayers,
  type Routine,
} from '..'
import { cuesOf, ids, page } from '../hand.test-tools'

const phrase = { length: 8, feel: 'straight' as const, first: 1 }
const times = Array.from({ length: 17 }, (_, i) => i * 0.5)
const routine = page(2, [
  ...cuesOf(['1 step R; 3 kick L', '1 hop R']),
  ...cuesOf(['1-2 reach L; 6 clap', ''], 'arms'),
  ...cuesOf(['7 look R', ''], 'head'),
])

/** What is typed into a layer of a phrase, and what every layer says then. */
function typed(text: string, row = 0, layer: Layer = 'feet', of: Routine = routine) {
  const placed = placePhrases(of)
  const here = placed[row] as (typeof placed)[0]
  const elsewhere = (l: Layer) => elsewhereIn(of, placed, times, here, l)
  const { line, shared } = inAllLayers(text)
  const cues = parseLine(line, phrase, elsewhere(layer))
  const next = putLineInLayers(of, here, phrase, layer, cues, shared, elsewhere, ids('n'))
  return (['feet', 'arms', 'head'] as const).map((l) => printLine(lineOf(next, here, l), phrase))
}

describe('what a line says of all layers', () => {
  it('is told from what it says of its own', () => {
    expect(inAllLayers('1 step R; 5-8 as 1-4 other side, all layers')).toEqual({
      line: '1 step R; 5-8 as 1-4 other side',
      shared: ['5-8 as 1-4 other side'],
    })
    expect(inAllLayers('as chorus 2 in all layers').shared).toEqual(['as chorus 2'])
    expect(inAllLayers('1 gather all layers; 2 "as all layers"').shared).toEqual([])
  })
  it('is danced again in each, to the other side; a layer that has nothing there stays as it is', () => {
    expect(typed('1 step R; 3 kick L; 5-8 as 1-4 other side, all layers')).toEqual([
      '1 step R; 3 kick L; 5 step L; 7 kick R',
      '1-2 reach L; 5-6 reach R',
      '7 look R',
    ])
  })
  it('takes another place along too', () => {
    expect(typed('as eight 1, all layers', 1)).toEqual([
      '1 step R; 3 kick L',
      '1-2 reach L; 6 clap',
      '7 look R',
    ])
    expect(typed('5-8 as eight 1, first four, all layers', 1)).toEqual([
      '5 step R; 7 kick L',
      '5-6 reach L',
      '',
    ])
  })
  it('leaves others alone where it is not said', () => {
    expect(typed('1 step R; 3 kick L; 5-8 as 1-4 other side')[1]).toBe('1-2 reach L; 6 clap')
  })
})
