import type { Ticks } from './units'

/** A piece of the count line, half open: `to` is the first tick that does not belong to it. Never empty. */
export interface Stretch {
  from: Ticks
  to: Ticks
}

/** True where a tick lies in a stretch. */
export const holds = (s: Stretch, tick: Ticks): boolean => tick >= s.from && tick < s.to

/** True where all of the inner stretch lies in the outer one. */
export const contains = (outer: Stretch, inner: Stretch): boolean =>
  inner.from >= outer.from && inner.to <= outer.to

/** True for the same piece. */
export const sameStretch = (a: Stretch, b: Stretch): boolean => a.from === b.from && a.to === b.to

/** What two stretches have in common; null for nothing. */
export function common(a: Stretch, b: Stretch): Stretch | null {
  const [from, to] = [Math.max(a.from, b.from), Math.min(a.to, b.to)]
  return to > from ? { from, to } : null
}

/** What is left of a stretch without another: none, one or two pieces. */
export function without(s: Stretch, taken: Stretch): Stretch[] {
  if (!common(s, taken)) return [s]
  const out: Stretch[] = []
  if (taken.from > s.from) out.push({ from: s.from, to: taken.from })
  if (taken.to < s.to) out.push({ from: taken.to, to: s.to })
  return out
}

/** Pieces in order, those that touch or overlap made one. */
export function joined(pieces: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = []
  for (const p of [...pieces].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1)
    if (last && p.from <= last.to) last.to = Math.max(last.to, p.to)
    else out.push({ ...p })
  }
  return out
}

/** True where some pieces together hold all of a stretch. */
export function covered(s: Stretch, pieces: readonly Stretch[]): boolean {
  return joined(pieces).some((p) => contains(p, s))
}
