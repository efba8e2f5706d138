import { eventsOf, songOf } from '@/core/drill'
import type { SoundPlan } from '@/core/handout'
import { Music } from './music'
import { scheduleEvents } from './schedule'
import { SONG_RATE } from './song'
import { clicks, loadRecording, loadVoice, loadWord, type Sounds } from './sounds'

/** How loud each part of a practice sound is. */
const LEVELS = { music: 0.6, click: 0.45, voice: 0.9 }
/** A repetition is put on the clock so long before its first sound; the worklet holds one change at a time. */
const AHEAD = 0.45
/** Rendering stands still this often, to say how far it is and to be stopped. */
const STEP = 4

/** Sounds a plan needs, loaded; a word that cannot be had stays unspoken. @param told 0..1 */
export async function soundsFor(
  context: BaseAudioContext,
  plan: Pick<SoundPlan, 'words' | 'recordings'>,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<Sounds> {
  const sounds: Sounds = {
    ...clicks(context),
    voice: await loadVoice(context),
    recordings: new Map(),
    pieces: new Map(),
  }
  const missing = plan.words.filter((w) => !sounds.voice.has(w))
  let got = 0
  const rest = [...missing]
  const speak = async () => {
    for (let word = rest.shift(); word !== undefined; word = rest.shift()) {
      signal.throwIfAborted()
      told(got++ / missing.length)
      const asked = word
      await loadWord(context, word).then(
        (spoken) => sounds.voice.set(asked, spoken),
        () => {},
      )
    }
  }
  // The server speaks two words at a time.
  await Promise.all([speak(), speak()])
  for (const id of plan.recordings)
    await loadRecording(id).then(
      (recording) => sounds.recordings.set(id, recording),
      () => {},
    )
  return sounds
}

/**
 * Renders a practice sound offline, many times faster than it sounds.
 * @param song heard where given
 * @param told how far it is, 0..1
 * @throws DOMException where it was stopped
 */
export async function renderPractice(
  plan: SoundPlan,
  song: AudioBuffer | null,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<AudioBuffer> {
  const frames = Math.ceil(plan.seconds * SONG_RATE)
  const context = new OfflineAudioContext(song ? 2 : 1, frames, SONG_RATE)
  const sounds = await soundsFor(context, plan, (share) => told(0.2 * share), signal)
  const gain = (level: number) => {
    const g = context.createGain()
    g.gain.value = level
    g.connect(context.destination)
    return g
  }
  const out = { click: gain(LEVELS.click), voice: gain(LEVELS.voice) }
  const music = song ? await Music.load(context, song, gain(LEVELS.music)) : null
  for (const { at, words } of plan.announced) {
    const spoken = sounds.voice.get(words)
    if (!spoken) continue
    const source = context.createBufferSource()
    source.buffer = spoken.buffer
    source.connect(out.voice)
    source.start(at)
  }
  const due = plan.legs.map((leg) => ({ leg, at: Math.max(0, leg.start - leg.timeline.lead - AHEAD) }))
  const put = async (leg: SoundPlan['legs'][0]) => {
    const events = [...eventsOf(leg.timeline, leg.countedIn), ...leg.timeline.said]
    scheduleEvents(context, out, sounds, events, leg.start)
    const heard = songOf(leg.timeline, leg.countedIn)
    await music?.play(leg.start - heard.before, heard.from, leg.timeline.speed, heard.seconds, false)
  }
  const first = due.filter((d) => d.at === 0)
  for (const { leg } of first) await put(leg)
  const stops = new Map<number, SoundPlan['legs']>()
  // Offline time is cut into quanta of 128 frames; two stops may not fall into one.
  const quantum = (t: number) => Math.floor((t * SONG_RATE) / 128)
  for (let t = STEP; t < plan.seconds; t += STEP) stops.set(quantum(t), [])
  for (const { leg, at } of due) if (at > 0) stops.set(quantum(at), [...(stops.get(quantum(at)) ?? []), leg])
  let stopped = false
  for (const [q, legs] of stops)
    context.suspend((q * 128) / SONG_RATE).then(async () => {
      if (signal.aborted) {
        stopped = true
        return
      }
      told(0.2 + (0.8 * (q * 128)) / frames)
      for (const leg of legs) await put(leg)
      await context.resume()
    })
  const aborted = new Promise<never>((_, refuse) => {
    signal.addEventListener('abort', () => refuse(new DOMException('stopped', 'AbortError')))
  })
  signal.throwIfAborted()
  const rendered = await Promise.race([context.startRendering(), aborted])
  if (stopped) throw new DOMException('stopped', 'AbortError')
  music?.release()
  return rendered
}

/** Files a practice sound is kept in. */
export const SOUND_FILES = ['wav', 'mp3', 'opus'] as const
export type SoundFile = (typeof SOUND_FILES)[number]

/** Encodes a sound. @param title written into the file @param bitrate bits a second a channel; WAV has none */
export async function encoded(
  sound: AudioBuffer,
  as: SoundFile,
  title: string,
  bitrate = as === 'mp3' ? 96_000 : 64_000,
): Promise<Blob> {
  const m = await import('mediabunny')
  if (as === 'mp3') (await import('@mediabunny/mp3-encoder')).registerMp3Encoder()
  const format = { wav: m.WavOutputFormat, mp3: m.Mp3OutputFormat, opus: m.OggOutputFormat }[as]
  const target = new m.BufferTarget()
  const output = new m.Output({ format: new format(), target })
  const source = new m.AudioBufferSource(
    as === 'wav' ? { codec: 'pcm-s16' } : { codec: as, bitrate: bitrate * sound.numberOfChannels },
  )
  output.addAudioTrack(source)
  output.setMetadataTags({ title })
  await output.start()
  // In pieces, so that the page goes on meanwhile.
  const piece = 10 * sound.sampleRate
  for (let from = 0; from < sound.length; from += piece) await source.add(cut(sound, from, from + piece))
  await output.finalize()
  if (!target.buffer) throw new Error('the file came out empty')
  return new Blob([target.buffer], { type: { wav: 'audio/wav', mp3: 'audio/mpeg', opus: 'audio/ogg' }[as] })
}

function cut(sound: AudioBuffer, from: number, to: number): AudioBuffer {
  const length = Math.min(sound.length, to) - from
  const piece = new AudioBuffer({
    numberOfChannels: sound.numberOfChannels,
    length,
    sampleRate: sound.sampleRate,
  })
  for (let c = 0; c < sound.numberOfChannels; c++)
    piece.copyToChannel(sound.getChannelData(c).subarray(from, from + length), c)
  return piece
}
