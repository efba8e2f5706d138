'use client'

import { useMemo } from 'react'
import styled from 'styled-components'
import { withStills, withVoice } from '@/core/handout'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { askedIn } from '../../state/fetch-made'
import { useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { type Tell, useTask } from '../../state/task'
import { useMe } from '../../state/who'
import { desk } from '../../theme/tokens'
import { ClassesOut } from './classes-out'
import { Made, Making } from './making'
import { OwnNumbers } from './own-numbers'
import { leftSaid, pageParts } from './page-parts'
import { PicturesChoice, usePictures } from './pictures-choice'
import type { OutProps } from './props'
import { Unsaved, useUnsaved } from './unsaved'

const Frame = styled.iframe`
  width: 100%;
  height: min(74dvh, 780px);
  border: 1px solid ${desk.line};
  border-radius: 14px;
  background: ${desk.paper};
`

/** The practice page: one file a learner opens on a phone or a laptop. */
export function PageOut({ id, page, routine, book, contents }: OutProps) {
  const player = usePlayer()
  const song = useSong()
  const saving = useUnsaved()
  const { task, state } = useTask()
  const pictures = usePictures(routine.films)
  const me = useMe()
  // What was written a moment ago is shown once it is saved.
  const address = useMemo(() => `/api/routines/${id}/practice?${askedIn(contents)}`, [id, contents])
  const props = { id, page, routine, book, contents }
  const parts = (tell: Tell, signal: AbortSignal) =>
    pageParts(props, { player, songId: song.id, film: pictures.film }, tell, signal)
  const work = async (tell: Tell, signal: AbortSignal) => {
    const made = await parts(tell, signal)
    const html = made.stills ? withStills(made.plain, made.stills) : made.plain
    const blob = new Blob([withVoice(html, made.voice)], { type: 'text/html' })
    saveFile(`${fileName(routine.title)} practice.html`, blob, blob.type)
    return `Saved: ${(blob.size / 1e6).toFixed(2)} MB.${leftSaid(made)}`
  }
  const make = () => task.begin('Listening to the song', work, (why) => `The page could not be made: ${why}`)
  return (
    <>
      <Tools style={{ alignItems: 'end' }}>
        <Making task={task} state={state}>
          <Button look="strong" onPress={make} isDisabled={saving}>
            Save the page
          </Button>
        </Making>
      </Tools>
      <Unsaved />
      <Made state={state} />
      <p style={{ color: desk.quiet, maxWidth: 640 }}>
        One file for a phone or a laptop, with nothing to install and no network. The song is not in it:
        learners choose their own copy. What they say does not sit yet comes back as a small file for your
        Log.
      </p>
      <PicturesChoice {...pictures} />
      <OwnNumbers />
      {me && <ClassesOut {...props} parts={parts} />}
      <Frame
        key={saving ? 'before' : 'after'}
        title="The page as it will be, without its voice"
        sandbox="allow-scripts"
        src={address}
      />
    </>
  )
}
