/** True for values that are stored the same, in whatever order their keys were written. */
export function alike(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || !a || !b) return false
  if (Array.isArray(a) !== Array.isArray(b)) return false
  const [x, y] = [a, b].map((o) => Object.entries(o).filter(([, value]) => value !== undefined)) as [
    [string, unknown][],
    [string, unknown][],
  ]
  return x.length === y.length && x.every(([key, value]) => alike(value, (b as Record<string, unknown>)[key]))
}

/** The same text for values that are stored the same, in whatever order their keys were written. */
export const textOf = (value: unknown): string =>
  JSON.stringify(value, (_, x: unknown) =>
    x && typeof x === 'object' && !Array.isArray(x)
      ? Object.fromEntries(Object.entries(x).sort(([a], [b]) => (a < b ? -1 : 1)))
      : x,
  ) ?? ''
