import { practice, standing } from '@/core/drill'
import { logOf, shelf } from '@/server/routines'
import { Shelf } from '@/ui/stations/shelf/shelf'

export const dynamic = 'force-dynamic'

/** The shelf: every routine, and a place to begin a new one. */
export default async function Page() {
  const open = await shelf()
  const log = await logOf(open.map((o) => o.id))
  const items = open.map(({ id, routine, song, heard }) => {
    const rows = log.filter((r) => r.routineId === id)
    const last = practice(rows)[0]
    return {
      id,
      routine,
      songId: song.id,
      fileName: song.fileName,
      heard,
      repetitions: standing(rows).length,
      last: last ? { label: last.label, at: last.lastAt, speed: last.lastSpeed, mark: last.lastMark } : null,
    }
  })
  return <Shelf items={items} />
}
