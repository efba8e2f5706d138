'use client'

import { nanoid } from 'nanoid'
import { useRouter } from 'next/navigation'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { FileTrigger } from 'react-aria-components'
import styled from 'styled-components'
import { said } from '@/core/formats/said'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Progress } from '../../parts/progress'
import { ApiError, openRoutineFile, type Restored, restoreBackup } from '../../state/api'
import { desk } from '../../theme/tokens'
import { openOnCopy } from './open-on-copy'

const Box = styled.section`
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 14px 18px;
  border: 1px solid ${desk.line};
  border-radius: 14px;
  background: ${desk.card};
  > :first-child { flex: 1; min-width: 0; overflow-wrap: anywhere; }
`

const text = async (file: File, from: number, to: number) =>
  new TextDecoder('latin1').decode(await file.slice(from, to).arrayBuffer())

/** True for what comes from Azalea itself, by its first bytes. */
export async function isBrought(file: File): Promise<boolean> {
  const head = await text(file, 0, 300).catch(() => '')
  return head.startsWith('PK') || /^\s*\{/.test(head)
}

/** A backup begins with what it says of itself. */
const isBackup = async (file: File) => (await text(file, 0, 60)).includes('azalea-backup.json')

type State =
  | { kind: 'asking' }
  | { kind: 'sending'; share: number }
  | { kind: 'here'; why: string }
  | { kind: 'no song'; why: string }
  | { kind: 'listening'; what: string; share: number }
  | { kind: 'opened'; id: string; said: readonly string[] }
  | { kind: 'failed'; why: string }
  | { kind: 'restored'; done: Restored }

/** A routine or a backup that was brought: it is asked before anything is added, and said what came of it. */
export function Brought({ file, done }: { file: File; done: () => void }) {
  const [state, setState] = useState<State>({ kind: 'sending', share: 0 })
  const stop = useRef<AbortController | null>(null)
  const router = useRouter()

  const send = async (what: 'routine' | 'backup', as: string | null = null) => {
    const mine = new AbortController()
    stop.current = mine
    setState({ kind: 'sending', share: 0 })
    const progress = (share: number) => setState({ kind: 'sending', share })
    try {
      if (what === 'backup') {
        setState({ kind: 'restored', done: await restoreBackup(file, progress, mine.signal) })
        router.refresh()
      } else {
        const { id } = await openRoutineFile(file, as, null, progress, mine.signal)
        router.push(`/r/${id}/cue`)
      }
    } catch (error) {
      if (error instanceof DOMException) return done()
      const why = said(error)
      const code = error instanceof ApiError ? error.code : ''
      asked.current = as
      if (code === 'here') setState({ kind: 'here', why })
      else if (code === 'no-song' || code === 'unheard') setState({ kind: 'no song', why })
      else setState({ kind: 'failed', why })
    }
  }
  /** The id it was asked to be opened as, for when its song comes. */
  const asked = useRef<string | null>(null)

  /** A copy of its song: found in it by sound, taken in, heard, and the routine laid on it. */
  const withCopy = async (copy: File | undefined) => {
    if (!copy) return
    const mine = new AbortController()
    stop.current = mine
    const listening = (what: string) => (share: number) => setState({ kind: 'listening', what, share })
    try {
      const opened = await openOnCopy(file, copy, asked.current, listening, mine.signal)
      if (opened.said.length) setState({ kind: 'opened', ...opened })
      else router.push(`/r/${opened.id}/cue`)
    } catch (error) {
      if (error instanceof DOMException && error.name === 'AbortError') return done()
      setState({ kind: 'no song', why: said(error) })
    }
  }
  const begin = useEffectEvent(() => send('routine'))
  useEffect(() => {
    let here = true
    isBackup(file).then((backup) => {
      if (!here) return
      if (backup) setState({ kind: 'asking' })
      else begin()
    })
    return () => {
      here = false
    }
  }, [file])

  return (
    <>
      <Box aria-label={file.name} data-testid="brought">
        {state.kind === 'listening' ? (
          <Progress label={state.what} share={state.share} />
        ) : state.kind === 'no song' ? (
          <p role="alert">{state.why}</p>
        ) : state.kind === 'opened' ? (
          <p role="status">{state.said.join(' ')}</p>
        ) : state.kind === 'sending' ? (
          <Progress label={`Opening ${file.name}`} share={state.share} />
        ) : state.kind === 'failed' ? (
          <p role="alert">{state.why}</p>
        ) : state.kind === 'restored' ? (
          <p role="status">{restoredWords(state.done)}</p>
        ) : (
          <p>{file.name}</p>
        )}
        {state.kind === 'no song' && (
          <FileTrigger acceptedFileTypes={['audio/*']} onSelect={(files) => withCopy(files?.[0])}>
            <Button look="strong">Choose your copy of the song</Button>
          </FileTrigger>
        )}
        {state.kind === 'opened' && (
          <Button look="strong" onPress={() => router.push(`/r/${state.id}/cue`)}>
            Open it
          </Button>
        )}
        {state.kind === 'sending' || state.kind === 'listening' ? (
          <Button onPress={() => stop.current?.abort()}>Cancel</Button>
        ) : (
          <Button onPress={done}>Close</Button>
        )}
      </Box>
      <Ask
        isOpen={state.kind === 'asking'}
        title="Bring this backup?"
        onClose={done}
        actions={[
          { name: 'Leave it', onPress: done },
          { name: 'Bring it', look: 'strong', onPress: () => send('backup') },
        ]}
      >
        What is here stays as it is. Songs, routines, rows of the log, moves and recordings that are missing
        are added; a routine that is here in another state comes as a second one beside it.
      </Ask>
      <Ask
        isOpen={state.kind === 'here'}
        title="This routine is here already"
        onClose={done}
        actions={[
          { name: 'Leave it', onPress: done },
          { name: 'Open it as another', look: 'strong', onPress: () => send('routine', nanoid()) },
        ]}
      >
        {state.kind === 'here' ? state.why : ''} What you have is not changed: the file can be opened as a
        routine of its own beside it.
      </Ask>
    </>
  )
}

function restoredWords({ songs, routines, log, beside, damaged }: Restored): string {
  const left = damaged
    ? ` ${damaged === 1 ? 'One row of it is' : `${damaged} rows of it are`} damaged, and left out.`
    : ''
  if (!songs && !routines && !log)
    return `${damaged ? 'What can be read of this backup' : 'All of this backup'} was here already: nothing was changed.${left}`
  const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`
  const added = `Added: ${count(songs, 'song', 'songs')}, ${count(routines, 'routine', 'routines')}, ${count(log, 'row', 'rows')} of the log.`
  return `${added}${beside.length ? ` Beside what you have: ${beside.join(', ')}.` : ''}${left}`
}
