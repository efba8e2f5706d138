import type { SpokenWord } from '@/core/drill'
import { base64Of } from '@/core/formats/base64'
import type { PageVoice } from '@/core/handout'
import type { Seconds } from '@/core/time'
import { soundWriter } from './sound-file'
import type { SpokenCount } from './sounds'

/** Speech, not music: this much is enough of it. */
const [RATE, BITRATE] = [24_000, 32_000]
/** Where the click stands that tells where the file begins, and where the first call. */
const [CLICK, FIRST]: [Seconds, Seconds] = [0.3, 0.8]
/** Silence between two calls, so that none rings into the next. */
const APART: Seconds = 0.06

/** Calls for a file, in the order in which they matter. */
export interface VoiceParts {
  calls: ReadonlyMap<string, SpokenCount>
  recordings: ReadonlyMap<string, SpokenWord>
}

/** How many seconds of voice have room in so many bytes of base64. */
export const voiceRoom = (bytes: number): Seconds => Math.max(0, (bytes * 0.75 * 8) / BITRATE)

/**
 * Puts calls and recordings one after another into one MP3.
 * @param most what has no room in so many seconds is left out, the last first
 * @returns the voice, and what was left out
 */
export async function voiceFile(
  { calls, recordings }: VoiceParts,
  most: Seconds,
): Promise<{ voice: PageVoice; left: string[] }> {
  const left: string[] = []
  let at = FIRST
  /** Where it lies; null where it has no room. */
  const place = (name: string, seconds: Seconds): [Seconds, Seconds] | null => {
    if (at + seconds + APART > most) {
      left.push(name)
      return null
    }
    const from = at
    at += seconds + APART
    return [from, from + seconds]
  }
  const voice: PageVoice = { file: '', click: CLICK, calls: {}, recordings: {} }
  const put: { buffer: AudioBuffer; from: Seconds }[] = []
  for (const [call, { buffer, stress }] of calls) {
    const lies = place(call, buffer.duration)
    if (!lies) continue
    voice.calls[call] = [...lies, lies[0] + stress]
    put.push({ buffer, from: lies[0] })
  }
  for (const [id, { rate, samples }] of recordings) {
    const lies = place('a recording', samples.length / rate)
    if (!lies) continue
    voice.recordings[id] = lies
    const buffer = new AudioBuffer({ length: Math.max(1, samples.length), sampleRate: rate })
    buffer.getChannelData(0).set(samples)
    put.push({ buffer, from: lies[0] })
  }
  const context = new OfflineAudioContext(1, Math.ceil((at + 0.5) * RATE), RATE)
  for (const { buffer, from } of put) {
    const source = context.createBufferSource()
    source.buffer = buffer
    source.connect(context.destination)
    source.start(from)
  }
  const sound = await context.startRendering()
  const samples = sound.getChannelData(0)
  // Short, but long enough to come through the encoder with its peak where it was.
  const middle = Math.round(CLICK * RATE)
  for (let i = -12; i <= 12; i++) samples[middle + i] = 0.9 * Math.cos((Math.PI * i) / 25)
  const file = await soundWriter({
    ...{ as: 'mp3', channels: 1, rate: RATE, bitrate: BITRATE, title: '', chapters: [] },
  })
  await file.add([samples])
  const blob = await file.finish(sound.duration)
  voice.file = base64Of(new Uint8Array(await blob.arrayBuffer()))
  return { voice, left }
}
