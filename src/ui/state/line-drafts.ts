import * as v from 'valibot'

/** Routines of which something is kept; of more, what was left longest ago goes. */
const MOST_ROUTINES = 30
/** Lines of a routine that are kept, and letters of each: more is no line. */
const [MOST_LINES, MOST_LETTERS] = [60, 100_000]

type Drafts = Readonly<Record<string, string>>

const KEY = 'azalea-left-lines'
const KeptSchema = v.array(v.object({ id: v.string(), drafts: v.record(v.string(), v.string()) }))

/** All that is kept, what was left last at the end. */
function allKept(): v.InferOutput<typeof KeptSchema> {
  try {
    return v.parse(KeptSchema, JSON.parse(localStorage.getItem(KEY) ?? '[]'))
  } catch {
    return []
  }
}

/** Lines of a routine that were typed in this browser and left without keeping them, by place. @param id of the routine, and of who typed them where several sign in */
export const keptDrafts = (id: string): Drafts => allKept().find((k) => k.id === id)?.drafts ?? {}

/**
 * Writes down the lines of a routine that were left, for the next time it is opened in this browser. What another window left
 * meanwhile stays.
 * @param known what this window knew of before: what it has not any more was kept, or is done with
 */
export function keepDrafts(id: string, drafts: Drafts, known: Drafts): void {
  const there = Object.entries(keptDrafts(id)).filter(([place]) => !(place in known) && !(place in drafts))
  const list = [...there, ...Object.entries(drafts)].filter(([, text]) => text.length <= MOST_LETTERS)
  const others = allKept().filter((k) => k.id !== id)
  const own = list.length ? [{ id, drafts: Object.fromEntries(list.slice(-MOST_LINES)) }] : []
  try {
    localStorage.setItem(KEY, JSON.stringify([...others, ...own].slice(-MOST_ROUTINES)))
  } catch {
    // Where a browser keeps nothing, or is full, they are there as long as the page is.
  }
}
