import { describe, expect, it } from 'vitest'
import { isSeveralLines, readLines } from './pasted-lines'

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
