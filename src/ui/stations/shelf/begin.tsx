'use client'

import { Music } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { DropZone, type FileDropItem, FileTrigger, Text } from 'react-aria-components'
import styled from 'styled-components'
import { wordsOf } from '@/core/formats/said'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Progress } from '../../parts/progress'
import { type Taken, uploadSong } from '../../state/api'
import { addRoutine } from '../../state/saved'
import { desk } from '../../theme/tokens'
import { Brought, isBrought } from './brought'

const Zone = styled(DropZone)`
  display: flex;
  align-items: center;
  gap: 20px;
  padding: 26px;
  border-radius: 18px;
  border: 2px dashed #B7A5B5;
  background: ${desk.card};
  > svg { color: ${desk.azalea}; flex: none; }
  &[data-drop-target] { border-color: ${desk.azalea}; background: ${desk.azaleaSoft}; }
  .grow { flex: 1; min-width: 0; display: grid; gap: 4px; }
  .quiet { color: ${desk.quiet}; font-size: 14px; }
  strong { font-size: 17px; overflow-wrap: anywhere; }
`

const ACCEPTED = [
  'audio/*',
  '.mp3',
  '.m4a',
  '.aac',
  '.flac',
  '.ogg',
  '.oga',
  '.opus',
  '.wav',
  '.webm',
  '.json',
  '.zip',
]

type Sending =
  | { kind: 'idle' }
  | { kind: 'sending'; name: string; share: number }
  | { kind: 'failed'; why: string }

/** Where a song is dropped or chosen. */
export function Begin() {
  const [state, setState] = useState<Sending>({ kind: 'idle' })
  const [known, setKnown] = useState<Taken | null>(null)
  const stop = useRef<AbortController | null>(null)
  const [brought, setBrought] = useState<File | null>(null)
  const router = useRouter()

  const open = (id: string) => router.push(`/r/${id}/count`)

  async function send(file: File | undefined) {
    if (!file) return
    if (await isBrought(file)) return setBrought(file)
    const mine = new AbortController()
    stop.current = mine
    setState({ kind: 'sending', name: file.name, share: 0 })
    try {
      const taken = await uploadSong(
        file,
        (share) => setState({ kind: 'sending', name: file.name, share }),
        mine.signal,
      )
      const [first] = taken.routines
      if (taken.fresh && first) return open(first.id)
      setState({ kind: 'idle' })
      setKnown(taken)
    } catch (error) {
      if (error instanceof DOMException) setState({ kind: 'idle' })
      else setState({ kind: 'failed', why: wordsOf(error) })
    }
  }

  return (
    <>
      {brought && <Brought key={brought.name} file={brought} done={() => setBrought(null)} />}
      <Zone
        aria-label="Drop a song here"
        getDropOperation={() => 'copy'}
        onDrop={async (e) => {
          const file = e.items.find((i): i is FileDropItem => i.kind === 'file')
          // A folder, or a file that is gone by now, is no song.
          send(await file?.getFile().catch(() => undefined))
        }}
      >
        <Music size={34} aria-hidden />
        {state.kind === 'sending' ? (
          <>
            <div className="grow">
              <Progress label={`Taking in ${state.name}`} share={state.share} />
            </div>
            <Button onPress={() => stop.current?.abort()}>Cancel</Button>
          </>
        ) : (
          <>
            <div className="grow">
              <Text slot="label">
                <strong>Begin with a song</strong>
              </Text>
              <span className="quiet">
                Drop an audio file here: WAV, MP3, FLAC, Ogg Vorbis, Opus or M4A, up to 200 MB and 20 minutes.
                It stays on this machine. A routine or a backup from Azalea is opened here too.
              </span>
              {state.kind === 'failed' && (
                <span role="alert" style={{ color: desk.danger, fontWeight: 600 }}>
                  {state.why}
                </span>
              )}
            </div>
            <FileTrigger acceptedFileTypes={ACCEPTED} onSelect={(files) => send(files?.[0])}>
              <Button look="strong">Choose a file</Button>
            </FileTrigger>
          </>
        )}
      </Zone>
      <Ask
        isOpen={known !== null}
        title="This song is already here"
        onClose={() => setKnown(null)}
        actions={[
          { name: 'Open what is there', look: 'strong', onPress: () => open(known?.routines[0]?.id ?? '') },
          {
            name: 'Begin another routine',
            onPress: async () => {
              try {
                open(await addRoutine(known?.songId ?? ''))
              } catch (error) {
                setKnown(null)
                setState({ kind: 'failed', why: wordsOf(error) })
              }
            },
          },
        ]}
      >
        It is used by {known?.routines.map((r) => `“${r.title}”`).join(', ')}. The audio is kept once, however
        many routines use it.
      </Ask>
    </>
  )
}
