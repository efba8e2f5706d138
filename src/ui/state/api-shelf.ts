import * as v from 'valibot'
import { ask } from './ask-server'

const Drilled = v.object({ label: v.string(), speed: v.number() })
const Band = v.object({ letter: v.string(), name: v.string(), from: v.number(), to: v.number() })
const ShelfItem = v.object({
  id: v.string(),
  title: v.string(),
  credit: v.string(),
  cues: v.number(),
  /** On counts alone, without a song. */
  combination: v.optional(v.boolean(), false),
  /** The song's sections and the shape of its sound (bytes as base64, so many a second); null when it was not heard yet. */
  heard: v.nullable(
    v.object({
      duration: v.number(),
      /** The slowest that is held, and the fastest, where that is another. */
      tempo: v.number(),
      fastest: v.optional(v.number(), 0),
      list: v.array(Band),
      shape: v.string(),
      rate: v.number(),
    }),
  ),
  repetitions: v.number(),
  last: v.nullable(v.object({ ...Drilled.entries, mark: v.string() })),
  /** What to take up next, with its speed, and how much more there is. */
  due: v.array(Drilled),
  more: v.number(),
  /** The speed at which the whole dance sits, 0 for none; and how many of its phrases sit at tempo. */
  sits: v.object({ whole: v.number(), atTempo: v.number(), phrases: v.number() }),
  /** What may be done with it here, and whose it is where it is somebody else's. */
  right: v.optional(v.picklist(['look', 'teach', 'edit', 'own']), 'own'),
  of: v.optional(v.string(), ''),
})
export type ShelfItem = v.InferOutput<typeof ShelfItem>

const ShelfPart = v.object({
  items: v.array(ShelfItem),
  /** How many were asked for, and how many there are. */
  total: v.number(),
  all: v.number(),
  unreadable: v.array(v.string()),
})
export type ShelfPart = v.InferOutput<typeof ShelfPart>

/** A part of the shelf, from one on. */
export const fetchShelf = (search: string, order: string, from: number): Promise<ShelfPart> =>
  ask(ShelfPart, `/api/shelf?${new URLSearchParams({ search, order, from: String(from) })}`)

const Combinations = v.object({ combinations: v.array(v.object({ id: v.string(), title: v.string() })) })

/** Moves without a song, by name. */
export const fetchCombinations = async (): Promise<{ id: string; title: string }[]> =>
  (await ask(Combinations, '/api/combinations')).combinations
