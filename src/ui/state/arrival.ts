import * as v from 'valibot'
import { DrillPlanSchema } from '@/core/drill'

const tick = v.pipe(v.number(), v.integer())

/** What the floor was opened for, where a page had to be loaded for it. */
const ArrivalSchema = v.variant('kind', [
  /** The camera stands beside the counts. */
  v.object({ kind: v.literal('camera'), plan: DrillPlanSchema }),
  v.object({ kind: v.literal('own counts'), plan: DrillPlanSchema }),
  v.object({ kind: v.literal('claps'), plan: DrillPlanSchema }),
  /** These counts are called in one's own voice; afterwards it goes back to the page it was asked on. */
  v.object({
    kind: v.literal('say'),
    stretch: v.object({ from: tick, to: tick }),
    plan: v.nullable(DrillPlanSchema),
    back: v.nullable(v.pipe(v.string(), v.regex(/^\/r\/[^/]+\/[a-z-]+$/))),
  }),
])
export type Arrival = v.InferOutput<typeof ArrivalSchema>

const KeptSchema = v.object({ at: v.number(), arrival: ArrivalSchema })

const KEY = 'azalea-arrival'
/** A page that was loaded is there within this time, in ms. */
const FRESH = 60_000

/** Says for the page that is loaded next in this window what it is loaded for. */
export function keepArrival(arrival: Arrival): void {
  try {
    sessionStorage.setItem(KEY, JSON.stringify({ at: Date.now(), arrival }))
  } catch {
    // Where nothing is kept the floor is opened all the same, and asked there once more.
  }
}

/** Why this page was loaded; said once. Whoever stayed after all is not met with it later. */
export function takeArrival(): Arrival | null {
  try {
    const text = sessionStorage.getItem(KEY)
    sessionStorage.removeItem(KEY)
    if (text === null) return null
    const { at, arrival } = v.parse(KeptSchema, JSON.parse(text))
    return Math.abs(Date.now() - at) < FRESH ? arrival : null
  } catch {
    return null
  }
}
