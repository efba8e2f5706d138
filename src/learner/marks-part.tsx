import type { ReactNode } from 'react'
import type { LearnerMark } from '@/core/handout'
import { saveFile } from '@/ui/parts/save-file'
import type { SendProps } from './in-class'
import { type Kept, marksFile } from './kept'

/** What does not sit yet, what does, and the way back to the instructor. */
export function MarksPart({
  kept,
  nameOf,
  onChoose,
  onRemove,
  children,
}: {
  kept: Kept
  nameOf: (mark: LearnerMark) => string
  onChoose: (mark: LearnerMark) => void
  onRemove: (mark: LearnerMark) => void
  children: ReactNode
}) {
  const sorted = [...kept.marks].sort((a, b) => Number(a.sits) - Number(b.sits) || a.from - b.from)
  return (
    <section className="marks" aria-labelledby="marks">
      <h2 id="marks">How it sits</h2>
      {sorted.length === 0 ? (
        <p className="quiet">
          Nothing said yet. Choose counts, practise them, then say whether they sit. It is kept on this
          device.
        </p>
      ) : (
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
      )}
      {children}
    </section>
  )
}

/** The way back by a file, which learners send themselves. */
export function SendFile({ page, kept, onKept, onSaved }: SendProps & { onSaved: () => void }) {
  if (!kept.marks.length) return null
  const save = () => {
    const file = marksFile(page.id, kept)
    saveFile(`${file.learner}.azalea-marks.json`, JSON.stringify(file), 'application/json')
    onSaved()
  }
  return (
    <>
      <div className="send">
        <NameField {...{ kept, onKept }} />
        <button type="button" onClick={save} disabled={!kept.name.trim()}>
          Save this for my instructor
        </button>
      </div>
      <p className="quiet">
        A small file is saved: send it yourself, by mail or message. This page sends nothing.
      </p>
    </>
  )
}

/** Under which name it goes. */
export function NameField({ kept, onKept }: Pick<SendProps, 'kept' | 'onKept'>) {
  return (
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
  )
}
