'use client'

import { bound } from '../../keys/table'
import { useKeys } from '../../state/keys'
import { usePedalKeys } from '../../state/pedal'
import { useView } from '../../state/view'
import { useFloor } from './floor-store'

/** The keys of the floor; what they mean is decided by the station. */
export function useFloorKeys(): void {
  const send = useFloor((s) => s.send)
  const timing = useFloor((s) => s.timing !== null)
  const flip = useView((v) => v.flip)
  const keys = bound({
    go: () => send({ kind: 'go' }),
    out: () => send({ kind: 'out' }),
    run: () => send({ kind: 'run' }),
    mirrored: flip,
    clean: (e) => send({ kind: 'mark', mark: 'clean', paged: e.key === 'PageDown' }),
    shaky: () => send({ kind: 'mark', mark: 'shaky', paged: false }),
    missed: (e) => send({ kind: 'mark', mark: 'missed', paged: e.key === 'PageUp' }),
    slowly: () => send({ kind: 'slowly' }),
    loopMore: () => send({ kind: 'add', way: 'top' }),
    lastTwo: () => send({ kind: 'add', way: 'last two' }),
    joinAlone: () => send({ kind: 'add', way: 'join' }),
    fallBack: () => send({ kind: 'fall back' }),
    stepOn: () => send({ kind: 'skip' }),
    stepBack: () => send({ kind: 'back' }),
    allSteps: () => send({ kind: 'list', open: true }),
    leaveOut: () => send({ kind: 'leave out', seconds: null }),
    handsFree: () => send({ kind: 'hands free' }),
    tap: () => send({ kind: 'timing', way: 'tap' }),
    beside: () => send({ kind: 'beside' }),
    tips: () => {
      const { tips, show } = useView.getState()
      show({ tips: !tips })
    },
    replay: () => send({ kind: 'replay' }),
    slower: () => send({ kind: 'faster', by: -0.05 }),
    faster: () => send({ kind: 'faster', by: 0.05 }),
  })
  usePedalKeys((act) => send({ kind: 'pedal', mark: act }))
  // The timing trainer has keys of its own.
  useKeys(timing ? {} : keys)
}
