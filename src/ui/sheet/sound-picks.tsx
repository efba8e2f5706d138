'use client'

import { APP_VOICE_NAMES, APP_VOICES } from '@/core/drill'
import { STEPS_BACK } from '@/core/loudness'
import { setCalling } from '@/core/routine'
import { Choice } from '../parts/choice'
import { Pick, Slide } from '../parts/field'
import { usePlayer, usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'

const percent = (x: number) => `${Math.round(x * 100)} %`

/** Only the low or the high end of the song. */
export function FilterPick() {
  const player = usePlayer()
  const filter = usePlayerState((s) => s.filter)
  return <Pick label="Of the music" value={filter} options={FILTERS} onChange={(f) => player.setFilter(f)} />
}

/** Which voice of the app counts. */
export function AppVoicePick() {
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
export function CalledPick() {
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
