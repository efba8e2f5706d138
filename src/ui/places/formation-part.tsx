'use client'

import { type Formation, LIMITS, tickName } from '@/core/routine'
import { formationHere } from '@/core/station'
import { Button } from '../parts/button'
import { Choice } from '../parts/choice'
import { KeptLine } from '../parts/kept-line'
import { More } from '../parts/more'
import { Part, Tools } from '../parts/panel'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { formationName } from './group-plan'
import { usePlaces } from './places-store'

/** The formation at the cursor, and what is done to it. */
export function FormationPart({ page }: { page: Page }) {
  const standing = usePlaces((s) => s.standing)
  const send = usePlaces((s) => s.send)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const here = formationHere({ standing, tick })
  const { formations } = standing
  const at = tickName(page.placed, tick)
  if (!here) return null
  const i = formations.indexOf(here)
  const go = (f: Formation | undefined) => f && to(f.at)
  return (
    <Part aria-label="Formation">
      <KeptLine
        key={here.id}
        label={`Formation ${i + 1} of ${formations.length}, from ${tickName(page.placed, here.at)} on`}
        value={here.name}
        most={LIMITS.text}
        placeholder="windows, two rows, arrow …"
        keep={(name) => send({ kind: 'name', name })}
      />
      <Tools>
        <Button small isDisabled={i === 0} onPress={() => go(formations[i - 1])}>
          ‹ Before
        </Button>
        <Button small isDisabled={i === formations.length - 1} onPress={() => go(formations[i + 1])}>
          Next ›
        </Button>
        {here.at !== tick && (
          <Button small look="strong" onPress={() => send({ kind: 'new formation' })}>
            New on {at}
          </Button>
        )}
      </Tools>
      <More name="More about this formation">
        <Over formation={here} />
        <As page={page} />
        <Tools>
          {here.at !== tick && (
            <Button small onPress={() => send({ kind: 'move formation' })}>
              Move it to {at}
            </Button>
          )}
          <Button
            small
            onPress={() => send({ kind: 'remove formation' })}
            tip="Those after it stand; undo brings it back"
          >
            Take it out
          </Button>
        </Tools>
      </More>
    </Part>
  )
}

const OVERS = ['as the steps are', '1', '2', '3', '4', '6', '8', '12', '16']

/** How long the ways to a formation take. */
function Over({ formation }: { formation: Formation }) {
  const send = usePlaces((s) => s.send)
  const now = formation.over === undefined ? OVERS[0] : String(Math.round((formation.over / 24) * 100) / 100)
  const options = [...new Set([...OVERS, now as string])]
  return (
    <Choice
      label="The ways to it take"
      value={now as string}
      options={options.map((id) => ({ id, name: id === OVERS[0] ? id : `${id} counts` }))}
      onChange={(id) => send({ kind: 'over', counts: id === OVERS[0] ? null : Number(id) })}
    />
  )
}

/** Stand as elsewhere. */
function As({ page }: { page: Page }) {
  const formations = usePlaces((s) => s.standing.formations)
  const send = usePlaces((s) => s.send)
  const tick = useCursor((s) => s.tick)
  const others = formations.filter((f) => f.at !== tick)
  if (!others.length) return null
  const options = [
    { id: '', name: '–' },
    ...others.flatMap((f) => [
      { id: `${f.id} plain`, name: `as in ${formationName(page, f)}` },
      { id: `${f.id} other`, name: `as in ${formationName(page, f)}, other side` },
    ]),
  ]
  return (
    <Choice
      label={`On ${tickName(page.placed, tick)} stand`}
      value=""
      options={options}
      onChange={(id) => {
        const [formation, side] = id.split(' ')
        if (formation) send({ kind: 'as in', formation, otherSide: side === 'other' })
      }}
    />
  )
}
