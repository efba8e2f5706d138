import { practice, standing, stretchName } from '@/core/drill'
import { overviewOf } from '@/core/hear'
import { placePhrases, type Routine, repairedBeats, stretches } from '@/core/routine'
import { gridTempo } from '@/core/time'
import type { StoredHearing } from '@/server/hearings'
import { logOf, shelf } from '@/server/routines'
import { Shelf, type ShelfItem } from '@/ui/stations/shelf/shelf'

/** What the shelf draws of a song: a few kilobytes of a hearing of many. */
function ribbonOf(routine: Routine, { hearing, peaks }: StoredHearing): NonNullable<ShelfItem['heard']> {
  const times = repairedBeats(hearing.beats, routine.repairs)
  return {
    duration: hearing.duration,
    tempo: times.length > 1 ? Math.round(gridTempo(times)) : 0,
    list: stretches(placePhrases(routine), times, hearing.duration),
    shape: Buffer.from(overviewOf(Buffer.from(peaks, 'base64'), hearing.version)).toString('base64'),
  }
}

export const dynamic = 'force-dynamic'

/** The shelf: every routine, and a place to begin a new one. */
export default async function Page() {
  const { open, unreadable } = await shelf()
  const log = await logOf(open.map((o) => o.id))
  const items = open.map(({ id, routine, song, heard }) => {
    const rows = log.filter((r) => r.routineId === id)
    const last = practice(rows)[0]
    return {
      id,
      title: routine.title,
      credit: routine.credit,
      cues: routine.cues.length,
      songId: song.id,
      fileName: song.fileName,
      heard: heard && ribbonOf(routine, heard),
      repetitions: standing(rows).length,
      last: last
        ? { label: stretchName(last), at: last.lastAt, speed: last.lastSpeed, mark: last.lastMark }
        : null,
    }
  })
  return <Shelf items={items} unreadable={unreadable} />
}
