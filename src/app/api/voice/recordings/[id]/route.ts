import { body, handle } from '@/server/handle'
import { idOf, may, ownerFor, routineAsked } from '@/server/may'
import { keepRecording, RecordingSchema, recordingFile } from '@/server/recordings'

/** A recording of calls, as a WAV file; it never changes. */
export const GET = handle<{ id: string }>(
  may.recording,
  async (_, params) =>
    new Response(new Uint8Array(await recordingFile(idOf(params))), {
      headers: { 'content-type': 'audio/wav', 'cache-control': 'private, max-age=31536000, immutable' },
    }),
)

/** Keeps one; with `?routine` for that, whose owner it is then of. */
export const PUT = handle<{ id: string }>(may.signedIn, async (request, params) => {
  const owner = await ownerFor(routineAsked(request))
  await keepRecording(idOf(params), await body(request, RecordingSchema), owner)
  return Response.json({ ok: true })
})
