'use client'

import { Mic, Volume2 } from 'lucide-react'
import { useEffect, useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { APP_VOICE_NAMES, APP_VOICES, OWN_CALLS, type OwnCall, type SpokenWord } from '@/core/drill'
import { base64Of } from '@/core/formats/base64'
import { said } from '@/core/formats/said'
import { writeWav } from '@/core/formats/wav'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Card, Veil } from '../../parts/window'
import { fetchOwnCounts, type OwnCount, ownCountsIn } from '../../state/api'
import { mustLoad } from '../../state/devices'
import { usePlayer, usePlayerState } from '../../state/player'
import { putOwnCounts, removeOwnCounts } from '../../state/saved'
import { desk, floor, font } from '../../theme/tokens'
import { Flip } from './dark'
import { useDevices } from './floor-devices'
import { OneOf } from './one-of'
import { useRecorder } from './use-recorder'

const SAY: Record<OwnCall, string> = {
  '1': 'one',
  '2': 'two',
  '3': 'three',
  '4': 'four',
  '5': 'five',
  '6': 'six',
  '7': 'seven',
  '8': 'eight',
  '&': 'and',
}

const Prompt = styled.p`
  font: 700 34px/1.2 ${font.display};
  min-height: 2.4em;
  text-align: center;
  display: grid;
  align-content: center;
  small { font: 500 15px/1.4 ${font.text}; color: ${desk.quiet}; }
`

const Words = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
  li { display: flex; align-items: center; gap: 6px; border: 1.5px solid ${desk.line}; border-radius: 10px; padding: 6px 8px 6px 12px; background: ${desk.card}; }
  li[data-now='true'] { border-color: ${desk.azalea}; }
  b { font: 700 18px/1 ${font.display}; flex: 1; }
  small { color: ${desk.quiet}; font-weight: 500; }
`

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
`

const wavOf = (word: SpokenWord) => base64Of(writeWav({ sampleRate: word.rate, channels: [word.samples] }))

/** Counts in the instructor's own voice: a switch for this device, and the recording of "1 to 8, and". */
export function OwnVoice() {
  const { arrival, load } = useDevices()
  // The page was loaded to record.
  const recording = arrival?.kind === 'own counts'
  const player = usePlayer()
  const appVoice = usePlayerState((s) => s.appVoice)
  const [own, setOwn] = useState<OwnCount[] | null>(null)
  const [on, setOn] = useState(false)
  const [open, setOpen] = useState(false)
  const [problem, setProblem] = useState('')
  useEffect(() => {
    if (recording) setOpen(true)
  }, [recording])
  useEffect(() => {
    let here = true
    setOn(player.ownVoice)
    fetchOwnCounts().then(
      (list) => here && setOwn(list),
      (e: unknown) => here && setProblem(`Your recorded counts cannot be read: ${said(e)}`),
    )
    return () => {
      here = false
    }
  }, [player])
  const use = (list: OwnCount[] | null) => {
    setOn(list !== null)
    player.countWith(list).catch((e: unknown) => setProblem(said(e)))
  }
  return (
    <div style={{ display: 'grid', gap: 10 }}>
      {own && own.length > 0 && (
        <Flip isSelected={on} onChange={(yes) => use(yes ? own : null)}>
          Counted in my own voice <i aria-hidden />
        </Flip>
      )}
      <Button look="dark" small onPress={() => (mustLoad('microphone') ? load('own counts') : setOpen(true))}>
        <Mic size={15} /> {own?.length ? 'Your recorded counts' : 'Count in your own voice'}
      </Button>
      <OneOf
        label="The app’s voice"
        options={APP_VOICES.map((key) => ({ key, name: APP_VOICE_NAMES[key] }))}
        chosen={appVoice}
        onChoose={(v) => player.speakAs(v).catch((e: unknown) => setProblem(said(e)))}
      />
      {problem && (
        <p role="alert" style={{ color: floor.quiet, fontSize: 14 }}>
          {problem}
        </p>
      )}
      {open && (
        <Recording
          own={own ?? []}
          close={() => setOpen(false)}
          changed={(list) => {
            setOwn(list)
            use(list.length ? list : null)
          }}
        />
      )}
    </div>
  )
}

function Recording({
  own,
  close,
  changed,
}: {
  own: readonly OwnCount[]
  close: () => void
  changed: (list: OwnCount[]) => void
}) {
  const [drafts, setDrafts] = useState<ReadonlyMap<OwnCall, string>>(new Map())
  const recorder = useRecorder((call, word) => setDrafts((d) => new Map(d).set(call, wavOf(word))))
  const [problem, setProblem] = useState('')
  const [asking, setAsking] = useState<'leave' | 'remove' | null>(null)
  const { asked, opening } = recorder
  const soundOf = (call: OwnCall) => drafts.get(call) ?? own.find((o) => o.call === call)?.wav
  const missing = OWN_CALLS.filter((c) => !soundOf(c))
  const keep = async () => {
    recorder.stop()
    try {
      changed(ownCountsIn(await putOwnCounts([...drafts].map(([call, wav]) => ({ call, wav })))))
      close()
    } catch (e) {
      setProblem(`Not kept yet: ${said(e)}`)
    }
  }
  const remove = async () => {
    setAsking(null)
    try {
      await removeOwnCounts()
      changed([])
    } catch (e) {
      setProblem(said(e))
    }
  }
  const leave = () => (drafts.size ? setAsking('leave') : close())
  const now = asked[0]
  const busy = opening || now !== undefined
  const trouble = problem || recorder.problem
  return (
    <Veil isOpen onOpenChange={(open) => !open && leave()} isDismissable>
      <Card $width={560}>
        <Dialog>
          <Heading slot="title" level={2}>
            Count in your own voice
          </Heading>
          <Prompt role="status" data-testid="prompt">
            {now ? (
              <>
                <span>
                  Say: <span style={{ color: desk.azalea }}>{SAY[now]}</span>
                </span>
                <small>{asked.length > 1 ? `${asked.length - 1} more after it` : 'the last one'}</small>
              </>
            ) : opening ? (
              <small>Opening the microphone …</small>
            ) : (
              <small>
                Say each count as you call it on the floor; it is taken as soon as you have said it. What is
                not recorded is said by the voice of the app.
              </small>
            )}
          </Prompt>
          {trouble && <p role="alert">{trouble}</p>}
          <Words>
            {OWN_CALLS.map((c) => (
              <li key={c} data-now={c === now}>
                <b>
                  {c} <small>{drafts.has(c) ? 'new' : soundOf(c) ? '' : 'app'}</small>
                </b>
                <Button
                  small
                  look="quiet"
                  aria-label={`Hear ${SAY[c]}`}
                  isDisabled={!soundOf(c) || busy}
                  onPress={() => new Audio(`data:audio/wav;base64,${soundOf(c)}`).play().catch(() => {})}
                >
                  <Volume2 size={17} />
                </Button>
                <Button
                  small
                  look="quiet"
                  aria-label={`Record ${SAY[c]}`}
                  isDisabled={busy}
                  onPress={() => recorder.start([c])}
                >
                  <Mic size={17} />
                </Button>
              </li>
            ))}
          </Words>
          <Row>
            {busy ? (
              <Button onPress={recorder.stop}>Stop recording</Button>
            ) : (
              <Button
                look={drafts.size ? 'plain' : 'strong'}
                onPress={() => recorder.start(missing.length ? missing : OWN_CALLS)}
              >
                {missing.length && missing.length < OWN_CALLS.length
                  ? `Record the ${missing.length} missing`
                  : 'Record all nine'}
              </Button>
            )}
            {drafts.size > 0 && (
              <Button look="strong" onPress={keep} isDisabled={busy}>
                Keep {drafts.size === 1 ? 'it' : `all ${drafts.size}`}
              </Button>
            )}
            {own.length > 0 && (
              <Button look="quiet" onPress={() => setAsking('remove')} isDisabled={busy}>
                Remove my recordings
              </Button>
            )}
            <Button onPress={leave} style={{ marginLeft: 'auto' }}>
              Close
            </Button>
          </Row>
          <Ask
            isOpen={asking === 'leave'}
            title="Keep what was recorded?"
            onClose={() => setAsking(null)}
            actions={[
              { name: 'Go on recording', onPress: () => setAsking(null) },
              { name: 'Throw it away', look: 'danger', onPress: close },
              { name: 'Keep it', look: 'strong', onPress: keep },
            ]}
          >
            {drafts.size === 1 ? 'One count is' : `${drafts.size} counts are`} recorded and not kept yet.
          </Ask>
          <Ask
            isOpen={asking === 'remove'}
            title="Remove your recordings?"
            onClose={() => setAsking(null)}
            actions={[
              { name: 'Leave them', onPress: () => setAsking(null) },
              { name: 'Remove them', look: 'danger', onPress: remove },
            ]}
          >
            The {own.length} counts you recorded are deleted from this installation; the voice of the app
            counts again. This cannot be undone.
          </Ask>
        </Dialog>
      </Card>
    </Veil>
  )
}
