/**
 * The keys of one side in their order, with those only the other has, each after what it stood after there. Of two that both made at one
 * place the lesser comes first, whoever's it is.
 * @param known keys that both began with
 */
export function weaveKeys(
  frame: readonly string[],
  other: readonly string[],
  known: { has: (key: string) => boolean },
): string[] {
  const keys = [...frame]
  const there = new Set(frame)
  let before: string | null = null
  for (const key of other) {
    if (!there.has(key)) {
      let at = before === null ? 0 : keys.indexOf(before) + 1
      for (let next = keys[at]; next !== undefined && !known.has(next) && next < key; next = keys[at]) at++
      keys.splice(at, 0, key)
      there.add(key)
    }
    before = key
  }
  return keys
}
