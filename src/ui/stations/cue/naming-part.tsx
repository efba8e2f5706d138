'use client'

import { nanoid } from 'nanoid'
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import { movesLike } from '@/core/choreo'
import { drillTimeline, type Unnamed, unnamed } from '@/core/drill'
import { putCue } from '@/core/routine'
import { readSide } from '@/core/station'
import type { Ticks } from '@/core/time'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { Suggest } from '../../parts/suggest'
import { useCursor } from '../../state/cursor'
import { useMoves } from '../../state/moves-store'
import type { Page } from '../../state/page'
import { usePlayer } from '../../state/player'
import { useRoutine } from '../../state/routine-store'
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
        <Naming key={one.at} page={page} one={one} left={list.length} onNext={setFrom} />
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

interface NamingProps {
  page: Page
  one: Unnamed
  left: number
  /** Goes on from a place; null to stop. */
  onNext: (from: Ticks | null) => void
}

/** One place: heard as it was said, and named. */
function Naming({ page, one, onNext }: NamingProps) {
  const [text, setText] = useState('')
  const field = useRef<HTMLInputElement>(null)
  const moves = useMoves((s) => s.moves)
  const edit = useRoutine((s) => s.edit)
  const voice = useRoutine((s) => s.routine.voices.find((v) => v.id === one.voice))
  const to = useCursor((s) => s.to)
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
  const begun = useEffectEvent(() => {
    to(one.at, 'feet')
    field.current?.focus()
    hear()
  })
  useEffect(() => begun(), [])
  const name = () => {
    const { move, side } = readSide(text.trim())
    if (!move) return onNext(one.at + 1)
    const cue = { id: nanoid(), at: one.at, length: one.length, layer: 'feet' as const, move, call: '' }
    if (edit(`cue “${move}”`, (r) => putCue(r, { ...cue, side: side ?? 'none' }))) onNext(one.at + 1)
  }
  return (
    <>
      <p role="status">On {placeLabel(page, one.at)}</p>
      <Suggest
        label="What was said here"
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
        <Button small look="quiet" onPress={() => onNext(one.at + 1)} tip="It is no move of its own">
          Skip
        </Button>
        <Button small look="quiet" onPress={() => onNext(null)}>
          Stop here
        </Button>
      </Tools>
      <p>Enter sets it and goes on; an empty one is skipped. It stays as your call.</p>
    </>
  )
}
