import {
  ALL_FORMATS,
  BufferTarget,
  EncodedAudioPacketSource,
  EncodedPacket,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  FilePathSource,
  Input,
  type InputAudioTrack,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny'

/** A frame of Opus in which nothing is heard (RFC 6716, 3.1: 20 ms in one frame). */
const SILENT = Uint8Array.of(0xf8, 0xff, 0xfe)
const [FRAMES, OPUS] = [30, 0.02]

interface Film {
  seconds?: number
  format?: 'webm' | 'mp4'
  picture?: boolean
  sound?: boolean
  /** Its sound, of AAC; nothing is heard where there is none. */
  heard?: Aac
}

/** Frames of AAC, and how they are coded. */
export interface Aac {
  frames: readonly Uint8Array[]
  description: Uint8Array
}
/** Samples of a frame, a second. */
const [AAC_FRAME, AAC_RATE] = [1024, 44_100]

/** The sound of a file, one channel at 44.1 kHz. */
export async function aacIn(file: string): Promise<Aac> {
  const input = new Input({ source: new FilePathSource(file), formats: ALL_FORMATS })
  const track = (await input.getPrimaryAudioTrack()) as InputAudioTrack
  const frames: Uint8Array[] = []
  for await (const packet of new EncodedPacketSink(track).packets()) frames.push(packet.data)
  const description = (await track.getDecoderConfig())?.description as Uint8Array
  return { frames, description }
}

/** A film as far as its container: its pictures are nothing a decoder could read. */
export async function madeFilm({
  seconds = 2,
  format = 'webm',
  picture = true,
  sound = true,
  heard,
}: Film = {}): Promise<Uint8Array<ArrayBuffer>> {
  const target = new BufferTarget()
  const output = new Output({
    format: format === 'webm' ? new WebMOutputFormat() : new Mp4OutputFormat(),
    target,
  })
  const video = new EncodedVideoPacketSource('vp8')
  const audio = new EncodedAudioPacketSource(heard ? 'aac' : 'opus')
  if (picture) output.addVideoTrack(video, { frameRate: FRAMES })
  if (sound) output.addAudioTrack(audio)
  await output.start()
  if (picture)
    for (let i = 0; i < seconds * FRAMES; i++) {
      const key = i % FRAMES === 0
      const packet = new EncodedPacket(
        Uint8Array.of(key ? 0x10 : 0x11, 2, 0, 0x9d, 1, 0x2a, 64, 1, 180, 0),
        key ? 'key' : 'delta',
        i / FRAMES,
        1 / FRAMES,
      )
      await video.add(packet, { decoderConfig: { codec: 'vp8', codedWidth: 320, codedHeight: 180 } })
    }
  for (const [i, frame] of heard?.frames.entries() ?? [])
    await audio.add(new EncodedPacket(frame, 'key', (i * AAC_FRAME) / AAC_RATE, AAC_FRAME / AAC_RATE), {
      decoderConfig: {
        ...{ codec: 'mp4a.40.2', sampleRate: AAC_RATE, numberOfChannels: 1 },
        description: heard?.description as Uint8Array,
      },
    })
  if (sound && !heard)
    for (let i = 0; i < seconds / OPUS; i++)
      await audio.add(new EncodedPacket(SILENT, 'key', i * OPUS, OPUS), {
        decoderConfig: { codec: 'opus', sampleRate: 48_000, numberOfChannels: 1 },
      })
  await output.finalize()
  return new Uint8Array(target.buffer as ArrayBuffer)
}
