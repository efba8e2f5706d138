'use client'

import { nanoid } from 'nanoid'
import { useRouter } from 'next/navigation'
import { useEffect, useEffectEvent, useState } from 'react'
import { FileTrigger } from 'react-aria-components'
import styled from 'styled-components'
import { said } from '@/core/formats/said'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Progress } from '../../parts/progress'
import { ApiError } from '../../state/ask-server'
import { openRoutineFile, type Restored, restoreBackup } from '../../state/send-file'
import { type Tell, useTask } from '../../state/task'
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

/** What came of it, where that asks or tells something. */
type Came =
  | { kind: 'asking' }
  | { kind: 'here'; why: string }
  /** @param as the id it was asked to be opened as; null for its own */
  | { kind: 'no song'; why: string; as: string | null }
  | { kind: 'opened'; id: string; said: readonly string[] }
  | { kind: 'restored'; done: Restored }

/** What a refusal asks for; null where nothing can be done about it here. */
function askedBy(error: unknown, as: string | null): Came | null {
  const code = error instanceof ApiError ? error.code : ''
  if (code === 'here') return { kind: 'here', why: said(error) }
  if (code === 'no-song' || code === 'unheard') return { kind: 'no song', why: said(error), as }
  return null
}

/** Opens what was brought, or restores it; what came of it is told once. */
function useBrought(file: File, done: () => void) {
  const { task, state } = useTask()
  const [came, setCame] = useState<Came | null>(null)
  const router = useRouter()

  /** @param refused what an error comes to; null to have it said */
  const begin = (
    what: string,
    work: (tell: Tell, signal: AbortSignal) => Promise<Came | string>,
    refused: (error: unknown) => Came | null,
  ) => {
    setCame(null)
    task.begin(what, async (tell, signal) => {
      tell(0)
      const outcome = await work(tell, signal).catch((error) => refused(error) ?? Promise.reject(error))
      // Stopped meanwhile: it goes nowhere, and asks nothing.
      signal.throwIfAborted()
      if (typeof outcome === 'string') router.push(outcome)
      else setCame(outcome)
      return ''
    })
  }
  const open = (as: string | null) =>
    begin(
      `Opening ${file.name}`,
      async (tell, signal) => `/r/${(await openRoutineFile(file, as, null, tell, signal)).id}/cue`,
      (error) => askedBy(error, as),
    )
  const restore = () =>
    begin(
      `Opening ${file.name}`,
      async (tell, signal) => {
        const restored = await restoreBackup(file, tell, signal)
        router.refresh()
        return { kind: 'restored', done: restored }
      },
      () => null,
    )
  /** A copy of its song: found in it by sound, taken in, heard, and the routine laid on it. */
  const openOn = (copy: File, as: string | null) =>
    begin(
      `Opening ${copy.name}`,
      async (tell, signal) => {
        const at = (what: string) => (share: number) => tell(share, what)
        const opened = await openOnCopy(file, copy, as, at, signal)
        return opened.said.length ? { kind: 'opened', ...opened } : `/r/${opened.id}/cue`
      },
      (error) => ({ kind: 'no song', why: said(error), as }),
    )
  const first = useEffectEvent(() => open(null))
  useEffect(() => {
    let here = true
    isBackup(file).then((backup) => {
      if (!here) return
      if (backup) setCame({ kind: 'asking' })
      else first()
    })
    return () => {
      here = false
    }
  }, [file])
  const cancel = () => {
    task.cancel()
    done()
  }
  return { state, came, open, restore, openOn, cancel, goTo: router.push }
}

/** A routine or a backup that was brought: it is asked before anything is added, and said what came of it. */
export function Brought({ file, done }: { file: File; done: () => void }) {
  const { state, came, open, restore, openOn, cancel, goTo } = useBrought(file, done)
  return (
    <>
      <Box aria-label={file.name} data-testid="brought">
        {state.kind === 'making' ? (
          <Progress label={state.what} share={state.share ?? 0} />
        ) : state.kind === 'failed' ? (
          <p role="alert">{state.why}</p>
        ) : (
          <Told came={came} file={file} />
        )}
        {came?.kind === 'no song' && (
          <FileTrigger
            acceptedFileTypes={['audio/*']}
            onSelect={(files) => files?.[0] && openOn(files[0], came.as)}
          >
            <Button look="strong">Choose your copy of the song</Button>
          </FileTrigger>
        )}
        {came?.kind === 'opened' && (
          <Button look="strong" onPress={() => goTo(`/r/${came.id}/cue`)}>
            Open it
          </Button>
        )}
        {state.kind === 'making' ? (
          <Button onPress={cancel}>Cancel</Button>
        ) : (
          <Button onPress={done}>Close</Button>
        )}
      </Box>
      <Ask
        isOpen={came?.kind === 'asking'}
        title="Bring this backup?"
        onClose={done}
        actions={[
          { name: 'Leave it', onPress: done },
          { name: 'Bring it', look: 'strong', onPress: restore },
        ]}
      >
        What is here stays as it is. Songs, routines, rows of the log, moves and recordings that are missing
        are added; a routine that is here in another state comes as a second one beside it.
      </Ask>
      <Ask
        isOpen={came?.kind === 'here'}
        title="This routine is here already"
        onClose={done}
        actions={[
          { name: 'Leave it', onPress: done },
          { name: 'Open it as another', look: 'strong', onPress: () => open(nanoid()) },
        ]}
      >
        {came?.kind === 'here' ? came.why : ''} What you have is not changed: the file can be opened as a
        routine of its own beside it.
      </Ask>
    </>
  )
}

/** What came of it, in words. */
function Told({ came, file }: { came: Came | null; file: File }) {
  if (came?.kind === 'no song') return <p role="alert">{came.why}</p>
  if (came?.kind === 'opened') return <p role="status">{came.said.join(' ')}</p>
  if (came?.kind === 'restored') return <p role="status">{restoredWords(came.done)}</p>
  return <p>{file.name}</p>
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
