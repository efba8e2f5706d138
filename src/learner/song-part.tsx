import { useEffect, useState } from 'react'
import { decodeSong } from '@/audio/song'
import type { PracticePage } from '@/core/handout'
import { useTask } from '@/ui/state/task'
import { type Copy, laidOnCopy } from './copy'
import { type KeptCopy, keepCopy, keptCopy } from './kept-copy'

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
  const { task, state } = useTask()
  const { kept, chosen, setChosen, keepIt, keepAnew, forget, said } = useKeptCopy(page)
  const choose = (file: File | undefined) =>
    file &&
    task.begin('Listening to your copy …', async (tell, signal) => {
      tell(0)
      const found = await laidOnCopy(file, page.times, page.sound, tell, signal)
      signal.throwIfAborted()
      onCopy(found)
      setChosen({ name: found.name, file, places: found.places, times: page.times })
      return ''
    })
  /** What was found before is not listened to again: one press, and it is there. */
  const takeKept = ({ file, name, places }: KeptCopy) =>
    task.begin(places ? 'Opening your copy …' : 'Listening to your copy …', async (tell, signal) => {
      if (places) {
        const audio = await decodeSong(await file.arrayBuffer())
        signal.throwIfAborted()
        onCopy({ name, audio, places })
        return ''
      }
      // The instructor laid the counts out anew.
      const found = await laidOnCopy(new File([file], name), page.times, page.sound, tell, signal)
      signal.throwIfAborted()
      onCopy(found)
      await keepAnew({ name, file, places: found.places, times: page.times })
      return ''
    })
  if (!page.sound)
    return (
      <section className="song" aria-label="The song">
        <p>Practised with counts alone: this page does not know its song.</p>
      </section>
    )
  const missing = copy?.places.filter((p) => p === null).length ?? 0
  return (
    <section className="song" aria-label="The song">
      {state.kind === 'making' ? (
        <>
          <div style={{ flex: '1 1 220px' }}>
            <p id="listening">{state.what}</p>
            <progress aria-labelledby="listening" value={state.share ?? 0} max={1} />
          </div>
          <button type="button" onClick={() => task.cancel()}>
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
          {!copy && kept && (
            <button type="button" className="strong" onClick={() => takeKept(kept)}>
              Practise with {kept.name}
            </button>
          )}
          {copy && chosen && !kept && (
            <button type="button" onClick={keepIt}>
              Keep it on this device
            </button>
          )}
          {kept && (
            <button type="button" onClick={forget}>
              Do not keep it
            </button>
          )}
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
      {said && <p role="status">{said}</p>}
      {state.kind === 'failed' && (
        <p role="alert" className="problem">
          {state.why}
        </p>
      )}
    </section>
  )
}

/** The copy this device keeps for a page, so that the next practice begins with one press; kept only where it is asked for. */
function useKeptCopy(page: PracticePage) {
  const [kept, setKept] = useState<KeptCopy | null>(null)
  const [chosen, setChosen] = useState<KeptCopy | null>(null)
  const [said, setSaid] = useState('')
  const { id, times } = page
  useEffect(() => {
    let gone = false
    keptCopy(id, times).then((copy) => !gone && setKept(copy))
    return () => {
      gone = true
    }
  }, [id, times])
  const keepIt = async () => {
    if (!chosen) return
    const done = await keepCopy(id, chosen)
    setKept(done ? chosen : null)
    setSaid(done ? 'Kept: next time one press is enough.' : 'This browser keeps nothing for this page.')
  }
  const keepAnew = async (copy: KeptCopy) => {
    if (await keepCopy(id, copy)) setKept(copy)
  }
  const forget = async () => {
    await keepCopy(id, null)
    setKept(null)
    setSaid('It is not kept any more.')
  }
  return { kept, chosen, setChosen, keepIt, keepAnew, forget, said }
}
