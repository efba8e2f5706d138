import { desk } from '../theme/tokens'

const PETALS = [0, 72, 144, 216, 288]

/** Azalea's mark: five ruffled petals and long stamens. */
export function Flower({ size = 26, colour = desk.azalea }: { size?: number; colour?: string }) {
  return (
    <svg width={size} height={size} viewBox="-16 -16 32 32" aria-hidden>
      {PETALS.map((turn) => (
        <path
          key={turn}
          transform={`rotate(${turn})`}
          fill={colour}
          d="M0-1.5C-5-5-6.4-10-4.4-13.6c1.5-.9 2.7-.4 4.4-1.4 1.7 1 2.9.5 4.4 1.4C6.4-10 5-5 0-1.5Z"
        />
      ))}
      {[-24, 0, 24].map((turn) => (
        <g key={turn} transform={`rotate(${turn})`}>
          <path d="M0 1V-7.5" stroke="#fff" strokeWidth="1" />
          <circle cy="-8.2" r="1.15" fill="#fff" />
        </g>
      ))}
    </svg>
  )
}
