import { notFound } from 'next/navigation'
import {
  counted,
  type LoggedRepetition,
  nextSpeed,
  nextUp,
  practice,
  Readiness,
  withPass,
} from '@/core/drill'
import { overviewOf } from '@/core/hear'
import { danceOf, placePhrases, type Routine, repairedBeats, sectionBands, stretchName } from '@/core/routine'
import { common, gridTempo } from '@/core/time'
import { calledByOwnName } from '@/server/called'
import type { StoredHearing } from '@/server/hearings'
import { logOf, shelf } from '@/server/routines'
import { Shelf, type ShelfItem } from '@/ui/stations/shelf/shelf'

/** What the shelf draws of a song: a few kilobytes of a hearing of many. */
function ribbonOf(routine: Routine, { hearing, peaks }: StoredHearing): NonNullable<ShelfItem['heard']> {
  const times = repairedBeats(hearing.beats, routine.repairs)
  return {
    duration: hearing.duration,
    tempo: times.length > 1 ? Math.round(gridTempo(times)) : 0,
    list: sectionBands(placePhrases(routine), times, hearing.duration),
    shape: Buffer.from(overviewOf(Buffer.from(peaks, 'base64'), hearing.version)).toString('base64'),
  }
}

/** What was danced last, and what sits: of the whole dance from start to end, and phrase by phrase at tempo. */
function practised(routine: Routine, heard: StoredHearing | null, log: readonly LoggedRepetition[]) {
  const times = repairedBeats(heard?.hearing.beats ?? [], routine.repairs)
  const placed = placePhrases(routine)
  const rows = counted(log, times)
  const readiness = new Readiness(rows)
  const line = practice(rows, readiness)[0]
  const dance = danceOf(routine)
  const phrases = placed.flatMap((p) => common({ from: p.start, to: p.end }, dance) ?? [])
  const due = nextUp(practice(rows, readiness), Date.now())
  return {
    rows: rows.length,
    due: due.slice(0, 2).map((l) => ({
      label: withPass(l.stretch ? stretchName(placed, l.stretch) : l.label, l.pass),
      speed: nextSpeed(l),
    })),
    more: Math.max(0, due.length - 2),
    last: line
      ? {
          label: withPass(line.stretch ? stretchName(placed, line.stretch) : line.label, line.pass),
          speed: line.lastSpeed,
          mark: line.lastMark,
        }
      : null,
    sits: {
      whole: readiness.of(dance),
      atTempo: phrases.filter((s) => readiness.of(s) >= 1).length,
      phrases: phrases.length,
    },
  }
}

export const dynamic = 'force-dynamic'

/** The shelf: every routine, and a place to begin a new one. */
export default async function Page() {
  if (!(await calledByOwnName())) notFound()
  const { open, unreadable } = await shelf()
  const log = new Map<string, LoggedRepetition[]>(open.map((o) => [o.id, []]))
  for (const row of await logOf([...log.keys()])) log.get(row.routineId)?.push(row)
  const items = open.map(({ id, routine, song, heard }) => {
    const { rows, last, sits, due, more } = practised(routine, heard, log.get(id) ?? [])
    return {
      id,
      title: routine.title,
      credit: routine.credit,
      cues: routine.cues.length,
      songId: song.id,
      fileName: song.fileName,
      heard: heard && ribbonOf(routine, heard),
      repetitions: rows,
      last,
      sits,
      due,
      more,
    }
  })
  return <Shelf items={items} unreadable={unreadable} />
}
