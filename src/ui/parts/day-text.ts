const DAY = { weekday: 'short', day: 'numeric', month: 'short' } as const

/** "Thu 3 Dec, 18:30" — as it is written ("2026-12-03T18:30"), whatever zone this machine is in. */
export function dayText(date: string): string {
  const [y = 0, m = 1, d = 1] = date.slice(0, 10).split('-').map(Number)
  return `${new Date(y, m - 1, d).toLocaleDateString('en-GB', DAY)}, ${date.slice(11)}`
}
