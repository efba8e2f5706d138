import { useMemo } from 'react'
import type { LearnerMark, PracticePage, SheetRow } from '@/core/handout'
import { type PlacedPhrase, stretchName } from '@/core/routine'
import { type Stretch, TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { Card } from './card'
import type { Copy } from './copy'
import type { Heard } from './drill'
import { type CardCount, stretchOf } from './rows'

/** Rows by section: those before the first heading stand for themselves. */
function partsOf(rows: readonly SheetRow[]): { heading: string; rows: SheetRow[] }[] {
  const out: { heading: string; rows: SheetRow[] }[] = []
  for (const row of rows) {
    const last = out.at(-1)
    if (last && !row.heading) last.rows.push(row)
    else out.push({ heading: row.heading, rows: [row] })
  }
  return out
}

const NOTHING: never[] = []

const inCard = (tick: Ticks | undefined, { from, length }: SheetRow) =>
  tick !== undefined && tick >= from && tick < from + length

/** The dance as cards, section by section. */
export function Cards({
  page,
  rows,
  cards,
  placed,
  copy,
  marks,
  mirrored,
  chosen,
  heard,
  onRow,
  onCount,
}: {
  page: PracticePage
  rows: readonly SheetRow[]
  /** The counts of each row, by where it begins. */
  cards: ReadonlyMap<Ticks, CardCount[]>
  placed: readonly PlacedPhrase[]
  copy: Copy | null
  marks: readonly LearnerMark[]
  mirrored: boolean
  chosen: Stretch
  heard: Heard | null
  onRow: (row: SheetRow, further: boolean) => void
  onCount: (tick: Ticks) => void
}) {
  const { times } = page
  // The same until they change: a card is drawn again only when something of it is another.
  const places = useMemo(
    () =>
      new Map(
        [...cards].map(([from, counts]) => [
          from,
          counts.map((c) => copy?.places[Math.round(c.tick / TICKS_PER_COUNT)] ?? null),
        ]),
      ),
    [cards, copy],
  )
  const marksOf = useMemo(
    () =>
      new Map(
        rows.map((row) => [
          row.from,
          marks.filter((m) => {
            const { from, to } = stretchOf(times, m)
            return from < row.from + row.length && to > row.from
          }),
        ]),
      ),
    [rows, marks, times],
  )
  return (
    <section className="part" aria-label="The dance">
      {partsOf(rows).map(({ heading, rows: own }) => (
        <div className="part" key={own[0]?.from}>
          {heading && <h2>{heading}</h2>}
          <div className="cards">
            {own.map((row) => {
              const counts = cards.get(row.from) ?? []
              const end = row.from + row.length
              return (
                <Card
                  key={row.from}
                  row={row}
                  name={stretchName(placed, { from: row.from, to: end })}
                  counts={counts}
                  places={places.get(row.from) ?? NOTHING}
                  chosen={chosen}
                  now={heard && !heard.countedIn && inCard(heard.tick, row) ? heard.tick : null}
                  active={inCard(heard?.countedIn ? chosen.from : heard?.tick, row)}
                  marks={marksOf.get(row.from) ?? NOTHING}
                  mirrored={mirrored}
                  onRow={onRow}
                  onCount={onCount}
                />
              )
            })}
          </div>
        </div>
      ))}
    </section>
  )
}
