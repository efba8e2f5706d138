'use client'

import { phraseAt } from '@/core/routine'
import type { CueTab } from '@/core/station'
import { subCount } from '@/core/time'
import { bound } from '../../keys/table'
import { useCursor } from '../../state/cursor'
import { useKeys } from '../../state/keys'
import type { Page } from '../../state/page'
import { useSheetKeys } from '../sheet-keys'
import { useCue } from './cue-store'
import { useClipboard } from './use-clipboard'

export const TABS: readonly { id: CueTab; name: string }[] = [
  { id: 'cue', name: 'Cue' },
  { id: 'eight', name: 'Phrase' },
  { id: 'checks', name: 'Checks' },
  { id: 'moves', name: 'Moves' },
  { id: 'room', name: 'Room' },
]

/** The keys of the station: each tells the machine what was pressed. */
export function useCueKeys(page: Page): void {
  const send = useCue((s) => s.send)
  const work = (what: 'take away' | 'mirror' | 'duplicate') => () => send({ kind: 'work', work: what })
  /** Half a count, or a third. */
  const unit = () => subCount(phraseAt(page.placed, useCursor.getState().tick)?.phrase.feel ?? 'straight')
  useSheetKeys(page, (by) => send({ kind: 'step', by }))
  useClipboard()
  useKeys(
    bound({
      write: () => send({ kind: 'write', another: false }),
      writeBeside: () => send({ kind: 'write', another: true }),
      line: () => {
        const { tick, layer } = useCursor.getState()
        send({ kind: 'line', line: 'open', tick, layer })
      },
      hits: () => send({ kind: 'press hits' }),
      nextLook: () => send({ kind: 'next finding' }),
      duplicate: work('duplicate'),
      otherSide: work('mirror'),
      mark: () => send({ kind: 'toggle mark' }),
      unmark: () => send({ kind: 'unmark' }),
      take: work('take away'),
      replace: () => send({ kind: 'replace', open: true }),
      shiftBack: () => send({ kind: 'work', work: 'shift', by: -unit() }),
      shiftOn: () => send({ kind: 'work', work: 'shift', by: unit() }),
      shorter: () => send({ kind: 'work', work: 'lengthen', by: -unit() }),
      longer: () => send({ kind: 'work', work: 'lengthen', by: unit() }),
      tabs: (e) => send({ kind: 'tab', tab: TABS[Number(e.key) - 1]?.id ?? 'cue' }),
    }),
  )
}
