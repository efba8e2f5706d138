import { eq } from 'drizzle-orm'
import * as v from 'valibot'
import { syllablesOf } from '@/core/drill'
import { base64Text } from '@/core/formats/base64'
import { readWav, toMono } from '@/core/formats/wav'
import { LONGEST_RECORDING } from '@/core/routine'
import { database, write } from './database'
import { Problem } from './problem'
import { recordings } from './schema'
import { me } from './who'

/** Rates a recording may have: of a voice, in samples a second. */
const [LOWEST, HIGHEST] = [8000, 48_000]

/** A recording as it is sent; `wav` is base64. 90 s of 16 bits at 24 kHz are 6 MB so. */
export const RecordingSchema = v.object({
  wav: base64Text(7_000_000),
})

/**
 * Keeps a recording under an id its maker chose; the same one sent again is one.
 * @param owner whose it is
 * @throws Problem 422 where it is no voice: unreadable, too long, silent
 */
export async function keepRecording(
  id: string,
  { wav }: v.InferOutput<typeof RecordingSchema>,
  owner = me().id,
): Promise<void> {
  const pcm = pcmOf(wav)
  if (!pcm) throw new Problem(422, 'The recording cannot be read. Nothing was kept.')
  const { sampleRate } = pcm
  if (!(sampleRate >= LOWEST && sampleRate <= HIGHEST))
    throw new Problem(422, 'The recording has a rate no voice is recorded at. Nothing was kept.')
  const samples = toMono(pcm)
  if (samples.length > (LONGEST_RECORDING + 5) * sampleRate)
    throw new Problem(422, `The recording is longer than ${LONGEST_RECORDING} seconds. Nothing was kept.`)
  if (!syllablesOf({ rate: sampleRate, samples }).length)
    throw new Problem(422, 'Nothing is said in the recording. Nothing was kept.')
  // Its very bytes, so that what goes to another machine and back is the same.
  const kept = Buffer.from(wav, 'base64')
  await write((tx) =>
    tx.insert(recordings).values({ id, owner, wav: kept, recordedAt: new Date() }).onConflictDoNothing(),
  )
}

function pcmOf(wav: string): ReturnType<typeof readWav> | null {
  try {
    return readWav(new Uint8Array(Buffer.from(wav, 'base64')))
  } catch {
    return null
  }
}

/** The WAV file of a recording. @throws Problem 404 */
export async function recordingFile(id: string): Promise<Buffer> {
  const [row] = await (await database())
    .select({ wav: recordings.wav })
    .from(recordings)
    .where(eq(recordings.id, id))
  if (!row) throw new Problem(404, 'This recording is not here any more. Its counts are clicked alone.')
  return Buffer.from(row.wav)
}
