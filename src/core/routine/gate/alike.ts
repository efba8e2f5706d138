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
