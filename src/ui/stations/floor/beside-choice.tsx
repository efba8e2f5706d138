'use client'

import { useState } from 'react'
import { ToggleButton } from 'react-aria-components'
import styled from 'styled-components'
import { useShallow } from 'zustand/react/shallow'
import { KEYS } from '../../keys/table'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { useView } from '../../state/view'
import { floor } from '../../theme/tokens'
import { Toggles } from './dark'
import { saveFilmed } from './mirror'
import type { Filmed } from './reel'
import type { useCamera } from './use-camera'

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

interface Props {
  camera: ReturnType<typeof useCamera>
  filmed: Filmed | null
  forget: () => void
}

/** What stands beside the counts, and the last repetition the camera saw. */
export function BesideChoice({ camera, filmed, forget }: Props) {
  const { beside, replay, show } = useView(
    useShallow(({ beside, replay, show }) => ({ beside, replay, show })),
  )
  const [asking, setAsking] = useState(false)
  return (
    <div style={{ display: 'grid', gap: 10 }}>
      <div>
        <div className="label">Beside the counts ({KEYS.beside.shown})</div>
        <Toggles
          aria-label="Beside the counts"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[beside]}
          onSelectionChange={(keys) => show({ beside: [...keys][0] as typeof beside })}
        >
          <ToggleButton id="none">Nothing</ToggleButton>
          <ToggleButton id="camera">Camera</ToggleButton>
          <ToggleButton id="figure">Figure</ToggleButton>
        </Toggles>
      </div>
      {beside === 'camera' && (
        <div>
          <div className="label">The camera’s mirror shows ({KEYS.replay.shown})</div>
          <Toggles
            aria-label="The camera’s mirror shows"
            selectionMode="single"
            disallowEmptySelection
            selectedKeys={[replay]}
            onSelectionChange={(keys) => show({ replay: [...keys][0] as typeof replay })}
          >
            <ToggleButton id="now">Now</ToggleButton>
            <ToggleButton id="last">Last time</ToggleButton>
            <ToggleButton id="both">Both</ToggleButton>
          </Toggles>
        </div>
      )}
      {beside === 'camera' && camera.problem && (
        <p role="alert" style={{ color: floor.quiet, fontSize: 14 }}>
          {camera.problem} A drawn figure stands in.
        </p>
      )}
      {filmed && (
        <Kept>
          {/* biome-ignore lint/a11y/useMediaCaption: it is filmed without sound */}
          <video src={filmed.url} controls playsInline aria-label="The last repetition" />
          <p>
            {filmed.label}, {Math.round(filmed.speed * 100)} %. It is kept nowhere unless you save it, and
            goes with this page.
          </p>
          <div>
            <Button look="dark" small onPress={() => saveFilmed(filmed)}>
              Save it to this computer
            </Button>
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
                  forget()
                },
              },
            ]}
          >
            It was not saved unless you did so. It cannot be brought back.
          </Ask>
        </Kept>
      )}
    </div>
  )
}
