'use client'

import {
  Chart,
  type ChartData,
  type ChartOptions,
  LinearScale,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js'
import { memo, useDeferredValue } from 'react'
import { Line } from 'react-chartjs-2'
import styled from 'styled-components'
import { type LessonStep, type PlacedPhrase, stepKey } from '@/core/routine'
import { KIND_LOOKS, minutesText, stepWords } from '../../parts/step-words'
import type { Palette } from '../../theme/palette'
import { desk } from '../../theme/tokens'
import { colourValue, usePalette } from '../../theme/use-palette'

Chart.defaults.font.family = "'Figtree Variable', system-ui, sans-serif"
Chart.register(LinearScale, PointElement, LineElement, Tooltip)

const Box = styled.figure`
  margin: 0;
  height: 150px;
  flex: none;
  position: relative;
`

const Legend = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  font-size: 12.5px;
  color: ${desk.quiet};
  b { display: inline-block; min-width: 13px; text-align: center; }
`

/** Talk and rest lie on the ground. */
const heightOf = (step: LessonStep) => (step.repetitions ? Math.round(step.speed * 100) : 30)

/** An end of a tread, with its step; what that is in words is said where somebody points at it. */
interface Point {
  x: number
  y: number
  step: LessonStep | null
}

const KINDS = Object.keys(KIND_LOOKS) as LessonStep['kind'][]

interface Props {
  steps: readonly LessonStep[]
  seconds: readonly number[]
  placed: readonly PlacedPhrase[]
  /** Minutes there are. */
  budget: number
  chosen: ReadonlySet<string>
}

/** The lesson as a staircase: it is drawn after what was changed is seen in the list. */
export function Staircase(props: Props) {
  return <Drawn {...useDeferredValue(props)} />
}

/** From when to when each step lasts, in minutes. */
function treadsOf(steps: readonly LessonStep[], seconds: readonly number[]) {
  const treads: { step: LessonStep; from: number; to: number }[] = []
  let at = 0
  for (const [i, step] of steps.entries()) {
    const from = at / 60
    at += seconds[i] ?? 0
    treads.push({ step, from, to: at / 60 })
  }
  return treads
}

/** The treads as lines of a chart: one a kind, with gaps, so that hundreds are drawn as quickly as ten. */
function linesOf(
  treads: ReturnType<typeof treadsOf>,
  chosen: ReadonlySet<string>,
  palette: Palette,
): ChartData<'line', Point[]> {
  const ground = {
    id: 'ground',
    label: '',
    data: treads.flatMap(({ step, from, to }) =>
      [from, to].map((x) => ({ x, y: heightOf(step), step: null })),
    ),
    borderColor: `${palette.desk.faint}88`,
    borderWidth: 1,
    pointRadius: 0,
    pointHitRadius: 0,
    order: 1,
  }
  const lines = KINDS.flatMap((kind) =>
    [false, true].map((thick) => ({
      id: `${kind}${thick ? ' chosen' : ''}`,
      label: kind,
      data: treads
        .filter((t) => t.step.kind === kind && chosen.has(stepKey(t.step)) === thick)
        .flatMap(({ step, from, to }): Point[] => {
          const y = heightOf(step)
          return [
            { x: from, y, step },
            { x: to, y, step },
            { x: to, y: Number.NaN, step },
          ]
        }),
      borderColor: colourValue(KIND_LOOKS[kind].colour, palette),
      borderWidth: thick ? 11 : 6,
      borderCapStyle: 'butt' as const,
      borderDash: kind === 'join' ? [4, 2] : [],
      pointRadius: 0,
      pointHitRadius: 8,
    })),
  )
  return { datasets: [ground, ...lines.filter((l) => l.data.length)] }
}

/** How the chart is drawn. @param most minutes it reaches to */
const optionsFor = (
  most: number,
  { desk: now }: Palette,
  placed: readonly PlacedPhrase[],
): ChartOptions<'line'> => ({
  animation: false,
  maintainAspectRatio: false,
  responsive: true,
  parsing: false,
  scales: {
    x: {
      type: 'linear',
      min: 0,
      max: most,
      title: { display: true, text: 'minutes', color: now.quiet },
      ticks: { color: now.quiet },
      grid: { color: now.line },
    },
    y: {
      type: 'linear',
      min: 20,
      max: 110,
      grid: { color: now.line },
      ticks: { color: now.quiet, stepSize: 20, callback: (v) => (Number(v) < 40 ? 'talk' : `${v} %`) },
    },
  },
  plugins: {
    tooltip: { callbacks: { title: () => '', label: (item) => wordsOf(item.raw as Point, placed) } },
  },
})

const wordsOf = ({ step }: Point, placed: readonly PlacedPhrase[]) => (step ? stepWords(step, placed) : '')

/** Speed against minutes, a tread for each step. The list beside it says the same in words. */
const Drawn = memo(function Drawn({ steps, seconds, placed, budget, chosen }: Props) {
  const palette = usePalette()
  const treads = treadsOf(steps, seconds)
  const end = treads.at(-1)?.to ?? 0
  const most = Math.max(budget, Math.ceil(end))
  const drills = steps.filter((s) => s.kind === 'drill').length
  return (
    <>
      <Box>
        <Line
          data={linesOf(treads, chosen, palette)}
          datasetIdKey="id"
          role="img"
          aria-label={`Staircase of the lesson: ${steps.length} steps, ${drills} drills, ${minutesText(end * 60)} minutes of ${budget}. The list below says each step in words.`}
          options={optionsFor(most, palette, placed)}
        />
      </Box>
      <Legend aria-hidden>
        {KINDS.map((kind) => (
          <li key={kind}>
            <b style={{ color: KIND_LOOKS[kind].colour }}>{KIND_LOOKS[kind].sign}</b> {kind}
          </li>
        ))}
      </Legend>
    </>
  )
})
