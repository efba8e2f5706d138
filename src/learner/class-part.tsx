import { useEffect, useEffectEvent, useState } from 'react'
import { type ClassFacts, isDue, type PracticePage, saidNow } from '@/core/handout'
import { useTask } from '@/ui/state/task'
import { type ClassLink, NotTaken } from './class-link'
import type { SendProps } from './in-class'
import { marksFile } from './kept'
import { NameField } from './marks-part'

/** What is sent waits so long for more, and for another try, in milliseconds. */
const [SETTLED, AGAIN] = [1200, 30_000]

/** What the server says of the link, asked when the page is opened and looked at again. */
function useFacts(link: ClassLink, made: string): { facts: ClassFacts | null; closed: string } {
  const [facts, setFacts] = useState(() => link.facts)
  const [closed, setClosed] = useState('')
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>
    const ask = () => {
      clearTimeout(timer)
      if (document.visibilityState === 'hidden') return
      link.opened(made).then(setFacts, (e: unknown) => {
        if (!(e instanceof NotTaken)) return
        if (e.closed) setClosed(e.message)
        if (e.again) timer = setTimeout(ask, AGAIN)
      })
    }
    ask()
    document.addEventListener('visibilitychange', ask)
    window.addEventListener('online', ask)
    return () => {
      clearTimeout(timer)
      document.removeEventListener('visibilitychange', ask)
      window.removeEventListener('online', ask)
    }
  }, [link, made])
  return { facts, closed }
}

/** Whose class it is, and whether there is a newer page. */
export function Newest({ link, page }: { link: ClassLink; page: PracticePage }) {
  const { facts, closed } = useFacts(link, page.made)
  const newer = facts && Date.parse(facts.made) > Date.parse(page.made)
  return (
    <>
      {facts && <p className="quiet">{[facts.group, `from ${facts.teacher}`].filter(Boolean).join(' · ')}</p>}
      {closed && <p role="alert">{closed} What is on this device stays until you leave the page.</p>}
      {newer && !closed && (
        <p role="status" className="told">
          {facts.teacher} handed out a newer page.
          <button type="button" className="strong" onClick={() => location.reload()}>
            Show it
          </button>
        </p>
      )}
    </>
  )
}

type Way = { kind: 'idle' | 'sending' } | { kind: 'waiting' | 'refused'; why: string }

/** Sends what is said once the learner agreed, when there is a network. */
function useSending(link: ClassLink, { page, kept, onKept }: SendProps): Way {
  const [way, setWay] = useState<Way>({ kind: 'idle' })
  const due = isDue(kept)
  const said = saidNow(kept)
  const send = useEffectEvent(async (): Promise<boolean> => {
    setWay({ kind: 'sending' })
    try {
      await link.send(marksFile(page.id, kept))
      setWay({ kind: 'idle' })
      onKept({ sent: said })
      return true
    } catch (error) {
      const { message, again } =
        error instanceof NotTaken ? error : { message: 'It could not be sent.', again: true }
      setWay({ kind: again ? 'waiting' : 'refused', why: message })
      return !again
    }
  })
  // Said anew, it is sent anew: `said` is what is waited for.
  // biome-ignore lint/correctness/useExhaustiveDependencies: see above
  useEffect(() => {
    if (!due) return
    let timer: ReturnType<typeof setTimeout>
    let gone = false
    const attempt = async () => {
      clearTimeout(timer)
      const done = await send()
      if (!done && !gone) timer = setTimeout(attempt, AGAIN)
    }
    timer = setTimeout(attempt, SETTLED)
    window.addEventListener('online', attempt)
    return () => {
      gone = true
      clearTimeout(timer)
      window.removeEventListener('online', attempt)
    }
  }, [due, said])
  return way
}

const waySaid = (way: Way, due: boolean): string => {
  if (way.kind === 'waiting' && due) return `It waits, and goes by itself: ${way.why}`
  if (way.kind === 'refused' && due) return `It was not taken: ${way.why}`
  return due ? 'On its way …' : 'Sent. What you say from now on goes by itself.'
}

/** The way back to the instructor: by itself, once the learner said so. */
export function SendToClass({ link, ...props }: SendProps & { link: ClassLink }) {
  const { kept, onKept } = props
  const way = useSending(link, props)
  const teacher = link.facts?.teacher ?? 'your instructor'
  const films = link.facts?.films ?? false
  if (!kept.marks.length && !kept.sending && !films) return null
  return (
    <>
      <div className="send">
        <NameField {...{ kept, onKept }} />
        {films && <FilmPart link={link} learner={kept.name.trim()} />}
        {kept.sending ? (
          <button type="button" onClick={() => onKept({ sending: false })}>
            Do not send any more
          </button>
        ) : (
          <button
            type="button"
            className="strong"
            disabled={!kept.name.trim() || !kept.marks.length}
            onClick={() => onKept({ sending: true })}
          >
            Send this to {teacher}
          </button>
        )}
      </div>
      {kept.sending ? (
        <p role="status">{waySaid(way, isDue(kept))}</p>
      ) : (
        <p className="quiet">
          What sits and what does not yet goes to {teacher} under this name, now and whenever you say more.
          Nothing else does.
        </p>
      )}
    </>
  )
}

/** A film of one's own dancing, for the instructor. */
function FilmPart({ link, learner }: { link: ClassLink; learner: string }) {
  const { task, state } = useTask()
  const send = (file: File | undefined) =>
    file &&
    task.begin('Sending the film …', async (tell, signal) => {
      await link.sendFilm(file, learner, tell, signal)
      return 'The film was sent.'
    })
  if (state.kind === 'making')
    return (
      <>
        <div style={{ flex: '1 1 180px' }}>
          <p id="sending">{state.what}</p>
          <progress aria-labelledby="sending" value={state.share ?? 0} max={1} />
        </div>
        <button type="button" onClick={() => task.cancel()}>
          Cancel
        </button>
      </>
    )
  return (
    <>
      <span className="file">
        <input
          id="film"
          type="file"
          accept="video/*"
          disabled={!learner}
          onChange={(e) => {
            send(e.target.files?.[0])
            e.target.value = ''
          }}
        />
        <label htmlFor="film">Send a film of me</label>
      </span>
      {state.kind === 'done' && <p role="status">{state.told}</p>}
      {state.kind === 'failed' && (
        <p role="alert" className="problem">
          {state.why}
        </p>
      )}
    </>
  )
}
