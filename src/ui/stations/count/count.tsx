'use client'

import { nanoid } from 'nanoid'
import { oneFromHere, oneHere, phraseAt, repair, setExcerpt, shiftPhrases } from '@/core/routine'
import { TICKS_PER_COUNT } from '@/core/time'
import { Sheet, spokenPlace } from '../../sheet/sheet'
import { useCursor } from '../../state/cursor'
import { useKeys } from '../../state/keys'
import { usePage, useSong } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { Frame, Panel, Sides } from '../frame'
import { useSheetKeys } from '../sheet-keys'
import { CountPanel } from './count-panel'

/** The Count station: from what was heard to what is right. */
export function Count({ id }: { id: string }) {
  const page = usePage()
  const { heard } = useSong()
  const edit = useRoutine((s) => s.edit)
  const cues = useRoutine((s) => s.routine.cues)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const beats = heard?.hearing.beats ?? []
  const count = Math.floor(tick / TICKS_PER_COUNT)

  const double = () => {
    edit('twice the tempo', (r) => repair(r, beats, { kind: 'double' }, nanoid))
    to(tick * 2)
  }
  const halve = () => {
    // The beats kept are those that hold the 1 at or before the cursor.
    const keep = ((phraseAt(page.placed, tick)?.start ?? 0) / TICKS_PER_COUNT) % 2 === 1 ? 1 : 0
    edit('half the tempo', (r) => repair(r, beats, { kind: 'halve', keep }, nanoid))
    to(Math.max(0, Math.floor((count - keep) / 2)) * TICKS_PER_COUNT)
  }
  const actions = {
    double,
    halve,
    one: () => edit('this is the 1', (r) => oneHere(r, count, nanoid)),
    oneOn: () => edit('the 1 from here on', (r) => oneFromHere(r, count, nanoid)),
    earlier: () => edit('all a count earlier', (r) => shiftPhrases(r, -1, nanoid)),
    later: () => edit('all a count later', (r) => shiftPhrases(r, 1, nanoid)),
    nudge: (ms: number) =>
      edit(`the beat ${Math.abs(ms)} ms ${ms < 0 ? 'earlier' : 'later'}`, (r) =>
        repair(r, beats, { kind: 'shift', seconds: ms / 1000 }, nanoid),
      ),
    begin: () => edit('the excerpt begins', (r) => setExcerpt(r, 'start', tick)),
    end: () => edit('the excerpt ends', (r) => setExcerpt(r, 'end', tick + TICKS_PER_COUNT)),
    whole: () => edit('the whole song', (r) => ({ ...r, excerpt: null })),
  }
  useSheetKeys(page)
  useKeys({
    '1': actions.one,
    'Shift+1': actions.oneOn,
    '!': actions.oneOn,
    x: actions.double,
    h: actions.halve,
    ',': actions.earlier,
    '.': actions.later,
    'Alt+,': () => actions.nudge(-10),
    'Alt+.': () => actions.nudge(10),
    b: actions.begin,
    e: actions.end,
  })
  const point = (at: number) => {
    const next = Math.floor(at / TICKS_PER_COUNT) * TICKS_PER_COUNT
    to(next)
    if (playing)
      player.playFrom(
        page,
        next,
        cues.map((c) => c.at),
      )
  }
  return (
    <Frame id={id}>
      <Sides>
        <Sheet
          page={page}
          label="Counts of the song. Arrow keys move by count and by phrase."
          rowHeight={62}
          waveHeight={46}
          onPoint={point}
          said={spokenPlace(page, tick)}
        />
        <Panel aria-label="Setting the counts right">
          <CountPanel page={page} actions={actions} />
        </Panel>
      </Sides>
    </Frame>
  )
}
