'use client'

import { FlipHorizontal2, Pause, Play, Repeat, Volume2 } from 'lucide-react'
import { memo, useEffect, useRef, useState } from 'react'
import { Dialog, DialogTrigger, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { APP_VOICE_NAMES, APP_VOICES } from '@/core/drill'
import { STEPS_BACK } from '@/core/loudness'
import { phraseAt, pieceOf, setCalling, stretchName } from '@/core/routine'
import { clockText, FASTEST, holds, SLOWEST, type Stretch, timeOfTick } from '@/core/time'
import { bound } from '../keys/table'
import { Button } from '../parts/button'
import { Choice } from '../parts/choice'
import { Pick, Slide } from '../parts/field'
import { useCalls, useStarts } from '../state/choreo'
import { useCursor } from '../state/cursor'
import { useKeys } from '../state/keys'
import { type Page, tempoOfTick } from '../state/page'
import { usePlayer, usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { desk, font, NARROW } from '../theme/tokens'
import { useMoments } from './playhead'
import { spokenPlace } from './sheet'

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
  const player = usePlayer()
  const { playing, speed, volumes, loading, problem, words } = usePlayerState((s) => s)
  const starts = useStarts()
  const calls = useCalls(page)
  const { mirrored, flip } = useView(useShallow(({ mirrored, flip }) => ({ mirrored, flip })))
  const tick = useCursor((s) => s.tick)
  const { loop, setLoop } = useCursor(useShallow(({ loop, setLoop }) => ({ loop, setLoop })))
  const [tempo, setTempo] = useState(() => tempoOfTick(page, tick))
  const where = useRef<HTMLElement>(null)
  const clock = useRef<HTMLElement>(null)
  const can = page.times.length > 1 && loading.kind !== 'problem'

  const play = (from: number) => player.playFrom(page, from, starts, useCursor.getState().loop, calls)
  /** What is marked, or else the row at the cursor, again and again; pressed again, not any more. */
  const again = (reach: boolean) => {
    const row = phraseAt(page.placed, tick)
    if (!row) return
    const { marked } = useCursor.getState()
    const here =
      marked && (holds(marked, tick) || marked.to === tick)
        ? marked
        : pieceOf(page.placed, { from: row.start, to: row.end })
    const wider = reach && loop
    const next = wider
      ? { from: Math.min(loop.from, here.from), to: Math.max(loop.to, here.to) }
      : loop && !reach
        ? null
        : here
    setLoop(next)
    const now = playing ? player.tickNow(page) : null
    if (now !== null) play(Math.max(0, Math.round(now)))
  }
  const toggle = () => {
    if (!playing) return can && play(tick)
    player.pause(page)
  }
  const faster = (by: number) => player.setSpeed(speed + by)
  useKeys(
    bound({
      play: toggle,
      playHere: () => can && play(tick),
      slower: () => faster(-0.05),
      faster: () => faster(0.05),
      loop: () => again(false),
      loopMore: () => again(true),
      mirrored: flip,
    }),
  )
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

/** Only the low or the high end of the song. */
function FilterPick() {
  const player = usePlayer()
  const filter = usePlayerState((s) => s.filter)
  return <Pick label="Of the music" value={filter} options={FILTERS} onChange={(f) => player.setFilter(f)} />
}

/** Which voice of the app counts. */
function AppVoicePick() {
  const player = usePlayer()
  const voice = usePlayerState((s) => s.appVoice)
  return (
    <Pick
      label="The app’s voice"
      value={voice}
      options={APP_VOICES.map((id) => ({ id, name: APP_VOICE_NAMES[id] }))}
      // What cannot be had is said when it is to be heard.
      onChange={(v) => player.speakAs(v).catch(() => {})}
    />
  )
}

/** What the caller says on this routine. */
function CalledPick() {
  const edit = useRoutine((s) => s.edit)
  const called = useRoutine((s) => s.routine.called)
  const ahead = useRoutine((s) => s.routine.calledAhead)
  return (
    <>
      <Choice
        label="What is called"
        value={called}
        options={CALLED}
        onChange={(c) => edit('change what is called', (r) => setCalling(r, { called: c }))}
      />
      {(called === 'words' || called === 'mix') && (
        <Choice
          label="A move is called"
          value={ahead ? 'ahead' : 'on'}
          options={WHEN_CALLED}
          onChange={(w) =>
            edit('change when moves are called', (r) => setCalling(r, { calledAhead: w === 'ahead' }))
          }
        />
      )}
    </>
  )
}

const WHEN_CALLED = [
  { id: 'on', name: 'as it is danced' },
  { id: 'ahead', name: 'one count before' },
] as const

const CALLED = [
  { id: 'numbers', name: 'numbers' },
  { id: 'words', name: 'the moves' },
  { id: 'mix', name: 'your own calls, else numbers' },
  { id: 'lyric', name: 'the lyric' },
  { id: 'own', name: 'your own voice, else numbers' },
] as const

const FILTERS = [
  { id: 'all', name: 'all' },
  { id: 'low', name: 'low end' },
  { id: 'high', name: 'high end' },
] as const

/** How loud music, clicks and called counts are, and how far the music steps back under what is said. */
export function Volumes({ dark = false }: { dark?: boolean }) {
  const player = usePlayer()
  const volumes = usePlayerState((s) => s.volumes)
  const stepBack = usePlayerState((s) => s.stepBack)
  const names = { music: 'Music', clicks: 'Clicks', voice: 'Called counts' } as const
  return (
    <>
      {(['music', 'clicks', 'voice'] as const).map((part) => (
        <Slide
          key={part}
          label={names[part]}
          name={names[part]}
          value={volumes[part]}
          min={0}
          max={1}
          step={0.05}
          dark={dark}
          onChange={(v) => player.setVolumes({ [part]: v })}
          text={(v) => (v === 0 ? 'off' : percent(v))}
        />
      ))}
      <Slide
        label="Music under a voice"
        name="Music under a voice"
        value={stepBack}
        min={STEPS_BACK[0]}
        max={STEPS_BACK[STEPS_BACK.length - 1] as number}
        step={3}
        dark={dark}
        onChange={(d) => player.setStepBack(d)}
        text={(d) => (d === 0 ? 'as it is' : `${d} dB softer`)}
      />
    </>
  )
}
