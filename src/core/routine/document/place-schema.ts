import * as v from 'valibot'
import { LIMITS } from './limits'

/** A tick on the count line. */
export const place = v.pipe(
  v.number(),
  v.integer(),
  v.minValue(LIMITS.place.min),
  v.maxValue(LIMITS.place.max),
)

/** A piece of the count line; `to` is the first tick that does not belong to it. */
export const StretchSchema = v.pipe(
  v.object({ from: place, to: place }),
  v.check((s) => s.to > s.from, 'A stretch ends after it begins.'),
)
