import { body, handle, idOf } from '@/server/handle'
import { keepRecording, RecordingSchema, recordingFile } from '@/server/recordings'

/** A recording of calls, as a WAV file; it never changes. */
export const GET = handle<{ id: string }>(
  async (_, params) =>
    new Response(new Uint8Array(await recordingFile(idOf(params))), {
      headers: { 'content-type': 'audio/wav', 'cache-control': 'private, max-age=31536000, immutable' },
    }),
)

/** Keeps one. */
export const PUT = handle<{ id: string }>(async (request, params) => {
  await keepRecording(idOf(params), await body(request, RecordingSchema))
  return Response.json({ ok: true })
})
