'use client'

import { CategoryScale, Chart, LinearScale, LineElement, PointElement, Tooltip } from 'chart.js'
import { Line } from 'react-chartjs-2'
import { lateness, type TimingCourse, timingCourses } from '@/core/drill'
import { Button } from '../../parts/button'
import { saveCsv } from '../../parts/save-file'
import { Unread } from '../../parts/unread'
import { fetchTimings } from '../../state/api-log'
import { useLog } from '../../state/use-log'
import { desk } from '../../theme/tokens'
import { usePalette } from '../../theme/use-palette'
import { Table } from './table'

Chart.register(CategoryScale, LinearScale, LineElement, PointElement, Tooltip)

const when = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})
const COLOURS = ['azalea', 'leaf', 'amber', 'ink'] as const
/** Stretches drawn, and goes listed. */
const [DRAWN, LISTED] = [4, 100]

/** What the timing trainer measured: how early or late, stretch by stretch. */
export function Timings({ id, name }: { id: string; name: string }) {
  const log = useLog(fetchTimings, id)
  const { rows } = log
  if (log.problem) return <Unread log={log} />
  if (!rows.length) return null
  const save = () =>
    saveCsv(
      name,
      'timing',
      rows.map((t) => ({
        when: new Date(t.doneAt).toISOString(),
        what: t.label,
        speed: t.speed,
        by: t.by,
        moves: t.n,
        'mean ms': t.mean,
        'spread ms': t.spread,
        'worst count': t.worst,
        'worst ms': t.worstMs,
      })),
    )
  return (
    <section style={{ display: 'grid', gap: 10 }}>
      <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', gap: 16 }}>
        <h2>Timing</h2>
        <Button small onPress={save}>
          Save as CSV
        </Button>
      </div>
      {rows.length > 1 && <Courses courses={timingCourses(rows).slice(0, DRAWN)} />}
      <Table>
        <thead>
          <tr>
            <th>Stretch</th>
            <th>When</th>
            <th>Speed</th>
            <th>On average</th>
            <th>Spread</th>
            <th>Furthest off</th>
          </tr>
        </thead>
        <tbody>
          {[...rows]
            .reverse()
            .slice(0, LISTED)
            .map((t) => (
              <tr key={t.id} data-testid="timed">
                <td>{t.label}</td>
                <td>{when.format(t.doneAt)}</td>
                <td>{Math.round(t.speed * 100)} %</td>
                <td>
                  {lateness(t.mean)}, {t.n} {t.by}s
                </td>
                <td>{Math.round(t.spread)} ms</td>
                <td>{t.worst ? `${t.worst}: ${lateness(t.worstMs)}` : 'none'}</td>
              </tr>
            ))}
        </tbody>
      </Table>
      {rows.length > LISTED && (
        <p style={{ color: desk.quiet }}>
          The {LISTED} most recent of {rows.length} are shown.
        </p>
      )}
    </section>
  )
}

/** Means from go to go, a line a stretch; the table below says the same in numbers. */
function Courses({ courses }: { courses: readonly TimingCourse[] }) {
  const { desk: now } = usePalette()
  const longest = Math.max(...courses.map((c) => c.goes.length))
  const words = courses.map((c) => `${c.label}: ${c.goes.map((g) => lateness(g.mean)).join(', then ')}`)
  return (
    <>
      <div style={{ height: 170, maxWidth: 620 }}>
        <Line
          role="img"
          aria-label={`How early or late, go by go. ${words.join('; ')}.`}
          data={{
            labels: Array.from({ length: longest }, (_, i) => `go ${i + 1}`),
            datasets: courses.map((c, i) => ({
              label: c.label,
              data: c.goes.map((g) => g.mean),
              borderColor: now[COLOURS[i] ?? 'ink'],
              backgroundColor: now[COLOURS[i] ?? 'ink'],
              pointRadius: 4,
              borderWidth: 2,
            })),
          }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            scales: {
              y: {
                ticks: { color: now.quiet },
                grid: { color: now.line },
                title: { display: true, text: 'ms late', color: now.quiet },
                suggestedMin: -40,
                suggestedMax: 40,
              },
              x: { ticks: { color: now.quiet }, grid: { display: false } },
            },
            plugins: {
              legend: { labels: { color: now.quiet } },
            },
          }}
        />
      </div>
      <p style={{ color: desk.quiet, fontSize: 13.5 }}>
        {courses.map((c, i) => (
          <span key={c.key}>
            <b style={{ color: COLOURS[i] }}>●</b> {c.label}&ensp;
          </span>
        ))}
        · 0 is on the beat, above it is late.
      </p>
    </>
  )
}
