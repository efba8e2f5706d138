import { wordBegins, wordEnds } from '../../writing/word-edges'
import type { Side, StepWay, Turn } from './cue-words'

const OTHER: Record<string, string> = {
  left: 'right',
  right: 'left',
  Left: 'Right',
  Right: 'Left',
  LEFT: 'RIGHT',
  RIGHT: 'LEFT',
  L: 'R',
  R: 'L',
}

/**
 * A word that names a side: the two words, and L and R standing alone, not before an apostrophe ("L'arabesque"). What is quoted by
 * itself is a shape or a name, and no side: “L”.
 */
const SIDE_WORD = new RegExp(
  `${wordBegins(String.raw`'’"“‘«\\`)}(left|right|Left|Right|LEFT|RIGHT|L|R)${wordEnds(`'’"”»`)}`,
  'gu',
)

/** L and R that stand alone in a text, each written otherwise: between quotes they are shapes, and the same in the mirror. */
export const withLetters = (text: string, written: (letter: string) => string): string =>
  text.replace(SIDE_WORD, (word) => (word.length === 1 ? written(word) : word))

export const withShapes = (text: string): string => withLetters(text, (letter) => `“${letter}”`)

/** A letter with an article before it is more likely a shape than a side: "an L with the arms". */
export const mayBeShape = (text: string): boolean => /(?:^|\s)(?:an?|the)\s+[LR](?=\s|$)/iu.test(text)

/** Left and right change places in a text. Twice is the identity. */
export function mirrorText(text: string): string {
  return text.replace(SIDE_WORD, (word) => OTHER[word] ?? word)
}

/** The sides a text names, in order. */
export function sidesNamed(text: string): ('left' | 'right')[] {
  return [...text.matchAll(SIDE_WORD)].map(([word]) =>
    word.toLowerCase().startsWith('l') ? 'left' : 'right',
  )
}

/** The other side; none and both are their own. */
export function otherSide<S extends Side>(side: S): S | 'left' | 'right' {
  return side === 'left' ? 'right' : side === 'right' ? 'left' : side
}

/** A facing seen in the mirror: eighths clockwise become eighths anticlockwise. */
export const mirrorFacing = (facing: number): number => (8 - facing) % 8

export const mirrorTurn = (turn: Turn): Turn => ({ ...turn, to: turn.to === 'left' ? 'right' : 'left' })

/** A way seen in the mirror. */
export const mirrorWay = (way: StepWay): StepWay => mirrorText(way) as StepWay
