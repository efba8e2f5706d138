import type { Cue, Side, Turn } from '../document/cue-schema'

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

/** A word that names a side: the two words, and L and R standing alone, not before an apostrophe ("L'arabesque"). */
const SIDE_WORD = /(?<![\p{L}\p{M}\p{N}'’])(left|right|Left|Right|LEFT|RIGHT|L|R)(?![\p{L}\p{M}\p{N}'’])/gu

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

/**
 * A cue to the other side: its side, turn and facing, left and right in its words, and what the move list says of its
 * move. Twice is the identity.
 */
export function mirrorCue<T extends Cue>(cue: T): T {
  const out = { ...cue, side: otherSide(cue.side), move: mirrorText(cue.move), call: mirrorText(cue.call) }
  if (cue.turn) out.turn = mirrorTurn(cue.turn)
  if (cue.facing !== undefined) out.facing = mirrorFacing(cue.facing)
  for (const key of ['tip', 'mistake', 'look', 'quality'] as const) {
    const text = cue[key]
    if (text !== undefined) out[key] = mirrorText(text)
  }
  if (cue.mirrored) delete out.mirrored
  else out.mirrored = true
  return out
}
