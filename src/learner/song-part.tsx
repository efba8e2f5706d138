import { useRef, useState } from 'react'
import { wordsOf } from '@/core/formats/said'
import type { PracticePage } from '@/core/handout'
import { type Copy, laidOnCopy } from './copy'

/** The learner's own copy of the song: chosen, known by its sound, laid under the counts. */
export function SongPart({
  page,
  copy,
  onCopy,
}: {
  page: PracticePage
  copy: Copy | null
  onCopy: (copy: Copy | null) => void
}) {
  const [share, setShare] = useState<number | null>(null)
  const [problem, setProblem] = useState('')
  const stop = useRef<AbortController | null>(null)
  const choose = async (file: File | undefined) => {
    if (!file) return
    const mine = new AbortController()
    stop.current = mine
    setProblem('')
    setShare(0)
    try {
      const found = await laidOnCopy(file, page.times, page.sound, setShare, mine.signal)
      mine.signal.throwIfAborted()
      onCopy(found)
    } catch (error) {
      if (!mine.signal.aborted) setProblem(wordsOf(error))
    }
    setShare(null)
  }
  if (!page.sound)
    return (
      <section className="song" aria-label="The song">
        <p>Practised with counts alone: this page does not know its song.</p>
      </section>
    )
  const missing = copy?.places.filter((p) => p === null).length ?? 0
  return (
    <section className="song" aria-label="The song">
      {share !== null ? (
        <>
          <div style={{ flex: '1 1 220px' }}>
            <p id="listening">Listening to your copy …</p>
            <progress aria-labelledby="listening" value={share} max={1} />
          </div>
          <button type="button" onClick={() => stop.current?.abort()}>
            Cancel
          </button>
        </>
      ) : (
        <>
          <div role="status" style={{ flex: '1 1 220px' }}>
            {copy ? (
              <p>
                <strong>Your copy fits.</strong> {copy.name}
                {missing > 0 &&
                  ` — ${missing} ${missing === 1 ? 'count is' : 'counts are'} not in it; those are counted alone.`}
              </p>
            ) : (
              <p>
                The song is not in this page. Choose your own copy: it is known by its sound, and stays on
                this device. Without it you practise with counts alone.
              </p>
            )}
          </div>
          <span>
            <input
              id="copy"
              type="file"
              accept="audio/*,video/mp4,.mp3,.m4a,.wav,.flac,.ogg,.opus"
              onChange={(e) => {
                choose(e.target.files?.[0])
                e.target.value = ''
              }}
            />
            <label htmlFor="copy">{copy ? 'Choose another copy' : 'Choose my copy of the song'}</label>
          </span>
          {copy && (
            <button type="button" onClick={() => onCopy(null)}>
              Without the song
            </button>
          )}
        </>
      )}
      {problem && (
        <p role="alert" className="problem">
          {problem}
        </p>
      )}
    </section>
  )
}
