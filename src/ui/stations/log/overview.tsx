'use client'

import { BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js'
import { Bar } from 'react-chartjs-2'
import styled from 'styled-components'
import {
  CLEAN_IN_A_ROW,
  type CountedRow,
  lineKey,
  type Mark,
  practiceDays,
  type SpeedCell,
  type SpeedRow,
  speedSheet,
} from '@/core/drill'
import { Button } from '../../parts/button'
import { saveCsv } from '../../parts/save-file'
import type { LogRow } from '../../state/api-log'
import { desk } from '../../theme/tokens'
import { usePalette } from '../../theme/use-palette'

Chart.defaults.font.family = "'Figtree Variable', system-ui, sans-serif"
Chart.register(CategoryScale, LinearScale, BarElement, Tooltip)

const Sheet = styled.table`
  border-collapse: separate;
  border-spacing: 3px;
  font-size: 13.5px;
  th { font-weight: 550; color: ${desk.quiet}; padding: 2px 8px; }
  th[scope='row'] { text-align: left; color: ${desk.ink}; font-weight: 600; overflow-wrap: anywhere; }
  td { min-width: 58px; height: 30px; text-align: center; border-radius: 7px; border: 1.5px solid ${desk.line}; }
  td[data-state='sits'] { background: ${desk.leaf}; border-color: ${desk.leaf}; color: ${desk.on}; }
  td[data-state='near'] { background: ${desk.amberSoft}; border-color: ${desk.amber}; }
  td[data-state='not'] { border-color: ${desk.edge}; }
`

const SIGNS: Record<Mark, string> = { clean: '●', shaky: '◐', missed: '○' }

/** What the last two marks at a speed come to. */
function stateOf(cell: SpeedCell): { state: string; says: string } {
  if (cell.last.length === CLEAN_IN_A_ROW && cell.last.every((m) => m === 'clean'))
    return { state: 'sits', says: 'sits' }
  if (cell.last.at(-1) === 'clean' || cell.last.at(-1) === 'shaky') return { state: 'near', says: 'nearly' }
  return { state: 'not', says: cell.last.length ? 'not yet' : 'not marked' }
}

/** Stretches down, speeds across. */
export function SpeedSheet({
  rows,
  nameOf,
}: {
  rows: readonly CountedRow[]
  nameOf: (row: Pick<SpeedRow, 'stretch' | 'label' | 'pass'>) => string
}) {
  const { speeds, rows: list } = speedSheet(rows)
  return (
    <section style={{ display: 'grid', gap: 10, overflowX: 'auto' }}>
      <h2>By speed</h2>
      <Sheet>
        <thead>
          <tr>
            <td style={{ border: 0 }} />
            {speeds.map((s) => (
              <th key={s} scope="col">
                {Math.round(s * 100)} %
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {list.map((r) => (
            <tr key={lineKey(r)}>
              <th scope="row">{nameOf(r)}</th>
              {speeds.map((s) => {
                const cell = r.cells.get(s)
                if (!cell) return <td key={s} aria-label="not danced" />
                const { state, says } = stateOf(cell)
                return (
                  <td key={s} data-state={state} title={`${cell.repetitions} times, ${says}`}>
                    {cell.last.map((m) => SIGNS[m]).join(' ') || '·'}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </Sheet>
      <p style={{ color: desk.quiet, fontSize: 13.5 }}>
        The last two times at each speed: ● clean, ◐ shaky, ○ missed. Two clean in a row sit.
      </p>
    </section>
  )
}

const dayOf = (time: number) => {
  const d = new Date(time)
  return `${d.getFullYear()}-${String(d.getMonth() + 1).padStart(2, '0')}-${String(d.getDate()).padStart(2, '0')}`
}
const dayName = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })

/** Minutes danced by day, as a chart and in words. */
export function Days({ rows }: { rows: readonly CountedRow[] }) {
  const { desk: now } = usePalette()
  const days = practiceDays(
    rows.map((c) => c.row),
    dayOf,
  ).slice(-21)
  const names = days.map((d) => dayName.format(new Date(`${d.day}T12:00:00`)))
  const words = days.map(
    (d, i) => `${names[i]}: ${(d.seconds / 60).toFixed(1)} minutes, ${d.repetitions} repetitions`,
  )
  return (
    <section style={{ display: 'grid', gap: 10 }}>
      <h2>Dancing by day</h2>
      <div style={{ height: 150, maxWidth: 620 }}>
        <Bar
          role="img"
          aria-label={`Minutes danced by day. ${words.join('; ')}.`}
          data={{
            labels: names,
            datasets: [
              { data: days.map((d) => d.seconds / 60), backgroundColor: now.azalea, maxBarThickness: 44 },
            ],
          }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            scales: {
              y: {
                beginAtZero: true,
                ticks: { color: now.quiet },
                grid: { color: now.line },
                title: { display: true, text: 'minutes', color: now.quiet },
              },
              x: { ticks: { color: now.quiet }, grid: { display: false } },
            },
            plugins: { tooltip: { callbacks: { label: (item) => words[item.dataIndex] ?? '' } } },
          }}
        />
      </div>
      <p style={{ color: desk.quiet, fontSize: 13.5 }}>{words.slice(-7).join(' · ')}</p>
    </section>
  )
}

/** The log as a table for other programs. */
export function SaveLog({ rows, name }: { rows: readonly CountedRow<LogRow>[]; name: string }) {
  const save = () => {
    saveCsv(
      name,
      'log',
      rows.map(({ row: r }) => ({
        when: new Date(r.doneAt).toISOString(),
        what: r.label,
        'song from': r.from ?? '',
        'song to': r.to ?? '',
        pass: r.pass,
        kind: r.kind,
        speed: r.speed,
        with: r.sound,
        seconds: r.seconds,
        mark: r.mark,
        slips: r.slips.join(' '),
      })),
    )
  }
  return (
    <Button small onPress={save}>
      Save as CSV
    </Button>
  )
}
