'use client'

import { useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import styled from 'styled-components'
import { wordsOf } from '@/core/formats/said'
import type { Hearer } from '@/core/station'
import { Button } from '../parts/button'
import { Ask } from '../parts/confirm'
import { Flower } from '../parts/flower'
import { LinkWhenMeant } from '../parts/link-when-meant'
import { Progress } from '../parts/progress'
import { usePlayerState } from '../state/player'
import { binRoutine } from '../state/saved'
import type { TaskState } from '../state/task'
import { desk } from '../theme/tokens'

const Page = styled.main`
  min-height: 100dvh;
  display: grid;
  place-items: center;
  padding: 24px;
`

const Card = styled.div`
  width: min(520px, 100%);
  display: grid;
  gap: 16px;
  background: ${desk.card};
  border: 1px solid ${desk.line};
  border-radius: 18px;
  padding: 30px;
  p { color: ${desk.quiet}; }
  h1 { overflow-wrap: anywhere; }
`

const Actions = styled.div`
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
`

interface Props {
  routineId: string
  title: string
  /** How far hearing it is. */
  state: TaskState
  /** True when a hearing found no beat. */
  silent: boolean
  /** True when there is no hearing to show. */
  missing: boolean
  again: () => void
  cancel: () => void
  /** Who listens, and why where the server could not; null where there is no choice. */
  hearer: { now: Hearer; why: string; change: () => void } | null
  /** Goes on without a hearing, to tap the beat. */
  byHand: () => void
  children: ReactNode
}

/** Stands before the stations while a song is heard for the first time, or when nothing could be heard. */
export function Listening({
  routineId,
  title,
  state,
  silent,
  missing,
  again,
  cancel,
  hearer,
  byHand,
  children,
}: Props) {
  const atRest = state.kind === 'idle' || state.kind === 'done'
  if (atRest && !silent && !missing) return children
  // The first render on the server: nothing is known yet.
  if (atRest && missing) return <Page aria-busy />
  return (
    <Page>
      <Card>
        <Flower size={40} />
        <h1>{title}</h1>
        {state.kind === 'making' && <Making state={state} hearer={hearer} cancel={cancel} />}
        {state.kind === 'stopped' && (
          <Stuck id={routineId} again={again} says="Stopped. The song is kept; nothing was heard yet." />
        )}
        {state.kind === 'failed' && <Stuck id={routineId} again={again} says={state.why} />}
        {atRest && silent && (
          <Stuck
            id={routineId}
            again={again}
            byHand={byHand}
            says="No steady beat was found in this song: it may be silent, spoken, too short, or without a pulse. The song is kept. You can tap the beat while it plays."
          />
        )}
      </Card>
    </Page>
  )
}

/** How far it is, and who does it. */
function Making({
  state,
  hearer,
  cancel,
}: { state: Extract<TaskState, { kind: 'making' }> } & Pick<Props, 'hearer' | 'cancel'>) {
  const loading = usePlayerState((s) => s.loading)
  const afar = hearer?.now === 'server'
  const reading = state.share === null && loading.kind === 'decoding' && !afar
  const share = loading.kind === 'fetching' && !afar ? loading.share : reading ? 1 : 0
  return (
    <>
      <Progress label={reading ? 'Reading the sound' : state.what} share={state.share ?? share} />
      <p>
        Azalea finds the tempo, the beats, the 1 and the eights.{' '}
        {afar
          ? 'The school’s server does it: you may leave this page, and find the song heard when you come back.'
          : 'A three-minute song takes a few seconds.'}{' '}
        You can correct everything afterwards.
      </p>
      {hearer?.why && <p role="status">{hearer.why}</p>}
      <Actions>
        <Button onPress={cancel}>Stop listening</Button>
        {hearer && !hearer.why && (
          <Button onPress={hearer.change}>{afar ? 'Listen on this device' : 'Let the server listen'}</Button>
        )}
      </Actions>
    </>
  )
}

function Stuck({
  id,
  says,
  again,
  byHand,
}: {
  id: string
  says: string
  again: () => void
  byHand?: () => void
}) {
  const [asking, setAsking] = useState(false)
  const [failed, setFailed] = useState('')
  const router = useRouter()
  return (
    <>
      <p role="alert">{failed || says}</p>
      <Actions>
        {byHand && (
          <Button look="strong" onPress={byHand}>
            Tap the beat
          </Button>
        )}
        <Button look={byHand ? 'plain' : 'strong'} onPress={again}>
          Listen again
        </Button>
        <Button onPress={() => setAsking(true)}>Remove this song</Button>
        <LinkWhenMeant href="/">To the shelf</LinkWhenMeant>
      </Actions>
      <Ask
        isOpen={asking}
        title="Remove this song and its routine?"
        onClose={() => setAsking(false)}
        actions={[
          { name: 'Keep it', onPress: () => setAsking(false) },
          {
            name: 'Put it into the bin',
            look: 'strong',
            onPress: async () => {
              try {
                await binRoutine(id)
                router.push('/')
              } catch (error) {
                setAsking(false)
                setFailed(wordsOf(error))
              }
            },
          },
        ]}
      >
        It lies in the bin on the shelf for 30 days, and can be put back.
      </Ask>
    </>
  )
}
