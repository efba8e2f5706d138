import { describe, expect, it } from 'vitest'
import { answerIn } from './set-sheet'

describe('what the process that sets sheets answers', () => {
  it('is a line of JSON and a PDF', () => {
    const answer = answerIn(Buffer.from('{"missing":["x"]}\n%PDF-1.3 …'))
    expect([answer?.missing, answer?.pdf.subarray(0, 5).toString()]).toEqual([['x'], '%PDF-'])
  })
  it.each([
    '',
    'no line',
    'a warning\n%PDF-1.3',
    '{"missing":1}\n%PDF-1.3',
    '{"missing":[]}\n',
    '{"missing":[]}\nnone',
  ])('is none, and nothing is thrown: %j', (text) => expect(answerIn(Buffer.from(text))).toBeNull())
})
