'use client'

import { nanoid } from 'nanoid'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { carriedOn, fitTaps, LEAST_TAPS, shiftToSound, type TapFit } from '@/core/grid'
import {
  emptyRoutine,
  everyEight,
  layOut,
  oneHere,
  placePhrases,
  type Repair,
  repair,
  tappedWay,
} from '@/core/routine'
import { linesOf } from '@/core/station'
import { clockText, type Seconds, timeOfTick } from '@/core/time'
import { TAPS } from '../../keys/taps'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { useMoments } from '../../sheet/playhead'
import { useCursor } from '../../state/cursor'
import { sincePress } from '../../state/keys'
import { type Page, useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'

const Pad = styled.button`
  min-height: 96px;
  border: 2px dashed ${desk.azalea};
  border-radius: 16px;
  background: ${desk.azaleaSoft};
  font: inherit;
  font-weight: 650;
  font-size: 17px;
  color: ${desk.ink};
  cursor: pointer;
  &:active { background: ${desk.azalea}; color: #fff; }
`

/** A page of plain half seconds: enough to play a song whose counts are not known. */
function plainPage(duration: Seconds): Page {
  const times = Array.from({ length: Math.max(2, Math.ceil(duration * 2)) }, (_, k) => k / 2)
  const routine = layOut(
    emptyRoutine('-'),
    { counts: times.length, starts: everyEight(0, times.length), sections: [] },
    nanoid,
  )
  const placed = placePhrases(routine)
  return { times, placed, lines: linesOf(placed), tempo: 120, duration, renumbered: false }
}

/** The repair that taps ask for, on the grid there is. */
function repairOf(fit: TapFit, page: Page, steadySong: boolean): Repair {
  const period = 60 / fit.bpm
  const [first, last] = [fit.beats[0] as number, fit.beats.at(-1) as number]
  if (page.times.length < 2 || (fit.steady && steadySong)) {
    const beats = fit.steady ? carriedOn(first, period, page.duration) : fit.beats
    return { kind: 'grid', from: 0, to: page.times.length, beats }
  }
  // Only the stretch that was tapped; what is nearer than half a beat to it gives way.
  const from = page.times.findIndex((t) => t > first - period / 2)
  const to = page.times.findLastIndex((t) => t < last + period / 2) + 1
  return { kind: 'grid', from: Math.max(0, from), to: Math.max(from, to), beats: fit.beats }
}

/** Tapping the beat along the music: what the taps say is shown before it is taken. */
export function Tapping({ page, close }: { page: Page; close: () => void }) {
  const { heard } = useSong()
  const player = usePlayer()
  const edit = useRoutine((s) => s.edit)
  const tick = useCursor((s) => s.tick)
  const [taps, setTaps] = useState<Seconds[]>([])
  const [running, setRunning] = useState(true)
  const plain = useMemo(() => plainPage(page.duration), [page.duration])
  const start = useRef(page.times.length > 1 ? Math.max(0, timeOfTick(page.times, tick)) : 0)
  const clock = useRef<HTMLParagraphElement>(null)
  const fit = useMemo(() => fitTaps(taps), [taps])
  // What was heard is exact to some thousandths, a hand to some hundredths: the taps only say which of it is meant.
  const way = useMemo(
    () => (heard ? tappedWay(taps, page.times, heard.hearing.beats, heard.hearing.tempi) : null),
    [taps, page.times, heard],
  )
  const other = way !== 'as counted' && way

  const play = useCallback(() => {
    setTaps([])
    setRunning(true)
    player.playFrom(plain, Math.round(start.current * 48), [])
    player.mute('music')
  }, [player, plain])
  const stop = useCallback(() => {
    player.stop()
    setRunning(false)
  }, [player])
  const tap = useCallback(
    (press: { timeStamp: number }) => {
      const then = player.tickNow(plain, sincePress(press))
      if (then !== null) setTaps((list) => [...list, timeOfTick(plain.times, then)])
    },
    [player, plain],
  )
  const takeTaps = useCallback(() => {
    stop()
    if (fit && heard) {
      const { peaks, hearing } = heard
      // A hand leads or lags by some hundredths; the strokes of the song say by how much.
      const by = shiftToSound(peaks, fit.beats)
      const moved = { ...fit, beats: fit.beats.map((t) => t + by) }
      const blank = page.times.length < 2
      edit('take the tapped beat', (r) => {
        const change = repairOf(moved, page, hearing.steady)
        const next = repair(r, hearing.beats, change, nanoid)
        if (!blank || change.kind !== 'grid') return next
        // Without any counts before, the first tap is taken for a 1.
        const first = change.beats.findIndex((t) => Math.abs(t - (moved.beats[0] as number)) < 0.01)
        return { ...next, routine: oneHere(next.routine, Math.max(0, first)) }
      })
    }
    close()
  }, [fit, heard, page, edit, stop, close])
  const take = useCallback(() => {
    if (!other) return takeTaps()
    stop()
    edit(other.name.toLowerCase(), (r) => other.change(r, nanoid))
    close()
  }, [other, takeTaps, edit, stop, close])

  useMoments(plain, (now) => {
    if (!clock.current || now === null) return
    const t = timeOfTick(plain.times, now)
    clock.current.textContent = `${clockText(t, true)} of ${clockText(page.duration)}`
    clock.current.dataset.seconds = t.toFixed(3)
  })
  useEffect(() => {
    play()
    return () => player.stop()
  }, [play, player])
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const isTap = TAPS.has(e.key) && running
      if (!isTap && e.key !== 'Escape' && e.key !== 't') return
      // Before the transport and the sheet, which use the same keys.
      e.preventDefault()
      e.stopImmediatePropagation()
      if (e.key === 'Escape') {
        stop()
        close()
      } else if (e.key === 't') {
        if (fit || other) take()
        else play()
      } else if (!e.repeat) tap(e)
    }
    window.addEventListener('keydown', press, true)
    return () => window.removeEventListener('keydown', press, true)
  }, [running, fit, other, tap, take, play, stop, close])

  return (
    <Part aria-label="Tapping the beat">
      <h2>Tap along</h2>
      <p>
        Tap on every beat: the space bar, Enter, a pedal, or the field below. Two taps tell which of the ways
        that were heard you mean, eight lay a beat of your own. T takes it, Escape leaves it.
      </p>
      <Pad type="button" onPointerDown={tap} disabled={!running}>
        {running ? `Tap (${taps.length})` : 'Stopped'}
      </Pad>
      <p ref={clock} data-testid="tap-clock" />
      <p role="status" data-testid="tapped">
        {fit
          ? `${fit.bpm.toFixed(1)} BPM, ${fit.steady ? 'steady' : 'moving'}, your taps within ${Math.round(fit.spread * 1000)} ms${fit.dropped ? `, ${fit.dropped} thrown out` : ''}.`
          : `A beat of your own takes at least ${LEAST_TAPS} even taps; eight are better.`}
      </p>
      {way && (
        <p role="status" data-testid="tapped-way">
          {other ? (
            <>
              You tap another way that was heard: <strong>{other.name}</strong>
            </>
          ) : (
            'You tap as it is counted.'
          )}
        </p>
      )}
      <Tools>
        <Button
          small
          look="strong"
          isDisabled={!fit && !other}
          onPress={take}
          tip={other ? 'The counts go where this was heard' : 'The counts go where you tapped'}
          hotkey="tap"
        >
          Take it
        </Button>
        {other && (
          <Button
            small
            isDisabled={!fit}
            onPress={takeTaps}
            tip="The counts go where you tapped, not where it was heard"
          >
            Take the taps
          </Button>
        )}
        <Button small onPress={play}>
          Tap again
        </Button>
        <Button
          small
          look="quiet"
          onPress={() => {
            stop()
            close()
          }}
          hotkey="unmark"
        >
          Leave it
        </Button>
      </Tools>
    </Part>
  )
}
