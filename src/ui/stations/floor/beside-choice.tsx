'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { isPlanned } from '@/core/station'
import { KEYS } from '../../keys/table'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { useFilmsState } from '../../state/films'
import { useView } from '../../state/view'
import { floor } from '../../theme/tokens'
import { useDevices } from './floor-devices'
import { useFloor } from './floor-store'
import { saveFilmed } from './mirror'
import { OneOf } from './one-of'
import type { Filmed } from './reel'

const Kept = styled.div`
  display: grid;
  gap: 8px;
  padding: 10px;
  border: 1.5px solid ${floor.line};
  border-radius: 12px;
  video { width: 100%; border-radius: 8px; background: #000; }
  div { display: flex; gap: 8px; flex-wrap: wrap; }
  p { font-size: 13.5px; color: ${floor.quiet}; }
`

const BESIDE = [
  { key: 'none', name: 'Nothing' },
  { key: 'camera', name: 'Camera' },
  { key: 'figure', name: 'Figure' },
  { key: 'plan', name: 'Plan' },
  { key: 'film', name: 'Film' },
] as const
const FILMED = [
  { key: 'plain', name: 'As the words' },
  { key: 'large', name: 'Larger' },
  { key: 'figure', name: 'With the figure' },
] as const
const HEARD = [
  { key: 'song', name: 'The song' },
  { key: 'film', name: 'The film itself' },
] as const
const REPLAYS = [
  { key: 'now', name: 'Now' },
  { key: 'last', name: 'Last time' },
  { key: 'both', name: 'Both' },
] as const

/** What stands beside the counts, and the last repetition the camera saw. */
export function BesideChoice() {
  const { camera, filmed } = useDevices()
  const {
    beside,
    replay,
    filmed: size,
    filmSound,
    show,
  } = useView(
    useShallow(({ beside, replay, filmed, filmSound, show }) => ({
      beside,
      replay,
      filmed,
      filmSound,
      show,
    })),
  )
  const films = useFloor(({ routine }) => routine.films.some((f) => f.takes.length > 0))
  const planned = useFloor(({ routine }) => isPlanned(routine))
  return (
    <div style={{ display: 'grid', gap: 10 }}>
      <OneOf
        label={`Beside the counts (${KEYS.beside.shown})`}
        name="Beside the counts"
        options={BESIDE.filter(
          (b) => b.key === beside || ((b.key !== 'film' || films) && (b.key !== 'plan' || planned)),
        )}
        chosen={beside}
        onChoose={(next) => show({ beside: next })}
      />
      {beside === 'camera' && (
        <OneOf
          label={`The camera’s mirror shows (${KEYS.replay.shown})`}
          name="The camera’s mirror shows"
          options={REPLAYS}
          chosen={replay}
          onChoose={(next) => show({ replay: next })}
        />
      )}
      {beside === 'plan' && <WhoAmI />}
      {beside === 'film' &&
        (films ? (
          <>
            <OneOf
              label={`The film (${KEYS.replay.shown} for another)`}
              name="How large the film is"
              options={FILMED}
              chosen={size}
              onChoose={(next) => show({ filmed: next })}
            />
            <OneOf
              label="Heard"
              name="What is heard with the film"
              options={HEARD}
              chosen={filmSound ? 'film' : 'song'}
              onChoose={(next) => show({ filmSound: next === 'film' })}
            />
          </>
        ) : (
          <p style={{ color: floor.quiet, fontSize: 14 }}>
            There is no film of this dance whose takes are known: add one on Cue. A drawn figure stands in.
          </p>
        ))}
      {beside === 'camera' && camera.problem && (
        <p role="alert" style={{ color: floor.quiet, fontSize: 14 }}>
          {camera.problem} A drawn figure stands in.
        </p>
      )}
      {beside === 'camera' && <KeepSeen />}
      {filmed && <LastFilmed key={filmed.url} filmed={filmed} />}
    </div>
  )
}

/** Whose place is said on the plan; there only where several dance. */
function WhoAmI() {
  const dancers = useFloor((s) => s.routine.dancers)
  const dancer = useView((v) => v.dancer)
  const show = useView((v) => v.show)
  if (dancers.length < 2) return null
  return (
    <OneOf
      label="Whose place is said"
      name="Whose place is said"
      options={[{ key: 'nobody', name: 'Nobody’s' }, ...dancers.map((d) => ({ key: d.id, name: d.name }))]}
      chosen={dancers.some((d) => d.id === dancer) ? dancer : 'nobody'}
      onChoose={(id) => show({ dancer: id === 'nobody' ? '' : id })}
    />
  )
}

const WISHES = [
  { key: 'forgotten', name: 'Is forgotten' },
  { key: 'kept', name: 'Is kept with the dance' },
] as const

/** What becomes of what the camera saw; keeping it is asked for once a device. */
function KeepSeen() {
  const keepSeen = useView((v) => v.keepSeen)
  const show = useView((v) => v.show)
  const [asking, setAsking] = useState(false)
  return (
    <>
      <OneOf
        label="The last repetition of a drill"
        name="The last repetition of a drill"
        options={WISHES}
        chosen={keepSeen ? 'kept' : 'forgotten'}
        onChoose={(next) => (next === 'forgotten' ? show({ keepSeen: false }) : setAsking(true))}
      />
      <Ask
        isOpen={asking}
        title="Keep what the camera sees?"
        onClose={() => setAsking(false)}
        actions={[
          { name: 'Forget it as before', onPress: () => setAsking(false) },
          {
            name: 'Keep it',
            look: 'strong',
            onPress: () => {
              show({ keepSeen: true })
              setAsking(false)
            },
          },
        ]}
      >
        While the camera is open, the last whole repetition of every drill on this device becomes a film of
        its dance. It has no sound, stays on this machine, and is taken out on Cue like any film.
      </Ask>
    </>
  )
}

function LastFilmed({ filmed }: { filmed: Filmed }) {
  const { forgetFilmed, keptSeen } = useDevices()
  const [asking, setAsking] = useState(false)
  const tasks = useFilmsState((s) => s.tasks)
  const { kept, keep } = keptSeen
  return (
    <Kept>
      {/* biome-ignore lint/a11y/useMediaCaption: it is filmed without sound */}
      <video src={filmed.url} controls playsInline aria-label="The last repetition" />
      <p>
        {filmed.label}, {Math.round(filmed.speed * 100)} %.{' '}
        {kept ? '' : 'It is kept nowhere unless you save it, and goes with this page.'}
      </p>
      {kept && <p role="status">Kept with the dance.</p>}
      {tasks.map((t) => (
        <p key={t.id} role={t.problem ? 'alert' : 'status'}>
          {t.problem || `${t.doing} …`}
        </p>
      ))}
      <div>
        <Button look="dark" small onPress={() => saveFilmed(filmed)}>
          Save it to this computer
        </Button>
        {filmed.at !== null && !kept && (
          <Button
            look="dark"
            small
            tip="As a film of this dance, on this machine only: beside the counts, on Cue, in Compare"
            onPress={keep}
          >
            Keep it with the dance
          </Button>
        )}
        <Button look="dark" small onPress={() => setAsking(true)}>
          Forget it
        </Button>
      </div>
      <Ask
        isOpen={asking}
        title="Forget this film?"
        onClose={() => setAsking(false)}
        actions={[
          { name: 'Hold it', onPress: () => setAsking(false) },
          {
            name: 'Forget it',
            look: 'danger',
            onPress: () => {
              setAsking(false)
              forgetFilmed()
            },
          },
        ]}
      >
        It was not saved unless you did so. It cannot be brought back.
      </Ask>
    </Kept>
  )
}
