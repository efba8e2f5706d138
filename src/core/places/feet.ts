import { factsOf, isFooted, type MoveBook } from '../choreo'
import type { Cue, Formation } from '../routine'
import { countWhile, TICKS_PER_COUNT, type Ticks } from '../time'

/* What the feet of a dancer do, and how long that takes them to a formation. */

/** A way takes no longer than this where nobody says. */
const LONGEST: Ticks = 8 * TICKS_PER_COUNT

/** What the feet of some cues do, in order of time. */
export interface Feet {
  /** Steps that take the weight. */
  steps: readonly Ticks[]
  /** Cues that move the feet, and whether they step. */
  cues: readonly { at: Ticks; end: Ticks; steps: boolean }[]
  travels: readonly Cue[]
}

const feetKnown = new WeakMap<MoveBook, WeakMap<readonly Cue[], Feet>>()

/** What the feet do; worked out once for a list of cues. */
export function feetOf(cues: readonly Cue[], book: MoveBook): Feet {
  const known = feetKnown.get(book) ?? new WeakMap<readonly Cue[], Feet>()
  feetKnown.set(book, known)
  const before = known.get(cues)
  if (before) return before
  const footed = cues.filter((c) => isFooted(c))
  const taken = (c: Cue) => factsOf(c, book).subs.filter((s) => s.kind === 'weight')
  const feet: Feet = {
    steps: footed.flatMap((c) => taken(c).map((s) => c.at + s.at)).sort((a, b) => a - b),
    cues: footed.map((c) => ({
      at: c.at,
      end: c.at + c.length,
      steps: c.layer === 'travel' || taken(c).length > 0,
    })),
    travels: footed.filter((c) => c.layer === 'travel'),
  }
  known.set(cues, feet)
  return feet
}

/** When the steps begin that lead without a break to a place: what keeps the dancer in place ends it. */
function stepsBegin({ cues }: Feet, at: Ticks): Ticks | null {
  let begins: Ticks | null = null
  for (let i = countWhile(cues, (c) => c.at < at) - 1; i >= 0; i--) {
    const c = cues[i] as Feet['cues'][number]
    if (!c.steps || c.end < (begins ?? at) || at - c.at > LONGEST) break
    begins = c.at
  }
  return begins
}

/** How long a dancer takes to a formation: as said, as what travels there says, as the steps before it last, else two bars. */
export function takes({ at, over }: Formation, feet: Feet): Ticks {
  if (over !== undefined) return over
  const travel = feet.travels[countWhile(feet.travels, (c) => c.at < at) - 1]
  if (travel && travel.at + travel.length >= at) return at - travel.at
  const begins = stepsBegin(feet, at)
  return begins === null ? LONGEST : at - begins
}
