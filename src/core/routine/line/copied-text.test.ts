import { describe, expect, it } from 'vitest'
import { LAYERS } from '../document/layers'
import { copied, paste } from '../edits/cue-edits'
import { cuesOf, ids, page } from '../hand.test-tools'
import { dance, danced } from '../repeats/repeats'
import { printCopied, readCopied } from './copied-text'

const lines = ['1 step R; 2& kick L; 5-8 roll [go] @rows #easier', '3 "1 odd; move" L; 8+5/24 tap']
const from = page(3, [...cuesOf(lines), ...cuesOf(['1-4 reach', '', '7 clap'], 'arms')])
const all = copied(danced(from), { from: 0, to: 3 * 192, layers: LAYERS })

describe('what was copied, as a text', () => {
  it('is a line a layer, an empty line between eights, and comes back the same', () => {
    const text = printCopied(all)
    expect(text.split('\n\n')).toEqual([
      'feet: 1 step R; 2& kick L; 5-8 roll [go] @rows #easier\narms: 1-4 reach',
      'feet: 3 "1 odd; move" L; 8+5/24 tap',
      'arms: 7 clap',
    ])
    const back = paste(page(3), readCopied(text, 'feet'), 0, ids('n')).routine
    expect(dance(back)).toEqual(dance(from))
  })
  it('keeps its place among empty eights, and counts from its own first count', () => {
    const part = copied(danced(from), { from: 36, to: 2 * 192, layers: ['feet'] })
    const text = printCopied(part)
    expect(text.split(';')[0]).toBe('feet: 1-1e kick L')
    expect(
      paste(page(3), readCopied(text, 'feet'), 36, ids('n'))
        .routine.cues.map((c) => c.at)
        .sort((a, b) => a - b),
    ).toEqual(part.cues.map((c) => c.at + 36).sort((a, b) => a - b))
    expect(readCopied('1 step\n\n-\n\n2 clap', 'arms')).toMatchObject({
      length: 3 * 192,
      cues: [
        { at: 0, layer: 'arms' },
        { at: 2 * 192 + 24, layer: 'arms' },
      ],
    })
  })
  it('of anything else is refused, and says where', () => {
    expect(() => readCopied('Dear all,\nsee you there', 'feet')).toThrow('“Dear all,” is no line of cues')
    expect(() => readCopied(' \n', 'feet')).toThrow('no cues')
  })
})
