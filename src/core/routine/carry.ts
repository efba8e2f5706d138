import type { Ticks } from '../time'
import type { Repeat } from './cue-schema'
import { type PlacedPhrase, phraseAt, placePhrases } from './layout'
import type { NewId } from './phrases'
import type { Routine } from './schema'

/**
 * Carries over what names phrases to a page that was laid out anew for more or fewer counts: a phrase that begins where
 * one began is the same phrase (its feel and what was logged of it stay), repeats dance the same sound as before, in as
 * many pieces as the new phrases ask for, and steps of lessons are about the phrases that now lie where theirs lay.
 * @param page the new page, its cues already on the new counts
 * @param place where a tick of the old page lies on the new one
 */
export function carried(old: Routine, page: Routine, place: (tick: Ticks) => Ticks, newId: NewId): Routine {
  const before = placePhrases(old)
  const begun = new Map(before.map((p) => [place(p.start), p.phrase]))
  const names = new Map<string, string>()
  const phrases = placePhrases(page).map((p) => {
    const same = begun.get(p.start)
    if (!same) return p.phrase
    names.set(p.phrase.id, same.id)
    return { ...p.phrase, id: same.id, feel: same.feel }
  })
  const sections = page.sections.map((s) => ({ ...s, phrase: names.get(s.phrase) ?? s.phrase }))
  const next = { ...page, phrases, sections }
  const after = placePhrases(next)
  const was = new Map(before.map((p) => [p.phrase.id, p]))
  const nowAt = (tick: Ticks) => phraseAt(after, tick)?.phrase.id
  return {
    ...next,
    repeats: old.repeats.flatMap((r) => moved(r, was, after, place, newId)),
    plans: old.plans.map((plan) => ({
      ...plan,
      steps: plan.steps.map((s) => {
        const [first, last] = [was.get(s.first), was.get(s.last)]
        if (!first || !last) return s
        return {
          ...s,
          first: nowAt(place(first.start)) ?? s.first,
          last: nowAt(place(last.end) - 1) ?? s.last,
        }
      }),
    })),
  }
}

/** A repeat on the new phrases, cut where one of them ends on either side. */
function moved(
  r: Repeat,
  was: ReadonlyMap<string, PlacedPhrase>,
  after: readonly PlacedPhrase[],
  place: (tick: Ticks) => Ticks,
  newId: NewId,
): Repeat[] {
  const [target, source] = [was.get(r.phrase), was.get(r.source)]
  // What names a phrase that is gone already stays as it is: it is danced nowhere.
  if (!target || !source) return [r]
  const from = place(target.start + r.at)
  const to = place(target.start + r.at + r.length)
  const away = place(source.start + r.from) - from
  const out: Repeat[] = []
  for (let t = from; t < to; ) {
    const [here, there] = [phraseAt(after, t), phraseAt(after, t + away)]
    if (!here || !there) break
    const end = Math.min(to, here.end, there.end - away)
    if (end <= t) break
    out.push({
      ...r,
      id: out.length ? newId() : r.id,
      phrase: here.phrase.id,
      at: t - here.start,
      length: end - t,
      source: there.phrase.id,
      from: t + away - there.start,
    })
    t = end
  }
  return out
}
