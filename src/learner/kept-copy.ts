import { openDB } from 'idb'

/** A learner's copy of a song as their device keeps it, and where its counts were found. */
export interface KeptCopy {
  name: string
  file: Blob
  places: (number | null)[]
}

const COPIES = 'copies'
const shelf = () =>
  openDB('azalea practice', 1, {
    upgrade: (db) => {
      db.createObjectStore(COPIES)
    },
  })

const isPlaces = (x: unknown): x is KeptCopy['places'] =>
  Array.isArray(x) && x.every((p) => p === null || (typeof p === 'number' && Number.isFinite(p)))

/**
 * The copy that is kept for a page; null where there is none, none that can be read, or one whose counts are not those of the page.
 * @param counts how many counts the page has
 */
export async function keptCopy(id: string, counts: number): Promise<KeptCopy | null> {
  try {
    const db = await shelf()
    const kept = (await db.get(COPIES, id)) as Partial<KeptCopy> | undefined
    db.close()
    const fits = kept && isPlaces(kept.places) && kept.places.length === counts
    return fits && kept.file instanceof Blob && typeof kept.name === 'string' ? (kept as KeptCopy) : null
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
