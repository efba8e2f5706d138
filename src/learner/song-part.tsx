import type { PracticePage } from '@/core/handout'
import { useTask } from '@/ui/state/task'
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
  const { task, state } = useTask()
  const choose = (file: File | undefined) =>
    file &&
    task.begin('Listening to your copy …', async (tell, signal) => {
      tell(0)
      const found = await laidOnCopy(file, page.times, page.sound, tell, signal)
      signal.throwIfAborted()
      onCopy(found)
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
      {state.kind === 'failed' && (
        <p role="alert" className="problem">
          {state.why}
        </p>
      )}
    </section>
  )
}
