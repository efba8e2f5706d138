/** How many of some things in order come before the first one of which something is not so. Halving: it has to be so of all before that one. */
export function countWhile<T>(list: readonly T[], isSo: (item: T) => boolean): number {
  let low = 0
  let high = list.length
  while (low < high) {
    const mid = (low + high) >> 1
    if (isSo(list[mid] as T)) low = mid + 1
    else high = mid
  }
  return low
}
