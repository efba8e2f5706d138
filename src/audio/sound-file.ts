import { type Chapter, chapterComments, id3Tag, withCuePoints } from '@/core/formats/chapters'
import type { Seconds } from '@/core/time'

/** Files a practice sound is kept in. */
export const SOUND_FILES = ['wav', 'mp3', 'opus'] as const
export type SoundFile = (typeof SOUND_FILES)[number]

const TYPES: Record<SoundFile, string> = { wav: 'audio/wav', mp3: 'audio/mpeg', opus: 'audio/ogg' }
/** Bits a second a channel; WAV has none. */
const BITRATES: Record<SoundFile, number> = { wav: 0, mp3: 96_000, opus: 64_000 }
/**
 * Samples that coding to MP3 and back puts before the sound: 576 by the encoder, 529 by any decoder (LAME technical FAQ,
 * "decoder delay"). Nothing in this file tells a player to drop them, so as many of the sound are left out.
 */
const MP3_LATE = 576 + 529

/** A sound file that is written while its sound is made. */
export interface SoundWriter {
  /** @param sound what follows, one array a channel */
  add(sound: readonly Float32Array<ArrayBuffer>[]): Promise<void>
  /** Writes the end. @param seconds length of the whole sound */
  finish(seconds: Seconds): Promise<Blob>
  /** Lets go of everything; what was written is gone. */
  cancel(): Promise<void>
}

/** What a sound file is to be. */
export interface SoundFileWish {
  as: SoundFile
  channels: number
  /** Samples a second. */
  rate: number
  /** Bits a second a channel; the usual of its kind where it is not said. */
  bitrate?: number
  /** Both channels are the same: half of the bits do. */
  alike?: boolean
  /** Written into it where there is one. */
  title: string
  chapters: readonly Chapter[]
}

/** Begins a sound file. */
export async function soundWriter(wish: SoundFileWish): Promise<SoundWriter> {
  const { as, channels, rate, title, chapters, alike, bitrate = BITRATES[as] / (alike ? 2 : 1) } = wish
  const m = await import('mediabunny')
  if (as === 'mp3') (await import('@mediabunny/mp3-encoder')).registerMp3Encoder()
  const format = { wav: m.WavOutputFormat, mp3: m.Mp3OutputFormat, opus: m.OggOutputFormat }[as]
  const target = new m.BufferTarget()
  const output = new m.Output({ format: new format(), target })
  const source = new m.AudioSampleSource(
    as === 'wav' ? { codec: 'pcm-s16' } : { codec: as, bitrate: bitrate * channels },
  )
  output.addAudioTrack(source)
  // The tag of an MP3 is put before it when it is whole: the writer of files knows no chapters.
  if (as === 'wav') output.setMetadataTags({ title })
  if (as === 'opus') output.setMetadataTags({ title, raw: chapterComments(chapters) })
  await output.start()
  let skip = as === 'mp3' ? MP3_LATE : 0
  let at = 0
  return {
    async add(sound) {
      const length = sound[0]?.length ?? 0
      const skipped = Math.min(skip, length)
      skip -= skipped
      if (length === skipped) return
      const planes = new Float32Array(channels * (length - skipped))
      for (let c = 0; c < channels; c++)
        planes.set((sound[c] as Float32Array).subarray(skipped), c * (length - skipped))
      const sample = new m.AudioSample({
        ...{ data: planes, format: 'f32-planar', numberOfChannels: channels, sampleRate: rate },
        timestamp: at / rate,
      })
      at += length - skipped
      await source.add(sample)
      sample.close()
    },
    async finish(seconds) {
      await output.finalize()
      if (!target.buffer) throw new Error('the file came out empty')
      const parts =
        as === 'wav'
          ? [withCuePoints(new Uint8Array(target.buffer), chapters, rate)]
          : as === 'mp3' && title
            ? [id3Tag(title, chapters, seconds), target.buffer]
            : [target.buffer]
      return new Blob(parts, { type: TYPES[as] })
    },
    cancel: () => output.cancel(),
  }
}
