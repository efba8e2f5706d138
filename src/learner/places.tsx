import { createContext, useContext } from 'react'
import { PLAN_SHAPE, type SheetPlan } from '@/core/handout'
import type { Dancer } from '@/core/routine'

const Context = createContext('')
/** The learner's own letter; '' where nobody said. */
export const MineProvider = Context.Provider

/** Which of those on the plan the learner is; nothing where nobody stands anywhere. */
export function WhoIAm({
  dancers,
  mine,
  onMine,
}: {
  dancers: readonly Dancer[]
  mine: string
  onMine: (letters: string) => void
}) {
  if (dancers.length < 2) return null
  return (
    <p>
      <label>
        On the plans I am{' '}
        <select value={mine} onChange={(e) => onMine(e.currentTarget.value)}>
          <option value="">–</option>
          {dancers.map((d) => (
            <option key={d.id} value={d.letters}>
              {d.letters}
            </option>
          ))}
        </select>
      </label>
    </p>
  )
}

/** Formations of a card: the audience on top, one's own letter filled. */
export function Plans({ plans, label }: { plans: readonly SheetPlan[]; label: (at: number) => string }) {
  const mine = useContext(Context)
  return plans.map((plan) => {
    const own = plan.people.find((p) => p.letters === mine)
    const says = own ? plan.says.split('; ').find((s) => s.startsWith(`${mine} `)) : plan.says
    return (
      <figure key={plan.at} className="plan">
        <figcaption>{[label(plan.at), plan.name, own ? says : ''].filter(Boolean).join(' · ')}</figcaption>
        <svg viewBox={`0 0 ${100 * PLAN_SHAPE} 100`} role="img" aria-label={says}>
          <line x1={0} x2={100 * PLAN_SHAPE} y1={2} y2={2} stroke="currentColor" strokeDasharray="6 6" />
          {plan.people.map((p) => (
            <g
              key={p.letters}
              transform={`translate(${100 * PLAN_SHAPE * p.x} ${Math.min(87, 100 * p.y + 12)})`}
              className={p.letters === mine ? 'mine' : ''}
            >
              <rect x={-11} y={-11} width={22} height={22} rx={p.role % 2 ? 2 : 11} />
              <text textAnchor="middle" dominantBaseline="central">
                {p.letters}
              </text>
            </g>
          ))}
        </svg>
      </figure>
    )
  })
}
