'use client'

import { memo } from 'react'
import styled from 'styled-components'
import { cueText, labelIn, type PlacedPhrase, whoOf } from '@/core/routine'
import type { CueEvent } from '@/core/station'
import type { Ticks } from '@/core/time'
import { LEFT } from '../../sheet/row'
import { desk, font } from '../../theme/tokens'
import { FACE, LINE, type Shown, SMALL_FACE, TOP } from './row-layout'

export const LaneName = styled.span`
  position: absolute;
  left: ${-LEFT + 58}px;
  width: ${LEFT - 64}px;
  text-align: right;
  font-size: 11.5px;
  line-height: ${LINE - 3}px;
  color: ${desk.quiet};
  pointer-events: none;
`

const Chip = styled.div<{
  $feet: boolean
  $chosen: boolean
  $linked: boolean
  $differs: boolean
  $small: boolean
}>`
  position: absolute;
  border: 1.5px ${(p) => (p.$linked ? 'dashed' : 'solid')} ${(p) => (p.$chosen ? desk.azalea : desk.rule)};
  ${(p) => p.$differs && `border-left: 6px double ${desk.azalea};`}
  background: ${(p) => (p.$chosen ? desk.azaleaSoft : p.$linked ? desk.paper : desk.card)};
  box-shadow: ${(p) => (p.$chosen ? `0 0 0 1.5px ${desk.azalea}` : 'none')};
  border-radius: ${(p) => (p.$feet ? 5 : 11)}px;
  padding: 0 ${(p) => (p.$feet ? 6 : 9)}px;
  font: ${(p) => (p.$small ? SMALL_FACE : FACE)}/18px ${font.text};
  white-space: pre;
  cursor: ${(p) => (p.$linked ? 'default' : 'grab')};
  -webkit-touch-callout: none;
  z-index: 1;
  &:hover { border-color: ${desk.azalea}; z-index: 2; }
  &[data-held] { z-index: 3; cursor: grabbing; box-shadow: 0 4px 12px ${desk.shade}, 0 0 0 1.5px ${desk.azalea}; }
  @media (forced-colors: active) { outline: ${(p) => (p.$chosen ? '3px solid Highlight' : 'none')}; }
  span { display: block; }
  small { font-size: 11.5px; color: ${desk.quiet}; font-weight: 500; }
`

/** Where the box is wider than its cue lasts: from where it begins, as long as it lasts. */
const Lasts = styled.i`
  position: absolute;
  bottom: -1.5px;
  height: 3px;
  border-radius: 2px;
  background: ${desk.ink};
  forced-color-adjust: none;
  pointer-events: none;
`

/** A cue that began on an earlier line. */
const Carried = styled.div`
  position: absolute;
  border: 1.5px solid ${desk.faint};
  border-left: none;
  border-radius: 0 9px 9px 0;
  padding: 0 6px;
  font: ${FACE}/18px ${font.text};
  color: ${desk.quiet};
  white-space: pre;
  span { display: block; }
`

const Stretch = styled.i`
  position: absolute;
  top: 0;
  bottom: 0;
  width: 7px;
  cursor: ew-resize;
`

interface ChipProps {
  shown: Shown
  placed: PlacedPhrase
  /** Pixels of one tick. */
  pixels: number
  chosen: boolean
  /** A finger or a mouse has it, to pull it along. */
  held: boolean
  mirrored: boolean
  /** Ticks it is being dragged by, and by which it is being stretched. */
  moved: Ticks
  stretched: Ticks
  send: (event: CueEvent) => void
}

/** One cue in its lane. Its row moves it along the counts, or pulls it longer at its end; one that is linked stays. */
export const CueChip = memo(function CueChip(p: ChipProps) {
  const { placed, pixels, chosen, mirrored } = p
  const { cue, who, written, carried } = p.shown
  const box = {
    top: TOP + p.shown.top,
    left: written.left + p.moved * pixels,
    width: Math.max(8, written.width - 3 + p.stretched * pixels),
    height: written.words.length * LINE - 3,
  }
  if (carried)
    return (
      <Carried style={box} data-testid="carried" title={`${cueText(cue, mirrored)}, from the line before`}>
        {spaced(written.words).map((words) => (
          <span key={words}>{words}</span>
        ))}
      </Carried>
    )
  const linked = cue.link !== null
  const more = whoOf(cue)
  const on = cue.trigger ? `, on the ${cue.trigger.kind === 'lyric' ? 'words' : 'sound'}` : ''
  const said = linked ? ', linked' : cue.differs ? ', differs from what it repeats' : ''
  const ends = written.begins + written.lasts
  return (
    <Chip
      $feet={cue.layer === 'feet'}
      $chosen={chosen}
      $linked={linked}
      $differs={cue.differs}
      $small={written.small}
      data-each={cue.each !== undefined || undefined}
      title={`${labelIn(placed, cue.at)} ${cueText(cue, mirrored)}${more ? ` (${more})` : ''}${on}${cue.each ? ', at several places' : ''}${said}${cue.tip ? `. ${cue.tip}` : ''}`}
      data-testid="cue"
      data-cue={cue.id}
      data-linked={linked || undefined}
      data-held={p.held || undefined}
      onDoubleClick={() => p.send({ kind: 'write', another: false })}
      onPointerDown={(e) => p.send({ kind: 'press cue', cue, shift: e.shiftKey })}
      style={{ ...box, ...(box.height > LINE ? { paddingTop: written.words.length } : {}) }}
    >
      {spaced(written.words).map((words, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the lines are their places
        <span key={i}>
          {i === 0 && who && words.startsWith(`${who}:`) ? <Who who={who} words={words} /> : words}
        </span>
      ))}
      {written.width > written.lasts + 3 && (
        <Lasts style={{ left: written.begins - 1.5, width: Math.max(4, written.lasts - 3) }} />
      )}
      {!linked && <Stretch data-stretch="true" data-testid="stretch" style={{ left: ends - 12 }} />}
    </Chip>
  )
})

/** Lines with the blank between them that is not seen, so that they are read as one text. */
const spaced = (lines: readonly string[]) =>
  lines.map((words, i) => (i < lines.length - 1 && !words.endsWith('-') ? `${words} ` : words))

function Who({ who, words }: { who: string; words: string }) {
  return (
    <>
      <small>{who}:</small>
      {words.slice(who.length + 1)}
    </>
  )
}
