import { PLAN_SHAPE, type SheetPath, type SheetPlan } from '@/core/handout'

/* Small plans on the page as they are printed: paper is white by night as well. */

const HIGH = 100
const WIDE = HIGH * PLAN_SHAPE

/** The floor, the audience on top. */
function Stage() {
  return (
    <>
      <rect x={1} y={1} width={WIDE - 2} height={HIGH - 2} fill="none" stroke="#C9BCCB" strokeWidth={2} />
      <line x1={0} x2={WIDE} y1={2} y2={2} stroke="#8C7A90" strokeWidth={3} strokeDasharray="6 6" />
    </>
  )
}

const pointsOf = (list: SheetPath['all']) => list.map(([x, y]) => `${x * WIDE},${y * HIGH}`).join(' ')

/** The whole way of the steps pale, that of the row dark, from the square to the round; dashed where it is not certain. The words beside it say where it ends. */
export function SheetPathPicture({ path: { all, row, uncertain } }: { path: SheetPath }) {
  const [[x0, y0] = [0, 0], [x1, y1] = [0, 0]] = [row[0], row.at(-1)]
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} width="90%" aria-hidden data-testid="sheet-path">
      <Stage />
      <polyline points={pointsOf(all)} fill="none" stroke="#C9BCCB" strokeWidth={4} />
      <polyline
        points={pointsOf(row)}
        fill="none"
        stroke="#1F1523"
        strokeWidth={5}
        {...(uncertain ? { strokeDasharray: '8 6' } : {})}
      />
      <rect x={x0 * WIDE - 5} y={y0 * HIGH - 5} width={10} height={10} fill="#1F1523" />
      <circle cx={x1 * WIDE} cy={y1 * HIGH} r={7} fill="#FFFFFF" stroke="#1F1523" strokeWidth={4} />
    </svg>
  )
}

/** A formation over the count it begins on. */
export function SheetPlanPicture({ plan, left }: { plan: SheetPlan; left: string }) {
  return (
    <figure
      aria-label={`${plan.name || 'Formation'}: ${plan.says}`}
      style={{ margin: 0, marginLeft: `min(${left}, 100% - 9.5em)`, width: '9.5em', fontSize: '0.86em' }}
    >
      <figcaption>{plan.name || 'formation'}</figcaption>
      <svg viewBox={`0 0 ${WIDE} 100`} width="100%" aria-hidden>
        <Stage />
        {plan.people.map((p) => (
          <g key={p.letters} transform={`translate(${WIDE * p.x} ${Math.min(86, 100 * p.y + 11)})`}>
            <rect
              x={-11}
              y={-11}
              width={22}
              height={22}
              rx={p.role % 2 ? 2 : 11}
              fill="#FFFFFF"
              stroke="#1F1523"
              strokeWidth={2}
            />
            <text
              textAnchor="middle"
              dominantBaseline="central"
              fontSize={13}
              fontWeight={700}
              fill="#1F1523"
            >
              {p.letters}
            </text>
          </g>
        ))}
      </svg>
    </figure>
  )
}
