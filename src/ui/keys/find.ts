import type { StationName } from './table'

/** Something that can be found and done from one field. */
export type Found =
  | { kind: 'action'; id: string; name: string; tip: string; key: string; keys: readonly string[] }
  | { kind: 'place'; id: string; name: string; tip: string; at: number }
  | { kind: 'setting'; id: string; name: string; tip: string; station: StationName }
  | { kind: 'station'; id: string; name: string; tip: string; station: StationName }

/** More than this is not offered: one more word finds less. */
const MOST = 14

const plain = (text: string) => text.toLowerCase().normalize('NFD').replace(/\p{M}/gu, '')

/** How well a text answers some words: 0 where one of them is not in it. */
function scoreOf(name: string, tip: string, words: readonly string[]): number {
  const [n, t] = [plain(name), plain(tip)]
  let score = 0
  for (const word of words) {
    const begins = new RegExp(`(?:^|[^\\p{L}\\p{N}])${word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`, 'u')
    if (n.startsWith(word)) score += 8
    else if (begins.test(n)) score += 5
    else if (begins.test(t)) score += 2
    else if (n.includes(word)) score += 1
    else return 0
  }
  return score
}

/** What some words find, the best first; of equals in the order they were given. */
export function found(text: string, all: readonly Found[]): Found[] {
  const words = plain(text).split(/\s+/).filter(Boolean)
  if (!words.length) return []
  return all
    .map((one) => ({ one, score: scoreOf(one.name, one.tip, words) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST)
    .map(({ one }) => one)
}
