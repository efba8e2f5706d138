import { danced, findingKey, type Routine } from '../routine'
import type { Times } from '../time'
import { Checked, type Finding } from './checked'
import { dancedFindings } from './danced-findings'
import { asDanced, inEvery, optionsIn, rolesIn } from './filters'
import type { MoveBook } from './moves'
import { writtenFindings } from './written-findings'

export type { Finding } from './checked'

/** Every finding of a routine, in order of place; those let stand are left out. */
export function findings(routine: Routine, times: Times, book: MoveBook): Finding[] {
  if (times.length < 2) return []
  const all = danced(routine)
  const checked = new Checked(routine, times, book, all)
  const found = new Map<string, Finding>()
  const take = (f: Finding) => {
    const key = findingKey(f.about)
    if (!found.has(key)) found.set(key, f)
  }
  const roles = ['', ...rolesIn(all)]
  const options = ['base' as const, ...optionsIn(all).filter((o) => !inEvery(o))]
  for (const role of roles)
    for (const option of options) {
      const cues = asDanced(all, role, option)
      for (const f of dancedFindings(checked, cues, role, option)) take(f)
    }
  for (const f of writtenFindings(checked)) take(f)
  return [...found.values()].filter((f) => !checked.isLetStand(f.about)).sort((a, b) => a.at - b.at)
}
