'use client'

import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react'
import { useShallow } from 'zustand/react/shallow'
import {
  cueLine,
  cueText,
  type DancedCue,
  LAYERS,
  type Layer,
  lengthenCue,
  moveCue,
  phraseAt,
  putCue,
} from '@/core/routine'
import { snapTick, subCount, type Ticks } from '@/core/time'
import { bound } from '../../keys/table'
import { Pick } from '../../parts/field'
import { Panel, Sides } from '../../parts/panel'
import { FOOTING } from '../../sheet/footing'
import { COLUMNS, type SheetLine } from '../../sheet/lines'
import type { Pointed } from '../../sheet/row'
import { Sheet, useCountPixels } from '../../sheet/sheet'
import type { Spoken } from '../../sheet/spoken-rows'
import { useCalls, useStarts } from '../../state/choreo'
import { type Anchor, useCursor } from '../../state/cursor'
import { useKeys } from '../../state/keys'
import { usePage } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { useView } from '../../state/view'
import { FirstStepLine } from '../first-step'
import { Frame } from '../frame'
import { useSheetKeys } from '../sheet-keys'
import { usePull } from '../use-pull'
import { alikeName, useLinkAlike } from './alike-part'
import { ChecksPanel } from './checks-panel'
import { CuePanel } from './cue-panel'
import { CueRow, LaneCursor, MarkedLanes, type RowActs } from './cue-row'
import { EightPanel } from './eight-panel'
import { LineEditor } from './line-editor'
import { LineHelp } from './line-help'
import { MARGIN } from './margin'
import { MovesPanel } from './moves-panel'
import { RepeatMark } from './repeat-mark'
import { RepeatPart } from './repeat-part'
import { ReplaceDialog } from './replace-dialog'
import { laneAt } from './row-layout'
import { StancePart } from './stance-part'
import { StretchPart } from './stretch-part'
import { useAlikes } from './use-alikes'
import { useChoreo } from './use-choreo'
import { useClipboard } from './use-clipboard'
import { useEdits } from './use-edits'
import { useLayouts } from './use-layouts'
import { useLine } from './use-line'
import { ViewBar } from './view-bar'

const WAVE = 30
const TOP = WAVE + 8
const RIGHT = MARGIN + 14
const NONE: readonly never[] = []

type Tab = 'cue' | 'eight' | 'checks' | 'moves'

/** Layers shown in every row: feet and arms always, the others once they hold a cue. */
function shownLayers(cues: readonly DancedCue[]): Layer[] {
  const used = new Set<Layer>(cues.map((c) => c.layer))
  return LAYERS.filter((l) => l === 'feet' || l === 'arms' || used.has(l))
}

/** The Cue station: moves on counts, layer by layer. */
export function Cue({ id }: { id: string }) {
  const page = usePage()
  const edit = useRoutine((s) => s.edit)
  const repeats = useRoutine((s) => s.routine.repeats)
  const { tick, layer, cue, to, marked, anchor, markFrom } = useCursor(
    useShallow(({ tick, layer, cue, to, marked, anchor, markFrom }) => ({
      tick,
      layer,
      cue,
      to,
      marked,
      anchor,
      markFrom,
    })),
  )
  const mirrored = useView((s) => s.mirrored)
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const starts = useStarts()
  const calls = useCalls(page)
  const [writing, setWriting] = useState(0)
  const [tab, setTab] = useState<Tab>('cue')
  const [replacing, setReplacing] = useState(false)
  const open = useLine(page, LAYERS)
  const choreo = useChoreo(page, open.preview)
  const { shown, findings } = choreo
  const wanted = useMemo(() => shownLayers(shown).join(), [shown])
  const layers = useMemo(() => wanted.split(',') as Layer[], [wanted])
  const stack = useMemo(() => cuesAt(shown, tick, layer), [shown, tick, layer])
  const here = stack.find((c) => c.id === cue) ?? stack[0] ?? null
  /** Where another cue is begun beside the one that stands there. */
  const [beside, setBeside] = useState('')
  const another = here !== null && beside === `${tick} ${layer}`
  const panel = useRef<HTMLElement>(null)
  // Another panel begins at its top.
  // biome-ignore lint/correctness/useExhaustiveDependencies: these are what is shown
  useEffect(() => {
    panel.current?.scrollTo(0, 0)
  }, [tab, marked !== null, open.line !== null])
  const frame = useRef<HTMLDivElement>(null)
  const pixels = useCountPixels(frame, RIGHT)
  const cursorRow = phraseAt(page.lines, tick)?.row ?? -1
  const layoutOf = useLayouts(
    choreo,
    layers,
    { row: cursorRow, layer },
    { pixels, columns: COLUMNS, mirrored },
  )
  const alikes = useAlikes(page, choreo.book, tab === 'eight' || tab === 'checks')
  const link = useLinkAlike()
  const spoken = useMemo(
    (): Spoken => ({
      lane: LAYERS.indexOf(layer),
      lanes: LAYERS.map((name) => ({
        name,
        text: (from, to) => {
          const own = shown.filter((c) => c.layer === name && c.at >= from && c.at < to)
          return own.map((c) => cueLine(c, mirrored)).join('; ')
        },
      })),
    }),
    [shown, layer, mirrored],
  )
  const edits = useEdits(page, choreo, here, marked)
  const row = phraseAt(page.placed, tick)
  const unit = subCount(row?.phrase.feel ?? 'straight')

  const step = (by: number) => {
    // What stands at one place is gone through before the next layer is.
    const beside = here && stack[stack.indexOf(here) + by]
    if (beside) return to(tick, layer, beside.id)
    const wanted = LAYERS[LAYERS.indexOf(layer) + by]
    if (wanted) return to(tick, wanted)
    const line = phraseAt(page.lines, tick)
    const next = line && page.lines[line.row + by]
    if (line && next)
      to(Math.min(next.end - unit, next.start + (tick - line.start)), by > 0 ? LAYERS[0] : LAYERS.at(-1))
  }
  const write = (more = false) => {
    setBeside(more ? `${tick} ${layer}` : '')
    setTab('cue')
    markFrom(null)
    setWriting((n) => n + 1)
  }
  const mark = (from: Anchor) => {
    setTab('cue')
    markFrom(from)
  }
  const nextFinding = () => {
    const next = findings.find((f) => f.at > tick) ?? findings[0]
    setTab('checks')
    if (next) to(next.at, next.layer)
  }
  useSheetKeys(page, step)
  useClipboard(edits)
  useKeys(
    bound({
      write: () => write(),
      writeBeside: () => write(true),
      line: () => open.open(tick, layer),
      nextLook: nextFinding,
      duplicate: edits.duplicate,
      otherSide: edits.mirror,
      mark: () => (anchor ? markFrom(null) : mark({ tick, layer })),
      unmark: () => markFrom(null),
      take: edits.take,
      replace: () => setReplacing(true),
      shiftBack: () => edits.shift(-unit),
      shiftOn: () => edits.shift(unit),
      shorter: () => edits.lengthen(-unit),
      longer: () => edits.lengthen(unit),
      tabs: (e) => setTab(TABS[Number(e.key) - 1]?.id ?? 'cue'),
    }),
  )
  /** The half or third of a count and the lane that are pointed at. */
  const placeOf = ({ tick: at, y }: Pointed) => {
    const line = phraseAt(page.lines, at)
    const size = subCount(line?.phrase.feel ?? 'straight')
    const start = line?.start ?? 0
    return {
      tick: Math.max(start, start + Math.floor((at - start) / size) * size),
      lane: line ? laneAt(layoutOf(line), y - TOP) : undefined,
    }
  }
  const whole = useRef(false)
  const pull = usePull(page, (at, first) => {
    if (first) mark({ tick, layer: whole.current ? 'feet' : layer, pulled: true })
    const next = placeOf(at)
    to(next.tick, whole.current ? layers.at(-1) : next.lane)
  })
  /** A place or a cue is pressed: with shift the stretch up to it is marked, else what was pulled is no longer. */
  const press = (at: Ticks, lane: Layer | undefined, shift: boolean, of?: DancedCue) => {
    if (shift && lane) mark(anchor ?? { tick, layer, pulled: true })
    else if (anchor?.pulled || (marked && !anchor)) markFrom(null)
    to(at, lane, of?.id)
  }
  const point = (at: Pointed, event: PointerEvent) => {
    const next = placeOf(at)
    press(next.tick, next.lane, event.shiftKey)
    // Pulled over the sound or the footing, the counts are marked in all layers.
    whole.current = !next.lane
    if (!event.shiftKey) pull(event)
    if (playing && !next.lane) player.playFrom(page, next.tick, starts, useCursor.getState().loop, calls)
  }
  const lanesEnd = (line: SheetLine) => TOP + layoutOf(line).height
  const now = useRef({ edit, to, write, press })
  now.current = { edit, to, write, press }
  const acts = useMemo(
    (): RowActs => ({
      choose: (c, shift) => now.current.press(c.at, c.layer, shift, c),
      write: () => now.current.write(),
      move: (c, by) => {
        now.current.edit('move a cue', (r) => moveCue(r, c.id, by))
        now.current.to(c.at + by, c.layer)
      },
      stretch: (c, by) => now.current.edit('stretch a cue', (r) => lengthenCue(r, c.id, by)),
      findings: (f) => {
        setTab('checks')
        now.current.to(f.at, f.layer)
      },
    }),
    [],
  )
  return (
    <Frame id={id}>
      <Sides>
        <Sheet
          page={page}
          label="Cues of the routine. Arrow keys move by count and by layer; L writes a line, W a cue."
          frame={frame}
          rowHeight={(line) => lanesEnd(line) + FOOTING + 6}
          waveHeight={WAVE}
          right={RIGHT}
          onPoint={point}
          spoken={spoken}
          said={stack.length > 1 && here ? cueText(here, mirrored) : ''}
          beside={(line) => (
            <RepeatMark
              {...{ page, repeats, alikes }}
              placed={line}
              onLink={(a) => link([a], alikeName(page.placed, a))}
            />
          )}
          inside={(line, columns) => (
            <>
              <CueRow
                {...{ columns, pixels, mirrored, acts }}
                placed={line}
                layout={layoutOf(line)}
                steps={choreo.stepRows[line.row] ?? NONE}
                pace={choreo.pace[line.row]}
                findings={choreo.findingRows[line.row] ?? NONE}
                top={TOP}
                chosen={here && here.at >= line.start && here.at < line.end ? here.id : null}
              />
              {marked && (
                <MarkedLanes {...{ marked, columns }} placed={line} layout={layoutOf(line)} top={TOP} />
              )}
              {open.line?.phrase === line.start && open.read && (
                <LineEditor
                  line={open.line}
                  read={open.read}
                  below={lanesEnd(line) + 2}
                  onText={open.type}
                  onKeep={open.keep}
                  onLeave={open.leave}
                  onPaste={open.pasteLines}
                />
              )}
            </>
          )}
          cursor={(line, columns) =>
            here ? null : (
              <LaneCursor {...{ tick, layer, columns }} placed={line} layout={layoutOf(line)} top={TOP} />
            )
          }
        />
        {/* While a line is open nothing in the panel takes the focus, and it may be longer than the window. */}
        <Panel ref={panel} aria-label="Cues, phrases, checks and moves" tabIndex={open.line ? 0 : undefined}>
          {open.line ? (
            <LineHelp />
          ) : (
            <>
              <FirstStepLine id={id} page={page} station="cue" />
              <Pick
                label="What is beside the sheet"
                hideLabel
                value={tab}
                options={TABS.map((t) =>
                  t.id === 'checks' && findings.length ? { ...t, name: `Checks ${findings.length}` } : t,
                )}
                onChange={setTab}
              />
              {open.problem && <p role="alert">{open.problem}</p>}
              <ViewBar all={choreo.all} />
              {tab === 'cue' && marked && (
                <>
                  <StretchPart {...{ id, page, marked, edits }} cues={shown} />
                  <StancePart page={page} choreo={choreo} of={marked} />
                  {row && <RepeatPart key={`${marked.from} ${marked.to}`} page={page} placed={row} />}
                </>
              )}
              {tab === 'cue' && !marked && (
                <CuePanel
                  key={another ? `another ${tick} ${layer}` : (here?.id ?? `${tick} ${layer}`)}
                  {...{ page, tick, layer, writing }}
                  cue={another ? null : here}
                  onPut={(c, did) => {
                    if (edit(did, (r) => putCue(r, c)) && another) to(tick, layer, c.id)
                    setBeside('')
                  }}
                  onMove={edits.shift}
                  onDelete={edits.take}
                  onPaste={edits.canPaste ? () => edits.paste() : null}
                />
              )}
              {tab === 'eight' && row && (
                <EightPanel
                  key={row.index}
                  {...{ page, choreo, mirrored, alikes }}
                  placed={row}
                  lines={() => open.open(tick, layer)}
                  mirrorRow={edits.mirrorRow}
                  duplicate={edits.duplicate}
                />
              )}
              {tab === 'checks' && <ChecksPanel {...{ page, choreo, alikes }} />}
              {tab === 'moves' && <MovesPanel />}
            </>
          )}
        </Panel>
      </Sides>
      <ReplaceDialog isOpen={replacing} close={() => setReplacing(false)} />
    </Frame>
  )
}

const TABS: { id: Tab; name: string }[] = [
  { id: 'cue', name: 'Cue' },
  { id: 'eight', name: 'Phrase' },
  { id: 'checks', name: 'Checks' },
  { id: 'moves', name: 'Moves' },
]

/** The cues that start here in this layer, or the one that lasts over this place. */
function cuesAt(cues: readonly DancedCue[], tick: Ticks, layer: Layer): DancedCue[] {
  const lane = cues.filter((c) => c.layer === layer)
  const starting = lane.filter((c) => snapTick(c.at) === tick || c.at === tick)
  if (starting.length) return starting
  const one =
    lane.find((c) => c.at > tick && c.at < tick + 12) ??
    lane.find((c) => c.at < tick && c.at + c.length > tick)
  return one ? [one] : []
}
