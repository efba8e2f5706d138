/**
 * A size at which words are read from two metres on a phone that stands on the floor of a room: letters of about 9 mm, which is
 * 16 minutes of arc (the least that ISO 9241-303 asks for; from memory). A long word is smaller, so that it is whole.
 */
function sizeOf(words: string): string {
  const longest = Math.max(1, ...words.split(/\s+/).map((w) => w.length))
  return `min(20vw, ${Math.floor(150 / longest)}vw, max(15vh, 10vw))`
}

interface Props {
  count: string
  countedIn: boolean
  /** What is danced now, and next. */
  now: string
  next: string
  onStop: () => void
}

/** The count and what is danced on it, over the whole page, to be read from afar. */
export function Afar({ count, countedIn, now, next, onStop }: Props) {
  return (
    <section className="afar" aria-label="From afar">
      <span className={`count${countedIn ? ' in' : ''}`} aria-hidden="true">
        {count}
      </span>
      <p className="now" style={{ fontSize: sizeOf(now) }}>
        {now}
      </p>
      <p className="next">{next && `next: ${next}`}</p>
      <button type="button" onClick={onStop}>
        Stop
      </button>
    </section>
  )
}
