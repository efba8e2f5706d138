import * as v from 'valibot'
import { type AppVoice, readAloud, type SaidEvent, type SpokenWord, soundOf } from '@/core/drill'
import { readWav, toMono } from '@/core/formats/wav'
import { levelSaid } from '@/core/loudness'
import { cutText } from '@/core/routine'

const VoiceIndex = v.record(
  v.string(),
  v.object({ file: v.string(), stress: v.pipe(v.number(), v.minValue(0), v.maxValue(1)) }),
)

/** A spoken count; `stress` is where in the recording the count itself falls, in seconds. */
export interface SpokenCount {
  buffer: AudioBuffer
  stress: number
}

/** Everything the counts are played with. */
export interface Sounds {
  click: AudioBuffer
  accent: AudioBuffer
  sub: AudioBuffer
  voice: Map<string, SpokenCount>
  /** Whose voice that is: words are spoken by it too. */
  as: AppVoice
  /** The instructor's own recordings, said instead where there is one. */
  own?: Map<string, SpokenCount>
  /** Recordings of calls over a stretch, by id, and their pieces as they sound. */
  recordings: Map<string, SpokenWord>
  pieces: Map<string, AudioBuffer>
}

/** A short struck tone whose first sample is its onset. */
function struck(context: BaseAudioContext, hz: number, seconds: number): AudioBuffer {
  const rate = context.sampleRate
  const buffer = context.createBuffer(1, Math.ceil(seconds * rate), rate)
  const out = buffer.getChannelData(0)
  for (let i = 0; i < out.length; i++) {
    const t = i / rate
    out[i] = Math.cos(2 * Math.PI * hz * t) * Math.exp((-6 * t) / seconds)
  }
  return buffer
}

/** The clicks: the 1 is higher, sub-counts are short and low. */
export function clicks(context: BaseAudioContext): Pick<Sounds, 'click' | 'accent' | 'sub'> {
  return {
    click: struck(context, 1150, 0.05),
    accent: struck(context, 1750, 0.07),
    sub: struck(context, 820, 0.03),
  }
}

/** Decodes something that is said, as loud as all else that is. */
async function decodeSaid(context: BaseAudioContext, bytes: ArrayBuffer): Promise<AudioBuffer> {
  const buffer = await context.decodeAudioData(bytes)
  levelSaid(buffer.getChannelData(0), buffer.sampleRate)
  return buffer
}

/** Loads the counts of a voice that comes with the app. */
export async function loadVoice(context: BaseAudioContext, as: AppVoice): Promise<Map<string, SpokenCount>> {
  const base = as === 'clear' ? '/voice' : `/voice/${as}`
  const index = v.parse(VoiceIndex, await (await fetch(`${base}/index.json`)).json())
  const load = async ([call, { file, stress }]: [string, { file: string; stress: number }]) => {
    const bytes = await (await fetch(`${base}/${file}`)).arrayBuffer()
    return [call, { buffer: await decodeSaid(context, bytes), stress }] as const
  }
  return new Map(await Promise.all(Object.entries(index).map(load)))
}

/** Recordings kept on the server as base64, ready to be played. */
export async function ownVoice(
  context: BaseAudioContext,
  recorded: readonly { call: string; wav: string; stressMs: number }[],
): Promise<Map<string, SpokenCount>> {
  const load = async (r: (typeof recorded)[number]) => {
    const bytes = Uint8Array.from(atob(r.wav), (c) => c.charCodeAt(0))
    return [r.call, { buffer: await decodeSaid(context, bytes.buffer), stress: r.stressMs / 1000 }] as const
  }
  return new Map(await Promise.all(recorded.map(load)))
}

/** A word spoken by the server, with where its stress falls. @throws Error when it cannot be had */
export async function loadWord(context: BaseAudioContext, word: string, as: AppVoice): Promise<SpokenCount> {
  // What no voice here can read is not asked for.
  if (!readAloud(word)) throw new Error(`“${word}” cannot be spoken.`)
  const query = new URLSearchParams({ say: cutText(word, 80), voice: as })
  const answer = await fetch(`/api/voice?${query}`)
  if (!answer.ok) throw new Error(`“${word}” cannot be spoken.`)
  const stress = v.parse(
    v.pipe(v.number(), v.minValue(0), v.maxValue(2)),
    Number(answer.headers.get('x-stress-ms')) / 1000,
  )
  return { buffer: await decodeSaid(context, await answer.arrayBuffer()), stress }
}

/** Fetches a recording of calls. @throws Error when it cannot be had */
export async function loadRecording(id: string): Promise<SpokenWord> {
  const answer = await fetch(`/api/voice/recordings/${id}`)
  if (!answer.ok) throw new Error('Your recording cannot be had: its counts are clicked alone.')
  const pcm = readWav(new Uint8Array(await answer.arrayBuffer()))
  const samples = toMono(pcm)
  levelSaid(samples, pcm.sampleRate)
  return { rate: pcm.sampleRate, samples }
}

/** So finely a piece is hurried: steps nobody hears, so that few are made. */
const STEPS = 50

/** A piece of a recording as it sounds, made once for its length; null where its recording is not there. */
export function pieceSound(context: BaseAudioContext, sounds: Sounds, said: SaidEvent): AudioBuffer | null {
  const recording = sounds.recordings.get(said.piece.recording)
  if (!recording) return null
  const keep = Math.floor(said.keep * STEPS) / STEPS
  const key = `${said.piece.recording} ${said.piece.from} ${said.piece.to} ${keep}`
  const made = sounds.pieces.get(key)
  if (made) return made
  const { rate, samples } = soundOf(recording, { ...said, keep })
  const buffer = context.createBuffer(1, Math.max(1, samples.length), rate)
  buffer.getChannelData(0).set(samples)
  sounds.pieces.set(key, buffer)
  return buffer
}
