import * as v from 'valibot'

/** A film the server keeps. */
export const FilmFile = v.object({
  id: v.string(),
  fileName: v.string(),
  bytes: v.number(),
  seconds: v.number(),
  width: v.number(),
  height: v.number(),
})
export type FilmFile = v.InferOutput<typeof FilmFile>

/** Where the bytes of a film are. */
export const filmUrl = (file: string): string => `/api/films/${file}/file`
