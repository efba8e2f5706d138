import { body, handle } from '@/server/handle'
import { allPresets, keepPreset, PresetSchema } from '@/server/lessons'
import { may } from '@/server/may'

/** Ways to teach that were kept. */
export const GET = handle(may.signedIn, async () => Response.json(await allPresets()))

/** Keeps one more. */
export const POST = handle(may.make, async (request) =>
  Response.json({ id: await keepPreset(await body(request, PresetSchema)) }),
)
