import type { Cue, Side } from './cue-schema'

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

/** Left and right change places in a text: the two words, and L and R standing alone. Twice is the identity. */
export function mirrorText(text: string): string {
  return text.replace(
    /(?<![\p{L}\p{N}'’])(left|right|Left|Right|LEFT|RIGHT|L|R)(?![\p{L}\p{N}'’])/gu,
    (word) => OTHER[word] ?? word,
  )
}

/** The other side; none and both are their own. */
export function otherSide(side: Side): Side {
  return side === 'left' ? 'right' : side === 'right' ? 'left' : side
}

/** A facing seen in the mirror: eighths clockwise become eighths anticlockwise. */
export const mirrorFacing = (facing: number): number => (8 - facing) % 8

/** A cue to the other side: side, turn, facing, and left and right in its words. Twice is the identity. */
export function mirrorCue<T extends Cue>(cue: T): T {
  const out = { ...cue, side: otherSide(cue.side), move: mirrorText(cue.move), call: mirrorText(cue.call) }
  if (cue.turn) out.turn = { ...cue.turn, to: cue.turn.to === 'left' ? 'right' : 'left' }
  if (cue.facing !== undefined) out.facing = mirrorFacing(cue.facing)
  for (const key of ['tip', 'look', 'quality'] as const) {
    const text = cue[key]
    if (text !== undefined) out[key] = mirrorText(text)
  }
  return out
}
