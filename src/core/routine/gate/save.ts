import * as v from 'valibot'

/** Which save of a document this is: made on a known revision, by one window, its saves numbered. */
export const SaveSchema = v.object({
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  writer: v.pipe(v.string(), v.minLength(8), v.maxLength(40)),
  save: v.pipe(v.number(), v.integer(), v.minValue(1)),
})
export type Save = v.InferOutput<typeof SaveSchema>

/** The newest save of one writer that was taken: its number, the revision it made, and a hash of what it said. */
export interface TakenSave {
  save: number
  revision: number
  hash: string
}

/**
 * What a save of a document with revisions comes to. The same one sent again is known, whatever was saved since; an older one
 * of a writer was overtaken by its own next; anything that was not made on the document as it is now is a conflict.
 * @param revision of the document as it is now
 * @param last the newest save of this writer; null for none
 * @param hash of what is asked to be saved
 */
export function judgeSave(
  revision: number,
  last: TakenSave | null,
  asked: Save,
  hash: string,
): 'write' | 'known' | 'overtaken' | 'conflict' {
  if (last && asked.save === last.save) return last.hash === hash ? 'known' : 'conflict'
  if (last && asked.save < last.save) return 'overtaken'
  return asked.revision === revision ? 'write' : 'conflict'
}
