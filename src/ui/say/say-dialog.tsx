'use client'

import { nanoid } from 'nanoid'
import { useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { type DrillPlan, drillTimeline } from '@/core/drill'
import { base64Of } from '@/core/formats/base64'
import { writeWav } from '@/core/formats/wav'
import { changeVoice, keepVoice, removeVoice, setCalling, stretchName, type Voice } from '@/core/routine'
import { common, type Ratio, type Stretch } from '@/core/time'
import { Button } from '../parts/button'
import { Ask } from '../parts/confirm'
import { Pick, Slide } from '../parts/field'
import { Tools } from '../parts/panel'
import { Card, Veil } from '../parts/window'
import { mustLoad } from '../state/devices'
import type { Page } from '../state/page'
import { usePlayer, usePlayerState } from '../state/player'
import { useRoutine } from '../state/routine-store'
import { putRecording } from '../state/saved'
import { desk } from '../theme/tokens'
import { SaidStrip } from './said-strip'
import { type Draft, useCallRecorder } from './use-call-recorder'
import { useWayToRecord } from './way-to-record'

const Box = styled.div`
  display: grid;
  gap: 14px;
  p { color: ${desk.quiet}; font-size: 14.5px; line-height: 1.45; }
  [role='alert'] { color: ${desk.ink}; font-weight: 600; }
`

const HOW_EXACT = [
  { id: 'meant', name: 'on the counts' },
  { id: 'exact', name: 'exactly as said' },
] as const

/** So far pieces are moved by one press: a twelfth of a count. */
const NUDGE = 2

interface Props {
  page: Page
  stretch: Stretch
  /** The floor's plan, where it was asked there. */
  plan?: DrillPlan
  /** Closing it leaves the floor, which was entered for it. */
  fromDesk?: boolean
  close: () => void
}

/** Recording the calls of a stretch in the instructor's own voice, and moving what was recorded. */
export function SayDialog({ page, stretch, plan, fromDesk = false, close }: Props) {
  const toFloor = useWayToRecord(stretch, plan)
  const player = usePlayer()
  const playing = usePlayerState((s) => s.playing)
  const id = useRoutine((s) => s.id)
  const edit = useRoutine((s) => s.edit)
  const voices = useRoutine((s) => s.routine.voices)
  const called = useRoutine((s) => s.routine.called)
  const kept = voices.filter((x) => common(x.stretch, stretch))
  const recorder = useCallRecorder(page, stretch)
  const [speed, setSpeed] = useState<Ratio>(0.7)
  const [asking, setAsking] = useState(false)
  const { state, draft } = recorder
  const busy = state !== 'idle'
  const leave = () => (draft ? setAsking(true) : close())

  const hear = async (at: Ratio) => {
    const list = draft ? [voiceOf(draft, stretch)] : kept
    if (draft) await player.giveRecording(draft.recording, draft.sound).catch(() => {})
    await player.learnVoices(list)
    player.playOnce(
      page,
      drillTimeline({ times: page.times, placed: page.placed, ...stretch, cues: [], voices: list }, at, 0),
    )
  }
  const keep = () => {
    if (!draft) return
    const wav = writeWav({ sampleRate: draft.sound.rate, channels: [draft.sound.samples] })
    // What the outbox cannot save is told by it; the routine goes after the sound it names.
    putRecording(draft.recording, id, base64Of(wav)).catch(() => {})
    player.giveRecording(draft.recording, draft.sound).catch(() => {})
    edit('call counts in your own voice', (r) => {
      const with_ = keepVoice(r, voiceOf(draft, stretch), nanoid)
      // Where numbers were called, they still are wherever nothing was recorded.
      return r.called === 'numbers' ? setCalling(with_, { called: 'own' }) : with_
    })
    recorder.forget()
    setAsking(false)
  }
  return (
    <Veil isOpen onOpenChange={(open) => !open && leave()} isDismissable>
      <Card $width={720}>
        <Dialog>
          <Heading slot="title" level={2}>
            In your own voice: {stretchName(page.placed, stretch)}
          </Heading>
          <Box>
            {busy ? (
              <p role="status">
                {state === 'opening'
                  ? 'Opening the microphone …'
                  : 'After four counts, call or sing these counts to the song. It ends by itself.'}
              </p>
            ) : draft ? (
              <p role="status">
                {draft.pieces.length} {draft.pieces.length === 1 ? 'piece' : 'pieces'} found, each with its
                stress on its place. Hear it, then keep it.
              </p>
            ) : kept.length ? (
              <p>These counts are called by you, at every speed; too long a word is said a little faster.</p>
            ) : (
              <p>
                Put on headphones: what a loudspeaker plays would be recorded too. Say or sing the counts as
                you call them, in any language, as slowly as you like; it is cut at its syllables and sounds
                at every speed.
              </p>
            )}
            {recorder.problem && <p role="alert">{recorder.problem}</p>}
            {draft && <SaidStrip page={page} stretch={stretch} pieces={draft.pieces} exact={false} />}
            {!draft && kept.map((x) => <KeptVoice key={x.id} page={page} voice={x} isDisabled={busy} />)}
            {!busy && (
              <Slide
                label="Speed while you record"
                name="Speed while you record"
                value={speed}
                min={0.5}
                max={1}
                step={0.05}
                onChange={setSpeed}
                text={(x) => `${Math.round(x * 100)} %`}
              />
            )}
            {!draft && kept.length > 0 && called !== 'own' && (
              <p>
                They sound where “my own voice” is chosen to be called: in a step, on the floor, or{' '}
                <Button
                  small
                  look="quiet"
                  onPress={() => edit('call in your own voice', (r) => setCalling(r, { called: 'own' }))}
                >
                  everywhere in this routine
                </Button>
              </p>
            )}
            <Tools>
              {busy ? (
                <Button onPress={recorder.stop}>Stop</Button>
              ) : (
                <>
                  {draft && (
                    <Button look="strong" onPress={keep}>
                      Keep it
                    </Button>
                  )}
                  <Button
                    look={draft || kept.length ? 'plain' : 'strong'}
                    onPress={() => (mustLoad('microphone') ? toFloor() : recorder.start(speed))}
                  >
                    {draft || kept.length ? 'Record again' : 'Record'}
                  </Button>
                  {(draft || kept.length > 0) &&
                    (playing ? (
                      <Button onPress={() => player.stop()}>Stop</Button>
                    ) : (
                      <Button onPress={() => hear(1)}>Hear it at full tempo</Button>
                    ))}
                </>
              )}
              <Button onPress={leave} style={{ marginLeft: 'auto' }}>
                {fromDesk ? 'Back to the desk' : 'Close'}
              </Button>
            </Tools>
          </Box>
          <Ask
            isOpen={asking}
            title="Keep what was recorded?"
            onClose={() => setAsking(false)}
            actions={[
              { name: 'Go on', onPress: () => setAsking(false) },
              { name: 'Throw it away', look: 'danger', onPress: close },
              {
                name: 'Keep it',
                look: 'strong',
                onPress: () => {
                  keep()
                  close()
                },
              },
            ]}
          >
            These calls are recorded and not kept yet.
          </Ask>
        </Dialog>
      </Card>
    </Veil>
  )
}

const voiceOf = (draft: Draft, stretch: Stretch): Voice => ({
  id: draft.recording,
  stretch,
  recording: draft.recording,
  pieces: draft.pieces,
  exact: false,
})

/** A kept recording: its pieces, moved against the counts, or taken out. */
function KeptVoice({ page, voice, isDisabled }: { page: Page; voice: Voice; isDisabled: boolean }) {
  const edit = useRoutine((s) => s.edit)
  const move = (later: number) => edit('move recorded calls', (r) => changeVoice(r, voice.id, { later }))
  return (
    <section aria-label={`Recorded: ${stretchName(page.placed, voice.stretch)}`} data-testid="kept-voice">
      <SaidStrip page={page} stretch={voice.stretch} pieces={voice.pieces} exact={voice.exact} />
      <Tools style={{ alignItems: 'end' }}>
        <Pick
          label="Pieces sound"
          value={voice.exact ? 'exact' : 'meant'}
          options={HOW_EXACT}
          onChange={(how) =>
            edit('how recorded calls sound', (r) => changeVoice(r, voice.id, { exact: how === 'exact' }))
          }
        />
        <Button small isDisabled={isDisabled} onPress={() => move(-NUDGE)}>
          Earlier
        </Button>
        <Button small isDisabled={isDisabled} onPress={() => move(NUDGE)}>
          Later
        </Button>
        <Button
          small
          look="quiet"
          isDisabled={isDisabled}
          onPress={() => edit('take recorded calls out', (r) => removeVoice(r, voice.id))}
        >
          Take it out
        </Button>
      </Tools>
    </section>
  )
}
