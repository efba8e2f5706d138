import * as v from 'valibot'
import { SaveSchema } from '@/core/routine'

/** Which save of a document an entry is. */
const SavingSchema = v.object({
  ...SaveSchema.entries,
  /** The window whose last save it stands on, where that is not answered yet: the revision is the one of that answer. */
  after: v.optional(v.string()),
})
export type Saving = v.InferOutput<typeof SavingSchema>

const EntrySchema = v.object({
  id: v.string(),
  /** Entries of one document: a newer one that waits takes the place of the older. Empty for what is only ever added. */
  document: v.string(),
  /** What it is, in words: "the routine", "a repetition". */
  what: v.string(),
  method: v.picklist(['PUT', 'POST', 'DELETE']),
  url: v.string(),
  /** The body as it is sent; of a document without what `saving` says. */
  body: v.string(),
  /** Of a document with revisions. */
  saving: v.optional(SavingSchema),
  /** The body of the document at the revision that save stands on, where it is known: with it a later page can bring both together. */
  base: v.optional(v.string()),
  /** The window that put it in, and its place in the order of that window. */
  window: v.string(),
  order: v.number(),
})

/** One thing to be saved. It carries its own id and time, so that sending it again changes nothing. */
export type Entry = v.InferOutput<typeof EntrySchema>

/** The whole body of an entry, as the server takes it. */
export function bodyOf({ body, saving }: Pick<Entry, 'body' | 'saving'>): string {
  if (!saving) return body
  const { revision, writer, save } = saving
  return `${JSON.stringify({ revision, writer, save }).slice(0, -1)},${body.slice(1)}`
}

/** An entry as it was kept; one of an older version has its save in its body. Null for what is none. */
export function entryOf(kept: unknown): Entry | null {
  const read = v.safeParse(EntrySchema, kept)
  if (!read.success) return null
  const entry = read.output
  if (!entry.document || entry.saving) return entry
  const whole = v.safeParse(v.pipe(v.string(), v.parseJson(), v.looseObject(SaveSchema.entries)), entry.body)
  if (!whole.success) return entry
  const { revision, writer, save, ...rest } = whole.output
  return { ...entry, saving: { revision, writer, save }, body: JSON.stringify(rest) }
}

/** What stands directly on the last save of a window: its next ones, and those of a window that took it up. */
export const isNext = (e: Entry, writer: string) => e.saving?.writer === writer || e.saving?.after === writer

/** Of some entries those of a document that stand on the saves of one window, in order: its own, those of who took them up, and so on. */
export function lineOf<E extends Entry>(entries: readonly E[], document: string, writer: string): E[] {
  const writers = new Set([writer])
  return entries.filter((e) => {
    if (e.document !== document || !e.saving) return false
    const on = writers.has(e.saving.writer) || writers.has(e.saving.after ?? '')
    if (on) writers.add(e.saving.writer)
    return on
  })
}

/** The newest of a line: of one window's saves the last, whatever their order in the queue. */
export function newestIn<E extends Entry>(line: readonly E[]): E | null {
  let newest: E | null = null
  for (const e of line) if (!newest || !isOlder(e, newest)) newest = e
  return newest
}

/** True where one save of a document is an older one of the same window. */
export const isOlder = (e: Entry, newer: Entry) =>
  newer.document !== '' &&
  e.document === newer.document &&
  e.saving?.writer === newer.saving?.writer &&
  (e.saving?.save ?? 0) < (newer.saving?.save ?? 1)
