'use client'

import { FlipHorizontal2, Pause, Play, Repeat, Volume2 } from 'lucide-react'
import { memo, useEffect, useRef, useState } from 'react'
import { Dialog, DialogTrigger, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { stretchName } from '@/core/routine'
import { clockText, FASTEST, SLOWEST, type Stretch, timeOfTick } from '@/core/time'
import { Button } from '../parts/button'
import { Slide } from '../parts/field'
import { useCursor } from '../state/cursor'
import { type Page, tempoOfTick } from '../state/page'
import { usePlayerState } from '../state/player'
import { useView } from '../state/view'
import { desk, font, NARROW } from '../theme/tokens'
import { useMoments } from './playhead'
import { spokenPlace } from './sheet'
import { AppVoicePick, CalledPick, FilterPick, Volumes } from './sound-picks'
import { useTransport } from './use-transport'

const Bar = styled.footer`
  display: flex;
  align-items: center;
  gap: 18px;
  min-height: 66px;
  padding: 4px 20px;
  background: ${desk.card};
  border-top: 1px solid ${desk.line};
  ${NARROW} { min-height: 0; flex-wrap: wrap; gap: 4px 12px; padding: 6px 12px; .wide { display: none; } > div:has([role='slider'], input) { max-width: 132px; } }
`

const Round = styled.span`
  button { border-radius: 50%; width: 44px; height: 44px; padding: 0; }
`

const Where = styled.div`
  flex: 1;
  min-width: 0;
  strong { display: block; font: 650 17px/1.2 ${font.display}; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
  span { font-size: 13px; color: ${desk.quiet}; }
  &:has([role='alert']) span { line-height: 1.3; }
  [role='alert'] { color: ${desk.danger}; font-weight: 600; }
`

const Panel = styled(Popover)`
  background: ${desk.card};
  border: 1.5px solid ${desk.ink};
  border-radius: 12px;
  width: 240px;
  box-shadow: 0 8px 28px ${desk.shade};
  [role='dialog'] { outline: none; display: grid; gap: 10px; padding: 16px; }
`

const percent = (x: number) => `${Math.round(x * 100)} %`

/** Writes a text only where it is another one: a text that is written is laid out. */
function write(element: HTMLElement | null, text: string) {
  if (element && element.textContent !== text) element.textContent = text
}

/** Playing, the same on every station at the desk: where we are, how fast, what sounds. */
export const Transport = memo(function Transport({ page }: { page: Page }) {
  const { playing, speed, volumes, loading, problem, words } = usePlayerState((s) => s)
  const { mirrored, flip } = useView(useShallow(({ mirrored, flip }) => ({ mirrored, flip })))
  const tick = useCursor((s) => s.tick)
  const loop = useCursor((s) => s.loop)
  const [tempo, setTempo] = useState(() => tempoOfTick(page, tick))
  const where = useRef<HTMLElement>(null)
  const clock = useRef<HTMLElement>(null)
  const can = page.times.length > 1 && loading.kind !== 'problem'

  const { toggle, again, faster } = useTransport(page, can)
  const tell = (now: number | null) => {
    const at = now === null ? tick : Math.max(0, Math.floor(now / 12) * 12)
    setTempo(tempoOfTick(page, at))
    write(where.current, spokenPlace(page, at) || 'No counts yet')
    if (page.times.length > 1)
      write(
        clock.current,
        `${clockText(timeOfTick(page.times, now ?? tick), now === null)} of ${clockText(page.duration)}`,
      )
  }
  useMoments(page, tell)
  useEffect(() => {
    if (!playing) tell(null)
  })

  return (
    <Bar aria-label="Playing">
      <Round>
        <Button
          look="strong"
          onPress={toggle}
          isDisabled={!can}
          tip={playing ? 'Stop' : 'Play from the cursor'}
          hotkey="play"
          aria-label={playing ? 'Stop' : 'Play'}
        >
          {playing ? <Pause size={20} fill="currentColor" /> : <Play size={20} fill="currentColor" />}
        </Button>
      </Round>
      <Where>
        <strong ref={where} data-testid="where" />
        <span ref={clock} />
        {loading.kind === 'fetching' && <span> · loading the sound {percent(loading.share)}</span>}
        {words && (
          <span>
            {' '}
            · preparing words, {words.ready} of {words.all}
          </span>
        )}
        {loading.kind === 'decoding' && <span> · reading the sound</span>}
        {(problem || loading.kind === 'problem') && (
          <>
            {' '}
            · <span role="alert">{problem || (loading.kind === 'problem' && loading.why)}</span>
          </>
        )}
      </Where>
      <Button
        look={loop ? 'plain' : 'quiet'}
        onPress={() => again(false)}
        isDisabled={!can}
        aria-pressed={loop !== null}
        tip={
          loop
            ? 'Loops what is shown; press to end it, shift O takes the row at the cursor in'
            : 'Plays what is marked, else the row at the cursor, again and again'
        }
        hotkey="loop"
      >
        <Repeat size={17} /> {loop ? loopName(page, loop) : 'Loop'}
      </Button>
      <Button
        look={mirrored ? 'plain' : 'quiet'}
        onPress={flip}
        aria-pressed={mirrored}
        tip="Shows left and right as in a mirror, everywhere; what is written stays"
        hotkey="mirrored"
      >
        <FlipHorizontal2 size={17} /> {mirrored ? 'Mirrored' : 'True sides'}
      </Button>
      <div style={{ width: 190 }}>
        <Slide
          label="Speed"
          name="Speed"
          value={speed}
          min={SLOWEST}
          max={FASTEST}
          step={0.05}
          onChange={(v) => faster(v - speed)}
          text={(v) => `${percent(v)} · ${Math.round(tempo * v)} BPM`}
        />
      </div>
      <DialogTrigger>
        <Button look="quiet" aria-label="What sounds">
          <Volume2 size={18} />
          <span className="wide">
            Music {Math.round(volumes.music * 100)} · Counts {Math.round(volumes.voice * 100)}
          </span>
        </Button>
        <Panel placement="top">
          <Dialog aria-label="What sounds">
            <Volumes />
            <FilterPick />
            <CalledPick />
            <AppVoicePick />
          </Dialog>
        </Panel>
      </DialogTrigger>
    </Bar>
  )
})

/** "Loops eight 3, 3 to 8" or "Loops 4 rows". */
function loopName(page: Page, loop: Stretch): string {
  const rows = page.placed.filter((p) => p.start < loop.to && p.end > loop.from)
  const [first] = rows
  if (rows.length > 2 || !first) return `Loops ${rows.length} rows`
  const name = stretchName(page.placed, loop)
  return `Loops ${first.title && name.startsWith(`${first.title}, `) ? name.slice(first.title.length + 2) : name}`
}
