import { openDB } from 'idb'

/** A learner's copy of a song as their device keeps it, and where its counts were found. */
export interface KeptCopy {
  name: string
  file: Blob
  /** Null where the counts were laid out anew since: they are looked for once more. */
  places: (number | null)[] | null
  /** When the counts fall in the instructor's copy for which these places were found. */
  times?: readonly number[]
}

const COPIES = 'copies'
const shelf = () =>
  openDB('azalea practice', 1, {
    upgrade: (db) => {
      db.createObjectStore(COPIES)
    },
  })

const isPlaces = (x: unknown): x is (number | null)[] =>
  Array.isArray(x) && x.every((p) => p === null || (typeof p === 'number' && Number.isFinite(p)))

/** The copy that is kept for a page; null where there is none, or none that can be read. @param times of the counts of the page */
export async function keptCopy(id: string, times: readonly number[]): Promise<KeptCopy | null> {
  try {
    const db = await shelf()
    const kept = (await db.get(COPIES, id)) as Partial<KeptCopy> | undefined
    db.close()
    if (!kept || !(kept.file instanceof Blob) || typeof kept.name !== 'string') return null
    const { name, file, places } = kept
    // Pages before kept no times: theirs never changed.
    const same =
      !kept.times || (kept.times.length === times.length && times.every((t, i) => t === kept.times?.[i]))
    const fits = same && isPlaces(places) && places.length === times.length
    return { name, file, places: fits ? places : null, times }
  } catch {
    // A browser that keeps nothing for files has no copy.
    return null
  }
}

/** Keeps a copy on this device, or takes it off where none is given. @returns false where this browser keeps nothing, or has no room */
export async function keepCopy(id: string, copy: KeptCopy | null): Promise<boolean> {
  try {
    const db = await shelf()
    if (copy) await db.put(COPIES, copy, id)
    else await db.delete(COPIES, id)
    db.close()
    return true
  } catch {
    return false
  }
}
