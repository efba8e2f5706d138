import type { LearnerMark } from '@/core/handout'
import type { Kept } from './kept'

/** What does not sit yet, what does, and the way back to the instructor. */
export function MarksPart({
  kept,
  nameOf,
  onKept,
  onChoose,
  onRemove,
  onSend,
}: {
  kept: Kept
  nameOf: (mark: LearnerMark) => string
  onKept: (what: Partial<Kept>) => void
  onChoose: (mark: LearnerMark) => void
  onRemove: (mark: LearnerMark) => void
  onSend: () => void
}) {
  const sorted = [...kept.marks].sort((a, b) => Number(a.sits) - Number(b.sits) || a.from - b.from)
  const without = !kept.name.trim()
  return (
    <section className="marks" aria-labelledby="marks">
      <h2 id="marks">How it sits</h2>
      {sorted.length === 0 ? (
        <p className="quiet">
          Nothing said yet. Choose counts, practise them, then say whether they sit. It is kept on this
          device.
        </p>
      ) : (
        <>
          <ul>
            {sorted.map((m) => (
              <li key={`${m.from} ${m.to}`}>
                <span>{nameOf(m)}</span>
                <span className={`badge${m.sits ? ' sits' : ''}`}>{m.sits ? 'sits' : 'not yet'}</span>
                <button type="button" onClick={() => onChoose(m)} aria-label={`Practise ${nameOf(m)}`}>
                  Practise
                </button>
                <button type="button" onClick={() => onRemove(m)} aria-label={`Take out ${nameOf(m)}`}>
                  Take out
                </button>
              </li>
            ))}
          </ul>
          <div className="send">
            <label>
              Your name
              <input
                type="text"
                maxLength={80}
                value={kept.name}
                autoComplete="name"
                onChange={(e) => onKept({ name: e.target.value })}
              />
            </label>
            <button type="button" onClick={onSend} disabled={without}>
              Save this for my instructor
            </button>
          </div>
          <p className="quiet">
            A small file is saved: send it yourself, by mail or message. This page sends nothing.
          </p>
        </>
      )}
    </section>
  )
}
