import { expect, it } from 'vitest'
import { asSentence } from './sentence'

it.each([
  ['water', 'water.'],
  ['water.', 'water.'],
  ['water.. ', 'water.'],
  ['Ready?', 'Ready?'],
  ['水。', '水。'],
  ['One. Two', 'One. Two.'],
  ['Wait... go..', 'Wait... go.'],
  ['Now! Go', 'Now! Go.'],
  ['and so on…', 'and so on…'],
  [' ', ''],
])('“%s” is the sentence “%s”', (text, sentence) => {
  expect(asSentence(text)).toBe(sentence)
})
