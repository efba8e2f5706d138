'use client'

import { memo, useEffect, useMemo, useState } from 'react'
import styled from 'styled-components'
import { nowIn, subCounts } from '@/core/floor'
import { cueText, type DancedCue, LAYERS, labelIn, type PlacedPhrase, phraseAt, whoOf } from '@/core/routine'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { writeLane } from '../../sheet/lane-lines'
import { useTypeLoaded, widthOfText } from '../../sheet/text-width'
import { floor, font } from '../../theme/tokens'

const Strip = styled.div`
  position: relative;
  margin-left: 58px;
  @media (max-width: 700px) { margin-left: 0; height: 44px !important; }
`

const Count = styled.button<{ $now: boolean; $chosen: boolean; $slip: boolean }>`
  position: absolute;
  inset-block: 0;
  min-height: 44px;
  text-align: left;
  padding: 3px 6px;
  border: ${(p) => (p.$slip ? 3 : 1.5)}px ${(p) => (p.$slip ? 'dashed' : 'solid')} ${(p) => (p.$slip ? floor.ink : p.$now ? floor.azalea : 'transparent')};
  border-left-color: ${(p) => (p.$slip ? floor.ink : p.$now ? floor.azalea : floor.line)};
  border-radius: ${(p) => (p.$slip || p.$now ? '10px' : '0')};
  background: ${(p) => (p.$chosen ? 'none' : `repeating-linear-gradient(45deg, ${floor.line}66 0 2px, transparent 2px 9px)`)};
  color: ${(p) => (p.$now ? floor.azalea : p.$chosen ? floor.ink : floor.quiet)};
  font: 700 23px/1.1 ${font.display};
  cursor: pointer;
  @media (max-width: 700px) { text-align: center; font-size: 20px; }
`

const Sub = styled.i<{ $now: boolean; $danced: boolean }>`
  position: absolute;
  top: 9px;
  font: ${(p) => (p.$danced ? 700 : 500)} ${(p) => (p.$danced ? 17 : 14)}px/1 ${font.text};
  color: ${(p) => (p.$now ? floor.azalea : floor.quiet)};
  pointer-events: none;
  @media (max-width: 700px) { display: none; }
`

const Box = styled.span<{ $now: boolean; $chosen: boolean }>`
  position: absolute;
  border-radius: 6px;
  padding: 0 7px;
  overflow: hidden;
  white-space: pre;
  background: ${(p) => (p.$now ? floor.azalea : p.$chosen ? '#3A2A44' : '#231829')};
  color: ${(p) => (p.$now ? '#2B0A1B' : p.$chosen ? floor.ink : floor.quiet)};
  font-weight: ${(p) => (p.$now ? 650 : 500)};
  pointer-events: none;
  b { font: inherit; font-size: 0.85em; opacity: 0.8; }
  @media (max-width: 700px) { display: none; }
`

const Layer = styled.small`
  position: absolute;
  left: -58px;
  color: ${floor.quiet};
  font-size: 14px;
  @media (max-width: 700px) { display: none; }
`

/** Height of the numbers, and room between lanes and boxes, in pixels. */
const [HEAD, GAP, AROUND] = [34, 4, 18]
/** Lines of words share so much of the window's height at the most. */
const SHARE = 0.34

interface Laid {
  boxes: {
    cue: DancedCue
    who: string
    left: number
    width: number
    top: number
    height: number
    words: string
  }[]
  layers: { layer: string; top: number }[]
  height: number
  size: number
}

/** Every word of a row in lanes, as large as there is room for all of them. */
function layOut(
  cues: readonly DancedCue[],
  { from, to }: { from: Ticks; to: Ticks },
  { across, high }: { across: number; high: number },
  mirrored: boolean,
): Laid {
  const pixels = across / ((to - from) / TICKS_PER_COUNT)
  const here = cues.filter((c) => c.at < to && c.at + c.length > from && c.at >= from)
  let laid: Laid = { boxes: [], layers: [], height: 0, size: 0 }
  for (const size of [17, 15.5, 14, 12.5, 11]) {
    const line = Math.round(size * 1.75)
    const face = `600 ${size}px`
    laid = { boxes: [], layers: [], height: HEAD, size }
    for (const layer of LAYERS) {
      const own = here.filter((c) => c.layer === layer)
      if (!own.length) continue
      const texts = own.map((c) => (whoOf(c) ? `${cueText(c, mirrored)} ${whoOf(c)}` : cueText(c, mirrored)))
      const { written, lines } = writeLane(
        own.map((c, i) => ({
          at: c.at - from,
          length: Math.min(c.length, to - c.at),
          text: texts[i] as string,
        })),
        pixels,
        across,
        { widthOf: (text) => Math.ceil(widthOfText(text, face)), around: AROUND },
      )
      laid.layers.push({ layer, top: laid.height })
      own.forEach((cue, i) => {
        const w = written[i]
        if (w)
          laid.boxes.push({
            ...{ cue, who: whoOf(cue), left: w.left, width: w.width - GAP, words: w.words.join('\n') },
            ...{ top: laid.height + w.line * (line + GAP), height: w.words.length * (line + GAP) - GAP },
          })
      })
      laid.height += Math.max(1, lines) * (line + GAP) + GAP
    }
    if (laid.height <= high) return laid
  }
  return laid
}

/** How wide the strip is, and how high it may be, in pixels. */
function useRoom(): [(element: HTMLElement | null) => void, { across: number; high: number }] {
  const [element, setElement] = useState<HTMLElement | null>(null)
  const [room, setRoom] = useState({ across: 1158, high: 270 })
  useEffect(() => {
    if (!element) return
    const see = () =>
      setRoom({
        across: Math.max(200, element.clientWidth),
        high: Math.max(HEAD + 60, SHARE * window.innerHeight),
      })
    const watch = new ResizeObserver(see)
    watch.observe(element)
    window.addEventListener('resize', see)
    see()
    return () => {
      watch.disconnect()
      window.removeEventListener('resize', see)
    }
  }, [element])
  return [setElement, room]
}

interface Props {
  from: Ticks
  to: Ticks
  /** What of it is danced: the rest looks so. */
  chosenFrom: Ticks
  chosenTo: Ticks
  placed: readonly PlacedPhrase[]
  cues: readonly DancedCue[]
  /** The place that sounds; null where none does. */
  now: Ticks | null
  mirrored: boolean
  /** Where the repetition that is meant slipped. */
  slips: readonly Ticks[]
  onSlip: (tick: Ticks) => void
}

/** The phrase count by count and layer by layer: everything stands where it is danced, and what is danced now is marked. */
export const EightStrip = memo(function EightStrip(props: Props) {
  const { from, to, chosenFrom, chosenTo, placed, cues, now, mirrored, slips, onSlip } = props
  const [ref, room] = useRoom()
  const loaded = useTypeLoaded()
  // biome-ignore lint/correctness/useExhaustiveDependencies: type that was loaded meanwhile has other widths
  const laid = useMemo(
    () => layOut(cues, { from, to }, room, mirrored),
    [cues, from, to, room, mirrored, loaded],
  )
  const subs = useMemo(() => subCounts(placed, cues, { from, to }), [placed, cues, from, to])
  const share = (t: Ticks) => `${((t - from) / (to - from)) * 100}%`
  const starts = Array.from({ length: (to - from) / TICKS_PER_COUNT }, (_, i) => from + i * TICKS_PER_COUNT)
  const chosen = (at: Ticks, length: Ticks) => at < chosenTo && at + length > chosenFrom
  const count = now === null ? null : Math.floor(now / TICKS_PER_COUNT) * TICKS_PER_COUNT
  const sub = now === null ? undefined : subs.findLast((s) => s.at <= now && count !== null && s.at > count)
  const running = new Set(now === null ? [] : nowIn(cues, now).flatMap((l) => l.cues))
  return (
    <Strip
      ref={ref}
      role="group"
      aria-label="Counts: press one where it slipped"
      style={{ height: laid.height }}
    >
      {starts.map((at) => (
        <CountColumn
          key={at}
          label={labelAt(placed, at)}
          isNow={at === count}
          chosen={chosen(at, TICKS_PER_COUNT)}
          slipped={slips.includes(at)}
          left={share(at)}
          width={`${(TICKS_PER_COUNT / (to - from)) * 100}%`}
          onPress={() => onSlip(at)}
        />
      ))}
      {subs.map((s) => (
        <Sub
          key={s.at}
          $now={s === sub && cues.some((c) => c.at === s.at)}
          $danced={cues.some((c) => c.at === s.at)}
          style={{ left: share(s.at) }}
        >
          {s.name}
        </Sub>
      ))}
      {laid.layers.length > 1 &&
        laid.layers.map(({ layer, top }) => (
          <Layer key={layer} style={{ top: top + 4 }}>
            {layer}
          </Layer>
        ))}
      {laid.boxes.map(({ cue, who, words, ...box }) => (
        <Box
          key={`${cue.id} ${cue.at}`}
          $now={running.has(cue)}
          $chosen={chosen(cue.at, cue.length)}
          style={{ ...box, fontSize: laid.size, lineHeight: `${Math.round(laid.size * 1.75)}px` }}
        >
          {who ? (
            <>
              {words.slice(0, Math.max(0, words.length - who.length))}
              <b>{words.slice(Math.max(0, words.length - who.length))}</b>
            </>
          ) : (
            words
          )}
        </Box>
      ))}
    </Strip>
  )
})

const labelAt = (placed: readonly PlacedPhrase[], at: Ticks): string => {
  const phrase = phraseAt(placed, at)
  return phrase ? labelIn(phrase, at) : ''
}

interface ColumnProps {
  label: string
  isNow: boolean
  chosen: boolean
  slipped: boolean
  left: string
  width: string
  onPress: () => void
}

/** A count with all that is under it: pressed where it slipped. */
function CountColumn({ label, isNow, chosen, slipped, left, width, onPress }: ColumnProps) {
  return (
    <Count
      type="button"
      tabIndex={-1}
      $now={isNow}
      $chosen={chosen}
      $slip={slipped}
      aria-label={`${label}${slipped ? ', slipped' : ''}`}
      style={{ left, width, alignItems: 'start' }}
      onClick={onPress}
    >
      <span style={{ position: 'absolute', top: 4, left: 6 }}>
        {label}
        {slipped && ' ✕'}
      </span>
    </Count>
  )
}
