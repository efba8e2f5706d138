'use client'

import { nanoid } from 'nanoid'
import { useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { soundsFor } from '@/audio/practice'
import { SONG_RATE } from '@/audio/song'
import { voiceFile, voiceRoom } from '@/audio/voice-file'
import { pageWords, practicePage, withVoice } from '@/core/handout'
import { Button } from '../../parts/button'
import { Tools } from '../../parts/panel'
import { said } from '../../parts/said'
import { fileName, saveFile } from '../../parts/save-file'
import { askedIn, fetchPracticePage } from '../../state/api'
import { useSong } from '../../state/page'
import { usePlayer } from '../../state/player'
import { keepSoundOf } from '../../state/song-sound'
import { desk } from '../../theme/tokens'
import { Making } from './making'
import { OwnNumbers } from './own-numbers'
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
  const [making, setMaking] = useState<{ share: number; what: string } | null>(null)
  const [problem, setProblem] = useState('')
  const [told, setTold] = useState('')
  const stop = useRef<AbortController | null>(null)
  // What was written a moment ago is shown once it is saved.
  const address = useMemo(() => `/api/routines/${id}/practice?${askedIn(contents)}`, [id, contents])
  const longest = Math.max(8, ...page.placed.map((p) => p.phrase.length))
  const make = async () => {
    const mine = new AbortController()
    stop.current = mine
    setProblem('')
    setTold('')
    const step = (what: string, from: number, to: number) => (share: number) =>
      setMaking({ what, share: from + (to - from) * share })
    step('Listening to the song', 0, 0.5)(0)
    try {
      await keepSoundOf(song.id, () => player.audio(), step('Listening to the song', 0, 0.5), mine.signal)
      const html = await fetchPracticePage(id, contents, mine.signal)
      const made = practicePage(id, routine, page.times, book, contents, '', nanoid)
      const context = new OfflineAudioContext(1, 1, SONG_RATE)
      const {
        voice: known,
        own,
        recordings,
      } = await soundsFor(
        context,
        { words: pageWords(made), recordings: made.routine.voices.map((x) => x.recording) },
        await player.ownCounts(),
        step('Getting the words', 0.5, 0.9),
        mine.signal,
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
      mine.signal.throwIfAborted()
      const blob = new Blob([withVoice(html, voice)], { type: 'text/html' })
      saveFile(`${fileName(routine.title)} practice.html`, blob, blob.type)
      setTold(
        `Saved: ${(blob.size / 1e6).toFixed(2)} MB.${left.length ? ` So that it stays below 2 MB, these are not spoken in it: ${left.join(', ')}.` : ''}`,
      )
    } catch (error) {
      if (!mine.signal.aborted) setProblem(`The page could not be made: ${said(error)}`)
    }
    setMaking(null)
  }
  return (
    <>
      <Tools style={{ alignItems: 'end' }}>
        {making ? (
          <Making making={making} onCancel={() => stop.current?.abort()} />
        ) : (
          <Button look="strong" onPress={make} isDisabled={saving}>
            Save the page
          </Button>
        )}
      </Tools>
      <Unsaved />
      {problem && <p role="alert">{problem}</p>}
      {told && <p role="status">{told}</p>}
      <p style={{ color: desk.quiet, maxWidth: 640 }}>
        One file for a phone or a laptop, with nothing to install and no network. The song is not in it:
        learners choose their own copy. What they say does not sit yet comes back as a small file for your
        Log.
      </p>
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
