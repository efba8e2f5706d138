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
export const [SLOWEST, FASTEST] = [40, 110]

/** What is chosen, played and how. */
export function Dock({
  kept,
  mirrored,
  own,
  playing,
  name,
  count,
  words,
  countedIn,
  anchored,
  mark,
  onKept,
  onPlay,
  onAll,
  onMark,
  children,
}: {
  kept: Kept
  mirrored: boolean
  /** There are calls in the instructor's own voice. */
  own: boolean
  playing: boolean
  /** The counts that are chosen, in words. */
  name: string
  /** What is counted now, and what is danced on it. */
  count: string
  words: string
  countedIn: boolean
  /** A first count was chosen and waits for its last. */
  anchored: boolean
  /** What was said of the chosen counts. */
  mark: 'sits' | 'not yet' | null
  onKept: (what: Partial<Kept>) => void
  onPlay: () => void
  onAll: () => void
  onMark: (sits: boolean) => void
  /** What is to be known. */
  children: ReactNode
}) {
  const percent = Math.round(kept.speed * 100)
  const speed = (to: number) => onKept({ speed: Math.min(FASTEST, Math.max(SLOWEST, to)) / 100 })
  return (
    <section className="dock" aria-label="Practise">
      <p data-testid="chosen">
        <strong>{name}</strong> {anchored && <span className="quiet">… now the last count</span>}
      </p>
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
      {children}
      <div className="speed">
        <button type="button" aria-label="5 % slower" onClick={() => speed(percent - 5)}>
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
          onChange={(e) => speed(Number(e.target.value))}
        />
        <button type="button" aria-label="5 % faster" onClick={() => speed(percent + 5)}>
          +
        </button>
        <output>{percent} %</output>
      </div>
      <div className="say">
        <button type="button" aria-pressed={mark === 'sits'} onClick={() => onMark(true)}>
          It sits
        </button>
        <button type="button" aria-pressed={mark === 'not yet'} onClick={() => onMark(false)}>
          Not yet
        </button>
      </div>
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
            <select
              value={kept.countIn}
              onChange={(e) => onKept({ countIn: Number(e.target.value) as 4 | 8 })}
            >
              <option value={4}>4 counts</option>
              <option value={8}>8 counts</option>
            </select>
          </label>
          <label className="tick">
            <input
              type="checkbox"
              checked={kept.again}
              onChange={(e) => onKept({ again: e.target.checked })}
            />
            Again and again
          </label>
          {PARTS.map(([part, title]) => (
            <label key={part}>
              {title}
              <input
                type="range"
                min={0}
                max={100}
                value={Math.round(kept.sound[part] * 100)}
                aria-valuetext={`${Math.round(kept.sound[part] * 100)} percent`}
                onChange={(e) => onKept({ sound: { ...kept.sound, [part]: Number(e.target.value) / 100 } })}
              />
            </label>
          ))}
          <button type="button" onClick={onAll}>
            Choose all of it
          </button>
        </div>
      </details>
    </section>
  )
}
