import { describe, expect, it } from 'vitest'
import { isVtt } from './captions'
import { parseJson } from './decode-json'
import { said, wordsOf } from './said'

describe('an error in words', () => {
  it.each([
    [new Error('The disk is full'), 'The disk is full.'],
    [new Error('Is it there?'), 'Is it there?'],
    [new Error('No! Not this'), 'No! Not this.'],
    ['a text that was thrown.', 'a text that was thrown.'],
    [undefined, 'undefined.'],
  ])('%s is said as “%s”', (error, sentence) => {
    expect(said(error)).toBe(sentence)
    expect(wordsOf(error)).toBe(sentence === 'The disk is full.' ? 'The disk is full' : wordsOf(error))
  })
  it('is no sentence by itself', () => {
    expect([wordsOf(new Error('torn')), wordsOf(7)]).toEqual(['torn', '7'])
  })
})

describe('JSON as other programs save it', () => {
  it('has no byte order mark before it; one inside is a letter', () => {
    expect(parseJson('\uFEFF{"a":1}')).toEqual({ a: 1 })
    expect(parseJson('{"a":"\uFEFFb"}')).toEqual({ a: '\uFEFFb' })
    expect(() => parseJson('x\uFEFF1')).toThrow(SyntaxError)
  })
})

describe('WebVTT', () => {
  it.each([
    ['WEBVTT', true],
    ['\uFEFFWEBVTT\n', true],
    ['WEBVTT - a title', true],
    ['WEBVTT\tx', true],
    ['WEBVTTX', false],
    ['1\nWEBVTT', false],
    ['', false],
  ])('%j begins as it does: %s', (text, begins) => {
    expect(isVtt(text)).toBe(begins)
  })
})
