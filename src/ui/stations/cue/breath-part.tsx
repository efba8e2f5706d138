'use client'

import type { Leaning } from '@/core/choreo'
import {
  type Breath,
  labelIn,
  type PlacedPhrase,
  phraseName,
  placeName,
  setBorders,
  setUsualBorder,
} from '@/core/routine'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { Offer, Offers } from './alike-part'

/** Offered as a pick-up: up to four counts, by halves. */
const LEANS: readonly Ticks[] = Array.from({ length: 8 }, (_, i) => ((i + 1) * TICKS_PER_COUNT) / 2)
/** Offered as what a phrase lands on. */
const RESOLVES: readonly Ticks[] = [TICKS_PER_COUNT]

/** Those that are offered, and the one that is so, in order. */
const withOne = (list: readonly Ticks[], one: Ticks, most: Ticks) =>
  [...new Set([0, ...list.filter((t) => t <= most), one])].sort((a, b) => a - b)

/** What a phrase begins with before its 1, and whether the 1 after it belongs to it: here, or everywhere. */
export function BreathPart({ page, placed }: { page: Page; placed: PlacedPhrase }) {
  const edit = useRoutine((s) => s.edit)
  const usual = useRoutine((s) => s.routine.usualBorder)
  const own = useRoutine((s) => s.routine.borders.length)
  const [before, after] = [page.placed[placed.index - 1], page.placed[placed.index + 1]]
  const say = (at: PlacedPhrase, what: Breath) =>
    edit('say what belongs together', (r) => setBorders(r, [at.start], what))
  const here: Breath = {
    lean: before ? placed.lean : usual.lean,
    resolve: after ? after.resolve : usual.resolve,
  }
  const asUsual = !own && here.lean === usual.lean && here.resolve === usual.resolve
  if (!before && !after) return null
  return (
    <Part aria-label="What belongs together">
      <h3>What belongs together</h3>
      {before && (
        <Choice
          label="Begins with"
          value={String(placed.lean)}
          options={withOne(LEANS, placed.lean, before.end - before.start).map((t) => ({
            id: String(t),
            name: t ? `the ${labelIn(before, placed.start - t)} before` : 'its first count',
          }))}
          onChange={(t) => say(placed, { lean: Number(t), resolve: Number(t) ? 0 : placed.resolve })}
        />
      )}
      {after && (
        <Choice
          label="Ends with"
          value={String(after.resolve)}
          options={withOne(RESOLVES, after.resolve, after.end - after.start).map((t) => ({
            id: String(t),
            name: t
              ? `the ${labelIn(after, after.start + t - TICKS_PER_COUNT)} after`
              : lastOf(placed, after),
          }))}
          onChange={(t) => say(after, { lean: Number(t) ? 0 : after.lean, resolve: Number(t) })}
        />
      )}
      <Tools>
        <Button
          small
          look="quiet"
          isDisabled={asUsual}
          tip="Every phrase begins and ends so"
          onPress={() => edit('say what belongs together, everywhere', (r) => setUsualBorder(r, here))}
        >
          Everywhere so
        </Button>
      </Tools>
    </Part>
  )
}

/** "its last count", or "its 8", where the next one begins with what comes then. */
const lastOf = (p: PlacedPhrase, after: PlacedPhrase) =>
  after.lean && after.lean < p.end - p.start
    ? `its ${labelIn(p, p.end - after.lean - (after.lean % TICKS_PER_COUNT || TICKS_PER_COUNT))}`
    : 'its last count'

/** Places where a move or a call begins before the line and goes on over it. */
export function LeaningPart({ page, list, all }: { page: Page; list: readonly Leaning[]; all?: boolean }) {
  const edit = useRoutine((s) => s.edit)
  const to = useCursor((s) => s.to)
  if (!list.length) return null
  const say = (some: readonly Leaning[]) =>
    edit(
      some.length > 1 ? `give ${some.length} pick-ups to what follows` : 'give a pick-up to what follows',
      (r) => some.reduce((x, l) => setBorders(x, [l.at], { lean: l.lean, resolve: 0 }), r),
    )
  return (
    <Part aria-label="Over the line" data-testid="leaning">
      <h3>{list.length > 1 ? `${list.length} go over the line` : 'Goes over the line'}</h3>
      <Offers>
        {(all ? list : list.slice(0, 1)).map((l) => {
          const next = page.placed.find((p) => p.start === l.at)
          const before = next && page.placed[next.index - 1]
          if (!next || !before) return null
          const label = labelIn(before, l.at - l.lean)
          return (
            <Offer key={l.at}>
              <span>
                {l.move ? `“${l.move}”` : 'What is called'} begins on {label} and goes on into{' '}
                {all ? placeName(next) : phraseName(next)}: {label} belongs to it?
              </span>
              <Tools>
                <Button small onPress={() => say([l])}>
                  It does
                </Button>
                {all && (
                  <Button small look="quiet" onPress={() => to(l.at - l.lean)}>
                    Go there
                  </Button>
                )}
              </Tools>
            </Offer>
          )
        })}
      </Offers>
      {list.length > 1 && (
        <Tools>
          <Button small onPress={() => say(list)}>
            So in all {list.length}
          </Button>
        </Tools>
      )}
    </Part>
  )
}
