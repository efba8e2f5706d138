'use client'

import { type Cue, type DancedCue, LAYERS, phraseAt } from '@/core/routine'
import { type Feel, namedOffsets, subCount, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import type { KeyId } from '../../keys/table'
import { Button } from '../../parts/button'
import { Choice } from '../../parts/choice'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useCue } from './cue-store'
import { placeLabel } from './place-label'

const LAYER_OPTIONS = LAYERS.map((id) => ({ id, name: id }))
const LENGTHS = [6, 8, 12, 24, 48, 72, 96, 144, 192]
const LENGTH_NAMES: Record<number, string> = {
  6: '¼ count',
  8: '⅓ count',
  12: '½ count',
  24: '1 count',
  48: '2 counts',
  72: '3 counts',
  96: '4 counts',
  144: '6 counts',
  192: '8 counts',
}

/** How a cue is moved: by counts, and by what a count divides in. */
const movesBy = (feel: Feel): readonly [string, string, number, KeyId?][] => {
  const [unit, name] = [subCount(feel), feel === 'triplet' ? 'A third of a count' : 'Half a count']
  return [
    ['‹ 1', 'One count earlier', -TICKS_PER_COUNT],
    ['‹ &', `${name} earlier`, -unit, 'shiftBack'],
    ['& ›', `${name} later`, unit, 'shiftOn'],
    ['1 ›', 'One count later', TICKS_PER_COUNT],
  ]
}

interface Props {
  page: Page
  cue: DancedCue
  change: (what: Partial<Cue>, did: string) => void
}

/** When a cue is, how long it lasts, and in which layer. */
export function WhenPart({ page, cue, change }: Props) {
  const send = useCue((s) => s.send)
  const onMove = (by: Ticks) => send({ kind: 'work', work: 'shift', by })
  const to = useCursor((s) => s.to)
  const phrase = phraseAt(page.placed, cue.at)
  const count = Math.floor(cue.at / TICKS_PER_COUNT) * TICKS_PER_COUNT
  return (
    <Part>
      <h3>When</h3>
      {!cue.link && (
        <>
          <Tools>
            {movesBy(phrase?.phrase.feel ?? 'straight').map(([name, tip, by, key]) => (
              <Button
                key={tip}
                small
                onPress={() => onMove(by)}
                tip={tip}
                aria-label={tip}
                {...(key ? { hotkey: key } : {})}
              >
                {name}
              </Button>
            ))}
          </Tools>
          <Choice
            label="Exactly on"
            value={String(cue.at - count)}
            options={namedOffsets(phrase?.phrase.feel ?? 'straight').map((o) => ({
              id: String(o),
              name: placeLabel(page, count + o),
            }))}
            onChange={(o) => onMove(count + Number(o) - cue.at)}
          />
        </>
      )}
      <Choice
        label="Lasts"
        value={String(cue.length)}
        options={[...new Set([...LENGTHS, cue.length])]
          .sort((a, b) => a - b)
          .map((n) => ({ id: String(n), name: LENGTH_NAMES[n] ?? `${n}/24 of a count` }))}
        onChange={(n) => change({ length: Number(n) }, 'change the length')}
      />
      <Choice
        label="Layer"
        value={cue.layer}
        options={LAYER_OPTIONS}
        onChange={(l) => {
          change({ layer: l }, 'change the layer')
          to(cue.at, l)
        }}
      />
    </Part>
  )
}
