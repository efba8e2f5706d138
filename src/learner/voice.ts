import type { Sounds } from '@/audio/sounds'
import { bytesOf } from '@/core/formats/base64'
import type { PageVoice } from '@/core/handout'
import { levelSaid } from '@/core/loudness'

/** The click that tells where the file begins lies in this much of it. */
const LOOKED = 0.6

/** Where the loudest sample of the beginning lies, in seconds. */
function clickIn(samples: Float32Array, rate: number): number {
  let best = 0
  for (let i = 0; i < Math.min(samples.length, LOOKED * rate); i++)
    if (Math.abs(samples[i] as number) > Math.abs(samples[best] as number)) best = i
  return best / rate
}

/** Cuts the calls out of the one file they are kept in. Decoders begin at different places: its click says by how much. */
export async function voiceOf(
  context: BaseAudioContext,
  voice: PageVoice | null,
): Promise<Pick<Sounds, 'voice' | 'recordings'>> {
  if (!voice) return { voice: new Map(), recordings: new Map() }
  const all = await context.decodeAudioData(bytesOf(voice.file).buffer)
  const samples = all.getChannelData(0)
  const rate = all.sampleRate
  const late = clickIn(samples, rate) - voice.click
  const cut = (from: number, to: number) =>
    samples.slice(Math.max(0, Math.round((from + late) * rate)), Math.round((to + late) * rate))
  const sound = (piece: Float32Array<ArrayBuffer>) => {
    const buffer = context.createBuffer(1, Math.max(1, piece.length), rate)
    levelSaid(piece, rate)
    buffer.copyToChannel(piece, 0)
    return buffer
  }
  return {
    voice: new Map(
      Object.entries(voice.calls).map(([call, [from, to, stress]]) => [
        call,
        { buffer: sound(cut(from, to)), stress: stress - from },
      ]),
    ),
    recordings: new Map(
      Object.entries(voice.recordings).map(([id, [from, to]]) => {
        const samples = cut(from, to)
        levelSaid(samples, rate)
        return [id, { rate, samples }]
      }),
    ),
  }
}
