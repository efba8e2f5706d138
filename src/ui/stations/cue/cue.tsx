'use client'

import { nanoid } from 'nanoid'
import { useMemo, useState } from 'react'
import {
  type Cue as CueOf,
  cuesIn,
  cueText,
  LAYERS,
  type Layer,
  moveCue,
  phraseAt,
  putCue,
  removeCue,
} from '@/core/routine'
import { snapTick, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { CursorBox, Sheet, spokenPlace } from '../../sheet/sheet'
import { useCursor } from '../../state/cursor'
import { useKeys } from '../../state/keys'
import { usePage } from '../../state/page'
import { usePlayer, usePlayerState } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { Frame, Panel, Sides } from '../frame'
import { useSheetKeys } from '../sheet-keys'
import { CuePanel } from './cue-panel'
import { CueChip, LANE, LaneName } from './lane'

const WAVE = 30
const TOP = WAVE + 8
const HALF = TICKS_PER_COUNT / 2

/** Layers shown: feet and arms always, the others once they hold a cue. */
function shownLayers(cues: readonly CueOf[], cursor: Layer): Layer[] {
  const used = new Set<Layer>(cues.map((c) => c.layer))
  return LAYERS.filter((l) => l === 'feet' || l === 'arms' || l === cursor || used.has(l))
}

/** The Cue station: moves on counts, layer by layer. */
export function Cue({ id }: { id: string }) {
  const page = usePage()
  const edit = useRoutine((s) => s.edit)
  const cues = useRoutine((s) => s.routine.cues)
  const { tick, layer, to } = useCursor()
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const [writing, setWriting] = useState(0)
  const layers = useMemo(() => shownLayers(cues, layer), [cues, layer])
  const here = useMemo(() => cueAt(cues, tick, layer), [cues, tick, layer])

  const step = (by: number) => {
    const next = layers.indexOf(layer) + by
    const wanted = layers[next]
    if (wanted) return to(tick, wanted)
    const phrase = phraseAt(page.placed, tick)
    const row = phrase && page.placed[phrase.index + by]
    if (phrase && row)
      to(Math.min(row.end - HALF, row.start + (tick - phrase.start)), layers[by > 0 ? 0 : layers.length - 1])
  }
  const shift = (by: Ticks) => {
    if (!here) return
    edit('move a cue', (r) => moveCue(r, here.id, by))
    to(Math.max(0, here.at + by))
  }
  const take = () => {
    if (here) edit(`delete “${here.move}”`, (r) => removeCue(r, here.id))
  }
  const write = () => setWriting((n) => n + 1)
  const jump = (n: number) => {
    const phrase = phraseAt(page.placed, tick)
    const at = phrase && phrase.start + (n - phrase.first) * TICKS_PER_COUNT
    if (phrase && at !== null && at >= phrase.start && at < phrase.end) to(at)
  }
  useSheetKeys(page, step)
  useKeys({
    w: write,
    F2: write,
    Delete: take,
    Backspace: take,
    'Alt+ArrowLeft': () => shift(-HALF),
    'Alt+ArrowRight': () => shift(HALF),
    ...Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => [String(n), () => jump(n)])),
  })

  const point = (at: number, y: number) => {
    const lane = layers[Math.floor((y - TOP) / LANE)]
    const phrase = phraseAt(page.placed, at)
    const next = Math.floor(at / HALF) * HALF
    to(phrase ? Math.max(phrase.start, next) : next, lane)
    if (playing && !lane)
      player.playFrom(
        page,
        next,
        cues.map((c) => c.at),
        useCursor.getState().loop,
      )
  }
  return (
    <Frame id={id}>
      <Sides>
        <Sheet
          page={page}
          label="Cues of the routine. Arrow keys move by count and by layer; W writes a cue."
          rowHeight={TOP + layers.length * LANE + 10}
          waveHeight={WAVE}
          onPoint={point}
          said={`${layer}, ${spokenPlace(page, tick)}: ${here ? cueText(here) : 'empty'}`}
          inside={(placed, columns) => (
            <>
              {layers.map((l, i) => (
                <LaneName key={l} style={{ top: TOP + i * LANE }}>
                  {l}
                </LaneName>
              ))}
              {cuesIn(cues, placed.start, placed.end).map((c) => (
                <CueChip
                  key={c.id}
                  cue={c}
                  placed={placed}
                  columns={columns}
                  top={TOP + layers.indexOf(c.layer) * LANE}
                  room={roomAfter(cues, c, placed.end)}
                  chosen={c.id === here?.id}
                  onChoose={() => to(c.at, c.layer)}
                  onMove={(by) => {
                    edit('move a cue', (r) => moveCue(r, c.id, by))
                    to(c.at + by, c.layer)
                  }}
                  onWrite={write}
                />
              ))}
            </>
          )}
          cursor={(placed, columns) => {
            if (here) return null
            const left = (tick - placed.start) / TICKS_PER_COUNT / columns
            return (
              <CursorBox
                data-testid="cursor"
                style={{
                  left: `${left * 100}%`,
                  width: `${50 / columns}%`,
                  top: TOP + Math.max(0, layers.indexOf(layer)) * LANE + 1,
                  height: LANE - 4,
                }}
              />
            )
          }}
        />
        <Panel aria-label="The cue at the cursor">
          <CuePanel
            key={here?.id ?? `${tick} ${layer}`}
            page={page}
            cue={here}
            tick={tick}
            layer={layer}
            writing={writing}
            onPut={(cue, did) => edit(did, (r) => putCue(r, cue))}
            onMove={shift}
            onDelete={take}
            newId={nanoid}
          />
        </Panel>
      </Sides>
    </Frame>
  )
}

/** The cue that starts here in this layer, or the one that lasts over this place. */
function cueAt(cues: readonly CueOf[], tick: Ticks, layer: Layer): CueOf | null {
  const lane = cues.filter((c) => c.layer === layer)
  return (
    lane.find((c) => snapTick(c.at) === tick || c.at === tick) ??
    lane.find((c) => c.at > tick && c.at < tick + 12) ??
    lane.find((c) => c.at < tick && c.at + c.length > tick) ??
    null
  )
}

/** How far a cue may be drawn before the next one of its layer begins. */
function roomAfter(cues: readonly CueOf[], cue: CueOf, end: Ticks): Ticks {
  const next = cues
    .filter((c) => c.layer === cue.layer && c.at > cue.at)
    .reduce((n, c) => Math.min(n, c.at), end)
  return Math.min(cue.length, next - cue.at)
}
