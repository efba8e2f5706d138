import { type DrillEvent, eventsOf, type SaidEvent, songOf } from '@/core/drill'
import { Mixing, type SoundPlan } from '@/core/handout'
import type { Seconds } from '@/core/time'
import { Music } from './music'
import { scheduleEvents } from './schedule'
import { SONG_RATE } from './song'
import { type SoundFile, soundWriter } from './sound-file'
import { clicks, loadRecording, loadVoice, loadWord, type Sounds } from './sounds'

/** How loud each part of a practice sound is. */
const LEVELS = { music: 0.6, click: 0.45, voice: 0.9 }
/** Rendering stands still this often, to say how far it is and to be stopped. */
const STEP: Seconds = 4
/** A word begins at most so long before its stress. */
const EARLY: Seconds = 2.5
/** What is said last rings on so long. */
const LATE: Seconds = 4
/** Of the song this much more is given to the stretching than is heard: it looks around. */
const AROUND: Seconds = 1
/** Repetitions are rendered two at a time, one a core; of longer ones the memory of two is too much. */
const AT_ONCE = 2
const LONG: Seconds = 150
/** Words asked for at one time; the server speaks together what waits together. */
const ASKED = 6
/** Share of the work that getting the words is. */
export const WORDS = 0.2

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
  await Promise.all(Array.from({ length: ASKED }, speak))
  for (const id of plan.recordings)
    await loadRecording(id).then(
      (recording) => sounds.recordings.set(id, recording),
      () => {},
    )
  return sounds
}

/** A part of a practice sound that is rendered by itself: a repetition, or what is said before a rung. */
interface Part {
  /** Samples from the start of the whole. */
  from: number
  to: number
  leg: SoundPlan['legs'][0] | null
  announced: SoundPlan['announced'][0] | null
}

const samples = (t: Seconds) => Math.round(t * SONG_RATE)

function partsOf(plan: SoundPlan): Part[] {
  const all = samples(plan.seconds)
  const part = (from: Seconds, to: Seconds, what: Pick<Part, 'leg' | 'announced'>): Part => ({
    ...what,
    from: Math.max(0, samples(from)),
    to: Math.min(all, samples(to)),
  })
  return [
    ...plan.announced.map((announced) => part(announced.at, announced.at + LATE, { leg: null, announced })),
    ...plan.legs.map((leg) =>
      part(leg.start - leg.timeline.lead - EARLY, leg.start + leg.timeline.body + LATE, {
        leg,
        announced: null,
      }),
    ),
  ].sort((a, b) => a.from - b.from)
}

/** Renders one part. @param told seconds rendered so far */
async function rendered(
  part: Part,
  sounds: Sounds,
  song: AudioBuffer | null,
  told: (seconds: Seconds) => void,
  signal: AbortSignal,
): Promise<Float32Array<ArrayBuffer>[]> {
  const frames = part.to - part.from
  const begin = part.from / SONG_RATE
  const context = new OfflineAudioContext(song && part.leg ? 2 : 1, frames, SONG_RATE)
  const gain = (level: number) => {
    const g = context.createGain()
    g.gain.value = level
    g.connect(context.destination)
    return g
  }
  const out = { click: gain(LEVELS.click), voice: gain(LEVELS.voice) }
  let music: Music | null = null
  const spoken = part.announced && sounds.voice.get(part.announced.words)
  if (spoken && part.announced) {
    const source = context.createBufferSource()
    source.buffer = spoken.buffer
    source.connect(out.voice)
    source.start(part.announced.at - begin)
  }
  if (part.leg) {
    const { timeline, countedIn, start } = part.leg
    const events: (DrillEvent | SaidEvent)[] = [...eventsOf(timeline, countedIn), ...timeline.said]
    scheduleEvents(context, out, sounds, events, start - begin)
    if (song) {
      const heard = songOf(timeline, countedIn)
      const first = samples(Math.max(0, heard.from - AROUND))
      const last = samples(heard.from + heard.seconds * timeline.speed + AROUND)
      music = await Music.load(context, cut(song, first, last), gain(LEVELS.music))
      const from = heard.from - first / SONG_RATE
      await music.play(start - heard.before - begin, from, timeline.speed, heard.seconds, false)
    }
  }
  const aborted = new Promise<never>((_, refuse) => {
    signal.addEventListener('abort', () => refuse(new DOMException('stopped', 'AbortError')))
  })
  // Where it was stopped it is left standing, for good.
  for (let t = STEP; t < frames / SONG_RATE; t += STEP)
    context.suspend(t).then(() => {
      if (signal.aborted) return
      told(t)
      context.resume()
    })
  signal.throwIfAborted()
  try {
    const sound = await Promise.race([context.startRendering(), aborted])
    told(frames / SONG_RATE)
    return Array.from({ length: sound.numberOfChannels }, (_, c) => sound.getChannelData(c))
  } finally {
    music?.release()
  }
}

/**
 * Makes a practice sound, many times faster than it sounds: its repetitions are rendered side by side, and what is whole
 * is written to the file while the next are made.
 * @param song heard where given
 * @param title written into the file
 * @param told how far it is, 0..1
 * @throws DOMException where it was stopped
 */
export async function practiceSound(
  plan: SoundPlan,
  song: AudioBuffer | null,
  as: SoundFile,
  title: string,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob> {
  const own = new OfflineAudioContext(1, 1, SONG_RATE)
  const sounds = await soundsFor(own, plan, (share) => told(WORDS * share), signal)
  const mixing = new Mixing(song ? 2 : 1)
  const file = await soundWriter({
    as,
    channels: mixing.channels,
    rate: SONG_RATE,
    title,
    chapters: plan.chapters,
  })
  const parts = partsOf(plan)
  const whole = parts.reduce((n, p) => n + p.to - p.from, 0) / SONG_RATE
  const done = parts.map(() => 0)
  const making = parts.map(() => null as Promise<Float32Array<ArrayBuffer>[]> | null)
  const begin = (k: number) => {
    const part = parts[k]
    if (!part || making[k]) return
    making[k] = rendered(
      part,
      sounds,
      song,
      (seconds) => {
        done[k] = seconds
        told(WORDS + (1 - WORDS) * (done.reduce((a, b) => a + b) / whole))
      },
      signal,
    )
    // Waited for below, in its turn.
    making[k]?.catch(() => undefined)
  }
  const isLong = (p: Part | undefined) => !!p && p.to - p.from > LONG * SONG_RATE
  try {
    for (const [k, part] of parts.entries()) {
      begin(k)
      for (let n = 1; n < AT_ONCE && !isLong(part) && !isLong(parts[k + n]); n++) begin(k + n)
      const sound = await (making[k] as NonNullable<(typeof making)[0]>)
      making[k] = null
      mixing.add(part.from, sound)
      await file.add(mixing.take(parts[k + 1]?.from ?? samples(plan.seconds)))
      signal.throwIfAborted()
    }
    return await file.finish(plan.seconds)
  } catch (error) {
    await file.cancel()
    throw error
  }
}

function cut(sound: AudioBuffer, from: number, to: number): AudioBuffer {
  const length = Math.max(1, Math.min(sound.length, to) - from)
  const piece = new AudioBuffer({
    numberOfChannels: sound.numberOfChannels,
    length,
    sampleRate: sound.sampleRate,
  })
  for (let c = 0; c < sound.numberOfChannels; c++)
    piece.copyToChannel(sound.getChannelData(c).subarray(from, from + length), c)
  return piece
}
