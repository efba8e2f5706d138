'use client'

import type { PointerEvent, RefObject } from 'react'
import { cueLine, cueText, LAYERS, phraseAt } from '@/core/routine'
import type { SheetLine } from '@/core/station'
import { common, subCount } from '@/core/time'
import { FOOTING } from '../../sheet/footing'
import type { Pointed } from '../../sheet/row'
import { Sheet, UNMEASURED } from '../../sheet/sheet'
import type { Spoken } from '../../sheet/spoken-rows'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { usePull } from '../use-pull'
import { alikeName, useLinkAlike } from './alike-part'
import { CueRow, LaneCursor, MarkedLanes } from './cue-row'
import { useCue, useCueLine } from './cue-store'
import { LineEditor } from './line-editor'
import { RepeatMark } from './repeat-mark'
import { laneAt, TOP, WAVE } from './row-layout'
import { RIGHT } from './use-cue-station'

/** The sheet with the lanes of its cues. */
export function CueSheet({ page, frame }: { page: Page; frame: RefObject<HTMLDivElement | null> }) {
  const layoutOf = useCue((s) => s.layoutOf)
  const laidOut = useCue((s) => s.pixels > UNMEASURED)
  const point = usePointing(page)
  const spoken = useSpoken()
  return (
    <Sheet
      page={page}
      label="Cues of the routine. Arrow keys move by count and by layer; L writes a line, W a cue."
      frame={frame}
      rowHeight={(line) => TOP + layoutOf(line).height + FOOTING + 6}
      waveHeight={WAVE}
      right={RIGHT}
      laidOut={laidOut}
      onPoint={point}
      spoken={spoken}
      said={<SaidCue />}
      Beside={Beside}
      Inside={Inside}
      Cursor={Cursor}
    />
  )
}

/** Pressing and pulling over the sheet: the half or third of a count, and the lane, that are pointed at. */
function usePointing(page: Page): (at: Pointed, event: PointerEvent) => void {
  const send = useCue((s) => s.send)
  const layoutOf = useCue((s) => s.layoutOf)
  const placeOf = ({ tick, y }: Pointed) => {
    const line = phraseAt(page.lines, tick)
    const size = subCount(line?.phrase.feel ?? 'straight')
    const start = line?.start ?? 0
    return {
      at: Math.max(start, start + Math.floor((tick - start) / size) * size),
      layer: line ? laneAt(layoutOf(line), y - TOP) : undefined,
    }
  }
  const pull = usePull(page, (at, first) => send({ kind: 'pull', ...placeOf(at), first }))
  return (at, event) => {
    send({ kind: 'press', ...placeOf(at), shift: event.shiftKey })
    if (!event.shiftKey) pull(event)
  }
}

/** The cursor's row in words, a lane a layer. */
function useSpoken(): Spoken {
  const rows = useCue((s) => s.choreo.rows)
  const mirrored = useCue((s) => s.mirrored)
  return {
    laneOf: (layer) => LAYERS.indexOf(layer),
    lanes: LAYERS.map((name) => ({
      name,
      text: (line, from, to) =>
        (rows[line.row] ?? [])
          .filter((c) => c.layer === name && c.at >= from && c.at < to)
          .map((c) => cueLine(c, mirrored))
          .join('; '),
    })),
  }
}

/** Which of several cues at one place is meant. */
function SaidCue() {
  return useCue((s) => (s.stack.length > 1 && s.here ? cueText(s.here, s.mirrored) : ''))
}

interface InRow {
  line: SheetLine
  columns: number
}

/** What stands beside a row's name: what it is danced as, or could be. */
function Beside({ line }: { line: SheetLine }) {
  const page = useCue((s) => s.page)
  const alikes = useCue((s) => s.alikes)
  const repeats = useRoutine((s) => s.routine.repeats)
  const link = useLinkAlike()
  return (
    <RepeatMark
      {...{ page, repeats, alikes }}
      placed={line}
      onLink={(a) => link([a], alikeName(page.placed, a))}
    />
  )
}

function Inside({ line, columns }: InRow) {
  return (
    <>
      <CueRow line={line} columns={columns} />
      <Marked line={line} columns={columns} />
      <Writing line={line} />
    </>
  )
}

function Marked({ line, columns }: InRow) {
  const marked = useCursor((s) =>
    s.marked && common(s.marked, { from: line.start, to: line.end }) ? s.marked : null,
  )
  const layout = useCue((s) => s.layoutOf(line))
  return marked && <MarkedLanes {...{ marked, columns, layout }} placed={line} top={TOP} />
}

/** The line that is typed, in the row of its phrase. */
function Writing({ line }: { line: SheetLine }) {
  const open = useCueLine((s) => s.open?.phrase === line.start && s.several === null)
  return open && <LineEditor line={line} />
}

/** The cursor where no cue is. */
function Cursor({ line, columns }: InRow) {
  const none = useCue((s) => s.here === null)
  const tick = useCursor((s) => s.tick)
  const layer = useCursor((s) => s.layer)
  const layout = useCue((s) => s.layoutOf(line))
  return none && <LaneCursor {...{ tick, layer, columns, layout }} placed={line} top={TOP} />
}
