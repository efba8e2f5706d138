'use client'

import { nanoid } from 'nanoid'
import { useMemo } from 'react'
import styled from 'styled-components'
import { soundsFor } from '@/audio/practice'
import { SONG_RATE } from '@/audio/song'
import { voiceFile, voiceRoom } from '@/audio/voice-file'
import { pageWords, practicePage, withStills, withVoice } from '@/core/handout'
import { stillsOf } from '../../film/stills-of'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { askedIn, fetchPracticePage } from '../../state/api'
import { useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { keepSoundOf } from '../../state/song-sound'
import { type Tell, useTask } from '../../state/task'
import { desk } from '../../theme/tokens'
import { Made, Making } from './making'
import { OwnNumbers } from './own-numbers'
import { PicturesChoice, usePictures } from './pictures-choice'
import type { OutProps } from './props'
import { Unsaved, useUnsaved } from './unsaved'

/** A page stays below this, so that it goes through a mail or a message. */
const LARGEST = 2_000_000
/** Kept free of voice: what may still be put in. */
const SPARE = 20_000
/** What is counted, also where the voice is in no other words. */
const COUNTED = [...Array.from({ length: 8 }, (_, i) => String(i + 1)), '&', 'e', 'a']

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
  // What was written a moment ago is shown once it is saved.
  const address = useMemo(() => `/api/routines/${id}/practice?${askedIn(contents)}`, [id, contents])
  const longest = Math.max(8, ...page.placed.map((p) => p.phrase.length))
  const work = async (tell: Tell, signal: AbortSignal) => {
    const step = (what: string, from: number, to: number) => (share: number) =>
      tell(from + (to - from) * share, what)
    step('Listening to the song', 0, 0.5)(0)
    await keepSoundOf(song.id, () => player.audio(), step('Listening to the song', 0, 0.5), signal)
    const plain = await fetchPracticePage(id, contents, signal)
    const { film } = pictures
    const stills = film && (await stillsOf(film, page.times, contents.stretch, () => {}, signal))
    const html = stills ? withStills(plain, stills) : plain
    const made = practicePage(id, routine, page.times, book, contents, '', nanoid)
    const context = new OfflineAudioContext(1, 1, SONG_RATE)
    const {
      voice: known,
      own,
      recordings,
    } = await soundsFor(
      context,
      { words: pageWords(made), recordings: made.routine.voices.map((x) => x.recording) },
      await player.voices(),
      step('Getting the words', 0.5, 0.9),
      signal,
    )
    const counted = [...COUNTED, ...Array.from({ length: longest }, (_, i) => String(i + 1))]
    const wanted = new Set([...counted, ...pageWords(made)])
    const calls = new Map(
      [...wanted].flatMap((w) => {
        const spoken = own?.get(w) ?? known.get(w)
        return spoken ? [[w, spoken] as const] : []
      }),
    )
    step('Putting the page together', 0.9, 1)(0)
    const room = voiceRoom(LARGEST - SPARE - new TextEncoder().encode(html).length)
    const { voice, left } = await voiceFile({ calls, recordings }, room)
    signal.throwIfAborted()
    const blob = new Blob([withVoice(html, voice)], { type: 'text/html' })
    saveFile(`${fileName(routine.title)} practice.html`, blob, blob.type)
    return `Saved: ${(blob.size / 1e6).toFixed(2)} MB.${left.length ? ` So that it stays below 2 MB, these are not spoken in it: ${left.join(', ')}.` : ''}`
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
      <Frame
        key={saving ? 'before' : 'after'}
        title="The page as it will be, without its voice"
        sandbox="allow-scripts"
        src={address}
      />
    </>
  )
}
