import { memo, useEffect, useRef } from 'react'
import type { LearnerMark, SheetRow } from '@/core/handout'
import type { Stretch, Ticks } from '@/core/time'
import { holds } from '@/core/time'
import { Plans } from './places'
import type { CardCount } from './rows'
import { Still } from './still'

/** One phrase of the dance. */
export const Card = memo(function Card({
  row,
  name,
  counts,
  places,
  chosen,
  now,
  active,
  marks,
  mirrored,
  onRow,
  onCount,
}: {
  row: SheetRow
  /** "Chorus, eight 2". */
  name: string
  counts: readonly CardCount[]
  /** When each of its counts falls in the learner's copy of the song, in seconds; null where it does not. */
  places: readonly (number | null)[]
  chosen: Stretch
  /** The count that is heard, where it is in this card. */
  now: Ticks | null
  /** It is danced now, or next: it is kept in sight. */
  active: boolean
  /** What was said of counts of it. */
  marks: readonly LearnerMark[]
  mirrored: boolean
  onRow: (row: SheetRow, further: boolean) => void
  onCount: (tick: Ticks) => void
}) {
  const at = useRef<HTMLElement>(null)
  useEffect(() => {
    if (active) at.current?.scrollIntoView({ block: 'nearest' })
  }, [active])
  return (
    <section className="card" ref={at} aria-label={name}>
      <button
        type="button"
        aria-pressed={chosen.from === row.from && chosen.to === row.from + row.length}
        onClick={(e) => onRow(row, e.shiftKey)}
      >
        {row.title}
        <time>{row.time}</time>
      </button>
      {marks.length > 0 && (
        <p>
          {marks.some((m) => !m.sits) && <span className="badge">not yet</span>}{' '}
          {marks.some((m) => m.sits) && <span className="badge sits">sits</span>}
        </p>
      )}
      {row.lyric && (
        <p className="quiet" lang="">
          “{row.lyric}”
        </p>
      )}
      <Plans plans={row.plans} label={(at) => counts.find((c) => c.tick === row.from + at)?.label ?? ''} />
      <ol>
        {counts.map((c, i) => (
          <li key={c.tick}>
            <button
              type="button"
              data-tick={c.tick}
              data-seconds={places[i] ?? undefined}
              tabIndex={i === 0 ? 0 : -1}
              className={now === c.tick ? 'now' : ''}
              aria-pressed={holds(chosen, c.tick)}
              onClick={() => onCount(c.tick)}
            >
              <span className="n">{c.label}</span>
              <span className="c">
                <Still tick={c.tick} mirrored={mirrored} />
                {c.cues.map((q, k) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: cues of one count have no other names
                  <span key={k}>
                    {q.between && <b>{q.between}</b>}
                    {q.text} <small>{[q.layer, q.until].filter(Boolean).join(' ')}</small>
                  </span>
                ))}
              </span>
              <span className="w">
                {c.weight && (
                  <>
                    <span className="hidden">weight </span>
                    {c.weight}
                  </>
                )}
              </span>
            </button>
          </li>
        ))}
      </ol>
      {row.wall && <p className="quiet">Ends facing {row.wall}</p>}
      {row.notes.map((n) => (
        <p key={n} className="quiet">
          {n}
        </p>
      ))}
    </section>
  )
})
