'use client'

import { Music } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { useEffect, useEffectEvent, useState } from 'react'
import { DropZone, type FileDropItem, FileTrigger, Text } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Progress } from '../../parts/progress'
import { addRoutine } from '../../state/saved'
import { type Taken, uploadSong } from '../../state/send-file'
import { useTask } from '../../state/task'
import { useMe } from '../../state/who'
import { desk, NARROW } from '../../theme/tokens'
import { BeginCounts } from './begin-counts'
import { Brought, isBrought } from './brought'

const Zone = styled(DropZone)`
  display: flex;
  align-items: center;
  gap: 14px 20px;
  padding: 26px;
  ${NARROW} { flex-wrap: wrap; padding: 18px; > svg { display: none; } && .grow { flex-basis: 100%; } }
  border-radius: 18px;
  border: 2px dashed ${desk.edge};
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

/** Where a song is dropped or chosen. */
export function Begin() {
  const { task, state } = useTask()
  const [known, setKnown] = useState<Taken | null>(null)
  const [brought, setBrought] = useState<File | null>(null)
  const router = useRouter()
  const me = useMe()

  const open = (id: string) => router.push(`/r/${id}/count`)

  async function send(file: File | undefined) {
    if (!file) return
    if (await isBrought(file)) return setBrought(file)
    await task.begin(`Taking in ${file.name}`, async (tell, signal) => {
      tell(0)
      const taken = await uploadSong(file, tell, signal)
      signal.throwIfAborted()
      const [first] = taken.routines
      if (taken.fresh && first) open(first.id)
      else setKnown(taken)
      return ''
    })
  }

  const another = (songId: string) =>
    task.begin('Beginning another routine', async (_, signal) => {
      setKnown(null)
      const id = await addRoutine(songId)
      // Stopped while the server made it: it stands on the shelf.
      if (signal.aborted) router.refresh()
      else open(id)
      return ''
    })

  useDropAnywhere(send)
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
        {state.kind === 'making' ? (
          <>
            <div className="grow">
              <Progress label={state.what} share={state.share ?? 0} />
            </div>
            <Button onPress={() => task.cancel()}>Cancel</Button>
          </>
        ) : (
          <>
            <div className="grow">
              <Text slot="label">
                <strong>Begin with a song</strong>
              </Text>
              <span className="quiet">
                Drop an audio file here: WAV, MP3, FLAC, Ogg Vorbis, Opus or M4A, up to 200 MB and 20 minutes.{' '}
                {me ? 'It is kept for you alone.' : 'It stays on this machine.'} A routine or a backup from
                Azalea is opened here too.
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
            <BeginCounts />
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
            onPress: () => another(known?.songId ?? ''),
          },
        ]}
      >
        It is used by {known?.routines.map((r) => `“${r.title}”`).join(', ')}. The audio is kept once, however
        many routines use it.
      </Ask>
    </>
  )
}

/** A file that is dropped beside the place for it is taken as well. */
function useDropAnywhere(take: (file: File | undefined) => void): void {
  const dropped = useEffectEvent(take)
  useEffect(() => {
    const isFile = (e: DragEvent) => e.dataTransfer?.types.includes('Files') ?? false
    const over = (e: DragEvent) => isFile(e) && e.preventDefault()
    const drop = (e: DragEvent) => {
      if (!isFile(e) || e.defaultPrevented) return
      // The browser would leave the page to open it.
      e.preventDefault()
      dropped(e.dataTransfer?.files[0])
    }
    window.addEventListener('dragover', over)
    window.addEventListener('drop', drop)
    return () => {
      window.removeEventListener('dragover', over)
      window.removeEventListener('drop', drop)
    }
  }, [])
}
