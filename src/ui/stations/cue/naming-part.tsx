'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import { movesLike } from '@/core/choreo'
import { drillTimeline, type Unnamed, unnamed } from '@/core/drill'
import { type Cue, type Layer, putCue, type Side } from '@/core/routine'
import { readSide, unnamedCues } from '@/core/station'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { Suggest } from '../../parts/suggest'
import { useCursor } from '../../state/cursor'
import { useMoves } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
import { useCue } from './cue-store'
import { placeLabel } from './place-label'

/** What was said in one's own voice becomes cues: gone through one by one, each heard, typed, enter. */
export function NamingPart({ page }: { page: Page }) {
  const voices = useRoutine((s) => s.routine.voices)
  const cues = useRoutine((s) => s.routine.cues)
  const repeats = useRoutine((s) => s.routine.repeats)
  const list = useMemo(() => unnamed({ voices, cues, repeats }), [voices, cues, repeats])
  /** From where on it is gone through; null while it is not. */
  const [from, setFrom] = useState<Ticks | null>(null)
  if (!list.length) return null
  const one = from === null ? null : (list.find((u) => u.at >= from) ?? null)
  return (
    <Part aria-label="What was said" data-testid="naming">
      <h3>
        {list.length} said {list.length === 1 ? 'place has' : 'places have'} no move yet
      </h3>
      {one ? (
        <SaidHere key={one.at} page={page} one={one} onNext={setFrom} />
      ) : (
        <Tools>
          <Button small look="strong" onPress={() => setFrom(list[0]?.at ?? null)}>
            Name them one by one
          </Button>
        </Tools>
      )}
    </Part>
  )
}

interface SaidProps {
  page: Page
  one: Unnamed
  /** Goes on from a place; null to stop. */
  onNext: (from: Ticks | null) => void
}

/** One place where something was said: heard as it was said, and named. */
function SaidHere({ page, one, onNext }: SaidProps) {
  const edit = useRoutine((s) => s.edit)
  const voice = useRoutine((s) => s.routine.voices.find((v) => v.id === one.voice))
  const player = usePlayer()
  const hear = async () => {
    if (!voice) return
    await player.learnVoices([voice])
    const stretch = { from: one.at, to: one.at + one.length }
    player.playOnce(
      page,
      drillTimeline({ times: page.times, placed: page.placed, ...stretch, cues: [], voices: [voice] }, 1, 0),
    )
  }
  const begun = useEffectEvent(hear)
  useEffect(() => {
    begun()
  }, [])
  const set = (move: string, side: Side) => {
    const cue = { id: nanoid(), at: one.at, length: one.length, layer: 'feet' as const, move, side, call: '' }
    return edit(`cue “${move}”`, (r) => putCue(r, cue))
  }
  return (
    <NameHere
      {...{ page, onNext, hear, set, at: one.at, layer: 'feet' }}
      label="What was said here"
      after="It stays as your call."
    />
  )
}

/** Cues that were pressed in without a name: gone through one by one, each seen in the film, typed, enter. */
export function NameHits({ page }: { page: Page }) {
  const cues = useRoutine((s) => s.routine.cues)
  const list = useMemo(() => unnamedCues(cues), [cues])
  const from = useCue((s) => s.namingFrom)
  const send = useCue((s) => s.send)
  const one = from === null ? undefined : list.find((c) => c.at >= from)
  const through = from !== null && !one
  // After the last one the sheet has the keys again.
  useEffect(() => {
    if (through) send({ kind: 'name hits', from: null })
  }, [through, send])
  if (!list.length) return null
  const next = (at: Ticks | null) => send({ kind: 'name hits', from: at })
  return (
    <Part aria-label="Hits without a name" data-testid="name-hits">
      <h3>
        {list.length} {list.length === 1 ? 'hit has' : 'hits have'} no name yet
      </h3>
      {one ? (
        <HitHere key={one.id} page={page} cue={one} onNext={next} />
      ) : (
        <Tools>
          <Button small look="strong" onPress={() => next(list[0]?.at ?? null)}>
            Name them one by one
          </Button>
        </Tools>
      )}
    </Part>
  )
}

/** How much is played before and after a hit. */
const AROUND: Ticks = TICKS_PER_COUNT

/** One hit: seen, heard again, and named. */
function HitHere({ page, cue, onNext }: { page: Page; cue: Cue; onNext: (from: Ticks | null) => void }) {
  const edit = useRoutine((s) => s.edit)
  const player = usePlayer()
  const hear = () => {
    const from = Math.max(0, cue.at - AROUND)
    const to = Math.min(cue.at + cue.length + AROUND, page.placed.at(-1)?.end ?? 0)
    const { speed } = player.state.getState()
    player.playOnce(
      page,
      drillTimeline({ times: page.times, placed: page.placed, from, to, cues: [] }, speed, 0),
    )
  }
  const set = (move: string, side: Side) =>
    edit(`name “${move}”`, (r) => {
      const now = r.cues.find((c) => c.id === cue.id)
      return now ? putCue(r, { ...now, move, side }) : r
    })
  return (
    <NameHere
      {...{ page, onNext, hear, set, at: cue.at, layer: cue.layer }}
      label="What it is"
      after="It keeps its ? until it has a name."
    />
  )
}

interface NamingProps {
  page: Page
  at: Ticks
  layer: Layer
  /** What is asked for. */
  label: string
  /** What becomes of it, beside what the keys do. */
  after: string
  hear: () => void
  /** @returns true where it was taken */
  set: (move: string, side: Side) => boolean
  /** Goes on from a place; null to stop. */
  onNext: (from: Ticks | null) => void
}

/** One place, named. */
function NameHere({ page, at, layer, label, after, hear, set, onNext }: NamingProps) {
  const [text, setText] = useState('')
  const field = useRef<HTMLInputElement>(null)
  const moves = useMoves((s) => s.moves)
  const to = useCursor((s) => s.to)
  const begun = useEffectEvent(() => {
    to(at, layer)
    field.current?.focus()
  })
  useEffect(() => begun(), [])
  const name = () => {
    const { move, side } = readSide(text.trim())
    if (!move || set(move, side ?? 'none')) onNext(at + 1)
  }
  return (
    <>
      <p role="status">On {placeLabel(page, at)}</p>
      <Suggest
        label={label}
        value={text}
        offers={movesLike(text, moves, 6)
          .map((m) => m.name)
          .filter((o) => o !== text)}
        inputRef={field}
        onChange={setText}
        onEnter={name}
        onEscape={() => !text && onNext(null)}
        placeholder="step R, clap, kick L …"
      />
      <Tools>
        <Button small onPress={hear}>
          Hear it again
        </Button>
        <Button small look="quiet" onPress={() => onNext(at + 1)} tip="It is no move of its own">
          Skip
        </Button>
        <Button small look="quiet" onPress={() => onNext(null)}>
          Stop here
        </Button>
      </Tools>
      <p>Enter sets it and goes on; an empty one is skipped. {after}</p>
    </>
  )
}
