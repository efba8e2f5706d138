import type { ReactNode } from 'react'
import { PAGE_CALLS, type PageCalls } from '@/core/handout'
import type { Kept } from './kept'

const CALLS: Record<PageCalls, string> = {
  words: 'moves',
  numbers: 'numbers',
  own: 'my instructor’s voice',
  none: 'nothing',
}
const PARTS = [
  ['music', 'The song'],
  ['clicks', 'Clicks'],
  ['voice', 'Calls'],
] as const
const [SLOWEST, FASTEST] = [40, 110]

/** What is chosen, and below it how it is played. */
export function Dock({
  name,
  anchored,
  children,
}: {
  /** The counts that are chosen, in words. */
  name: string
  /** A first count was chosen and waits for its last. */
  anchored: boolean
  children: ReactNode
}) {
  return (
    <section className="dock" aria-label="Practise">
      <p data-testid="chosen">
        <strong>{name}</strong> {anchored && <span className="quiet">… now the last count</span>}
      </p>
      {children}
    </section>
  )
}

/** Plays and stops; what is counted now, and what is danced on it. */
export function Go({
  playing,
  count,
  words,
  countedIn,
  onPlay,
}: {
  playing: boolean
  count: string
  words: string
  countedIn: boolean
  onPlay: () => void
}) {
  return (
    <div className="go">
      <button type="button" className="strong" onClick={onPlay}>
        {playing ? 'Stop' : 'Play'}
      </button>
      <span className={`count${countedIn ? ' in' : ''}`} aria-hidden="true" data-testid="count">
        {count}
      </span>
      <span className="words" data-testid="words">
        {words}
      </span>
    </div>
  )
}

export function Speed({ speed, onKept }: { speed: number; onKept: (what: Partial<Kept>) => void }) {
  const percent = Math.round(speed * 100)
  const to = (next: number) => onKept({ speed: Math.min(FASTEST, Math.max(SLOWEST, next)) / 100 })
  return (
    <div className="speed">
      <button type="button" aria-label="5 % slower" onClick={() => to(percent - 5)}>
        −
      </button>
      <input
        type="range"
        aria-label="Speed"
        min={SLOWEST}
        max={FASTEST}
        step={1}
        value={percent}
        aria-valuetext={`${percent} percent`}
        onChange={(e) => to(Number(e.target.value))}
      />
      <button type="button" aria-label="5 % faster" onClick={() => to(percent + 5)}>
        +
      </button>
      <output>{percent} %</output>
    </div>
  )
}

/** What is said of the chosen counts, and whether they are shown large. @param mark what was said */
export function Say({
  mark,
  large,
  onMark,
  onLarge,
}: {
  mark: 'sits' | 'not yet' | null
  large: boolean
  onMark: (sits: boolean) => void
  onLarge: () => void
}) {
  return (
    <div className="say">
      <button type="button" aria-pressed={mark === 'sits'} onClick={() => onMark(true)}>
        It sits
      </button>
      <button type="button" aria-pressed={mark === 'not yet'} onClick={() => onMark(false)}>
        Not yet
      </button>
      <button
        type="button"
        aria-pressed={large}
        onClick={onLarge}
        title="Large while it plays, to be read from afar"
      >
        Large
      </button>
    </div>
  )
}

interface MoreProps {
  kept: Kept
  mirrored: boolean
  /** There are calls in the instructor's own voice. */
  own: boolean
  onKept: (what: Partial<Kept>) => void
  onAll: () => void
}

/** What is chosen now and then. */
export function More({ kept, mirrored, own, onKept, onAll }: MoreProps) {
  return (
    <details>
      <summary>Calls, sides, loudness</summary>
      <div className="more">
        <label>
          Called
          <select value={kept.calls} onChange={(e) => onKept({ calls: e.target.value as PageCalls })}>
            {PAGE_CALLS.filter((c) => c !== 'own' || own).map((c) => (
              <option key={c} value={c}>
                {CALLS[c]}
              </option>
            ))}
          </select>
        </label>
        <label>
          Sides
          <select
            value={mirrored ? 'mirror' : 'true'}
            onChange={(e) => onKept({ mirrored: e.target.value === 'mirror' })}
          >
            <option value="true">as they are</option>
            <option value="mirror">as in a mirror</option>
          </select>
        </label>
        <label>
          Counted in with
          <select value={kept.countIn} onChange={(e) => onKept({ countIn: Number(e.target.value) as 4 | 8 })}>
            <option value={4}>4 counts</option>
            <option value={8}>8 counts</option>
          </select>
        </label>
        <label className="tick">
          <input type="checkbox" checked={kept.again} onChange={(e) => onKept({ again: e.target.checked })} />
          Again and again
        </label>
        <Loudness sound={kept.sound} onKept={onKept} />
        <button type="button" onClick={onAll}>
          Choose all of it
        </button>
      </div>
    </details>
  )
}

function Loudness({ sound, onKept }: { sound: Kept['sound']; onKept: (what: Partial<Kept>) => void }) {
  return PARTS.map(([part, title]) => (
    <label key={part}>
      {title}
      <input
        type="range"
        min={0}
        max={100}
        value={Math.round(sound[part] * 100)}
        aria-valuetext={`${Math.round(sound[part] * 100)} percent`}
        onChange={(e) => onKept({ sound: { ...sound, [part]: Number(e.target.value) / 100 } })}
      />
    </label>
  ))
}
