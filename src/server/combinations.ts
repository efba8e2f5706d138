import { and, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import * as v from 'valibot'
import { writeWav } from '@/core/formats/wav'
import { countsAlone, packPeaks } from '@/core/hear'
import { emptyRoutine, LIMITS, layOut } from '@/core/routine'
import { name } from '@/core/routine/document/text-schema'
import { Problem } from './problem'
import { hearings, routines } from './schema'
import { newRoutine, received } from './songs'

/** What a combination is begun with. */
export const CombinationSchema = v.object({
  id: v.string(),
  title: name(LIMITS.text, 'A combination needs a name.'),
  tempo: v.pipe(v.number(), v.minValue(30), v.maxValue(300)),
  eights: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(64)),
})

/** Samples a second of silence: the fewest that every browser decodes. */
const RATE = 8000

/** One piece of bytes, as a file streams in. */
async function* once(bytes: Uint8Array): AsyncIterable<Uint8Array> {
  yield bytes
}

/**
 * Begins moves on counts alone: a routine on silence of so many eights at a tempo, already counted. Asked twice under one id
 * it is begun once.
 * @throws Problem 409 where another routine has that id
 */
export async function beginCombination(
  { title, tempo, eights }: v.InferOutput<typeof CombinationSchema>,
  id: string,
): Promise<string> {
  const { hearing, peaks } = countsAlone(tempo, 8 * eights)
  const samples = new Float32Array(Math.ceil(hearing.duration * RATE))
  const silence = writeWav({ sampleRate: RATE, channels: [samples] })
  const file = `Counts at ${tempo} BPM, ${eights} eights.wav`
  return received(once(silence), file, null, async (tx, song) => {
    const there = await tx.query.routines.findFirst({ where: eq(routines.id, id) })
    if (there && there.songId !== song.id)
      throw new Problem(409, 'There is another routine of that id.', 'taken')
    if (there) return id
    const known = and(eq(hearings.songId, song.id), eq(hearings.version, hearing.version))
    if (!(await tx.query.hearings.findFirst({ where: known })))
      await tx.insert(hearings).values({
        ...{ id: nanoid(), songId: song.id, version: hearing.version, data: JSON.stringify(hearing) },
        ...{ peaks: Buffer.from(packPeaks(peaks)), createdAt: new Date() },
      })
    const counted = layOut(
      emptyRoutine(title),
      { counts: hearing.beats.length, starts: hearing.phrases, sections: [] },
      nanoid,
    )
    const document = JSON.stringify({ ...counted, combination: true, heardWith: hearing.version })
    await tx.insert(routines).values({ ...newRoutine(song, title, id), document })
    return id
  })
}
