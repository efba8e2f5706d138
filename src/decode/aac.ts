/* AAC where there is no browser: frames become a stream of ADTS (ISO/IEC 13818-7, 6.2), which node-web-audio-api decodes (by Symphonia). */
import type { Pcm } from '@/core/formats/wav'

/** Samples a frame of the low-complexity profile holds. */
const FRAME = 1024
/** Frames that are decoded at one time: 18 s. */
const AT_ONCE = 800
/** Each sounds over into the next: these are decoded once more before those that follow. */
const LEAD = 2
/** ISO/IEC 14496-3, table 1.18. */
const RATES = [96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8_000]
const LOW_COMPLEXITY = 2
/** Spectral bands are made anew from these (SBR, PS) on top of the low-complexity profile, which is what is heard of them. */
const ON_TOP = [5, 29]

/** Why a sound is not decoded here, in words for people. */
export class NotDecoded extends Error {}

interface Config {
  rateIndex: number
  channels: number
}

/** Reads an AudioSpecificConfig (ISO/IEC 14496-3, 1.6.2.1). @throws Error in words where it is of a kind that is not decoded */
export function configOf(bytes: Uint8Array): Config {
  let at = 0
  const bits = (n: number) => {
    let value = 0
    for (let i = 0; i < n; i++, at++) value = 2 * value + (((bytes[at >> 3] ?? 0) >> (7 - (at & 7))) & 1)
    return value
  }
  const kind = () => {
    const short = bits(5)
    return short === 31 ? 32 + bits(6) : short
  }
  const rate = () => {
    const index = bits(4)
    return index === 15 ? RATES.indexOf(bits(24)) : index
  }
  const first = kind()
  const rateIndex = rate()
  const channels = bits(4)
  if (ON_TOP.includes(first)) rate()
  const profile = ON_TOP.includes(first) ? kind() : first
  if (profile !== LOW_COMPLEXITY || RATES[rateIndex] === undefined || channels < 1 || channels > 2)
    throw new NotDecoded('its sound is AAC of a kind that is not decoded here')
  return { rateIndex, channels }
}

/** A frame as it stands in a stream. */
function inStream(frame: Uint8Array, { rateIndex, channels }: Config): Uint8Array {
  const length = frame.length + 7
  const head = [
    0xff,
    0xf1,
    ((LOW_COMPLEXITY - 1) << 6) | (rateIndex << 2) | (channels >> 2),
    ((channels & 3) << 6) | (length >> 11),
    (length >> 3) & 0xff,
    ((length & 7) << 5) | 0x1f,
    0xfc,
  ]
  const out = new Uint8Array(length)
  out.set(head)
  out.set(frame, head.length)
  return out
}

/** The head of a stream's own frame. */
const configInStream = (frame: Uint8Array): Config => {
  const [, , third = 0, fourth = 0] = frame
  const rateIndex = (third >> 2) & 15
  const channels = ((third & 1) << 2) | (fourth >> 6)
  if (third >> 6 !== LOW_COMPLEXITY - 1 || RATES[rateIndex] === undefined || channels < 1 || channels > 2)
    throw new NotDecoded('its sound is AAC of a kind that is not decoded here')
  return { rateIndex, channels }
}

type Decode = (stream: ArrayBuffer) => Promise<Pcm>

/** @throws Error in words where this machine cannot decode it */
async function decoderFor(config: Config): Promise<Decode> {
  const { OfflineAudioContext } = await import('node-web-audio-api').catch(() => {
    throw new NotDecoded(
      'its sound is AAC, and what decodes that does not run here (on Linux it asks for libasound2)',
    )
  })
  const sampleRate = RATES[config.rateIndex] as number
  const context = new OfflineAudioContext(config.channels, 128, sampleRate)
  return async (stream) => {
    const sound = await context.decodeAudioData(stream)
    const channels = Array.from({ length: config.channels }, (_, c) =>
      c < sound.numberOfChannels ? sound.getChannelData(c) : new Float32Array(sound.length),
    )
    return { sampleRate, channels }
  }
}

/**
 * Decodes some frames, of which the first ones are there only for what they sound over. What cannot be decoded is silent: all else
 * stays in its place.
 */
async function decodeSome(
  decode: Decode,
  frames: readonly Uint8Array[],
  lead: number,
  config: Config,
): Promise<Pcm> {
  const heard = frames.length - lead
  const whole = await decode(new Uint8Array(Buffer.concat(frames)).buffer).catch(() => null)
  if (whole?.channels[0]?.length === frames.length * FRAME)
    return { ...whole, channels: whole.channels.map((c) => c.subarray(lead * FRAME)) }
  if (heard <= 1)
    return {
      sampleRate: RATES[config.rateIndex] as number,
      channels: Array.from({ length: config.channels }, () => new Float32Array(heard * FRAME)),
    }
  const half = lead + (heard >> 1)
  const before = await decodeSome(decode, frames.slice(0, half), lead, config)
  const from = Math.max(0, half - LEAD)
  const after = await decodeSome(decode, frames.slice(from), half - from, config)
  return {
    sampleRate: before.sampleRate,
    channels: before.channels.map((c, i) => {
      const all = new Float32Array(heard * FRAME)
      all.set(c)
      all.set(after.channels[i] as Float32Array, c.length)
      return all
    }),
  }
}

/**
 * Decodes frames of AAC, piece by piece.
 * @param description the AudioSpecificConfig; null where each frame is one of a stream, with its head
 * @throws Error in words where it is of a kind that is not decoded here
 */
export async function* decodedAac(
  frames: AsyncIterable<Uint8Array>,
  description: Uint8Array | null,
): AsyncGenerator<Pcm> {
  let config = description && configOf(description)
  let decode: Decode | null = null
  let waiting: Uint8Array[] = []
  let lead = 0
  for await (const frame of frames) {
    config ??= configInStream(frame)
    decode ??= await decoderFor(config)
    waiting.push(description ? inStream(frame, config) : frame)
    if (waiting.length - lead < AT_ONCE) continue
    yield await decodeSome(decode, waiting, lead, config)
    waiting = waiting.slice(-LEAD)
    lead = waiting.length
  }
  if (decode && config && waiting.length > lead) yield await decodeSome(decode, waiting, lead, config)
}
