import type { AppVoice } from '@/core/drill'
import {
  faded,
  Mixing,
  musicPiece,
  type SoundPart,
  type SoundPlan,
  soundLength,
  soundParts,
} from '@/core/handout'
import {
  factorsOf,
  levelAlong,
  PieceLimiter,
  stepBackLevel,
  stepsBack,
  type Toward,
  USUAL_VOLUMES,
  type Volumes,
} from '@/core/loudness'
import { cut, type Part, type Song, type SongMeasure, UNMEASURED } from '@/core/stretch'
import type { Seconds } from '@/core/time'
import { balanceFor, eventsFrom, saidIn } from './balance'
import { type CountSound, countSounds, scheduleEvents } from './schedule'
import { SONG_RATE } from './song'
import { type SoundFile, soundWriter } from './sound-file'
import { clicks, loadRecording, loadVoice, loadWord, ownVoice, type Sounds } from './sounds'

/** Of the song this much more is given to the stretching than is heard: it looks around. */
const AROUND: Seconds = 1
/** Repetitions are rendered two at a time, one a core; of longer ones the memory of two is too much. */
const AT_ONCE = 2
/** Parts that are made before those ahead of them are written: sound that waits takes memory. */
const AHEAD = 3
const LONG: Seconds = 150
/** Written at one time. */
const WRITTEN: Seconds = 20
/** Words asked for at one time; the server speaks together what waits together. */
const ASKED = 6
/** Share of the work that getting the words is. */
export const WORDS = 0.2

/** Who counts. */
interface Voices {
  /** Counts the instructor recorded, said instead of the app's. */
  own: Parameters<typeof ownVoice>[1]
  as: AppVoice
}

/** Sounds a plan needs, loaded; a word that cannot be had stays unspoken. @param told 0..1 */
export async function soundsFor(
  context: BaseAudioContext,
  plan: Pick<SoundPlan, 'words' | 'recordings'>,
  { own, as }: Voices,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<Sounds> {
  const sounds: Sounds = {
    ...clicks(context),
    as,
    voice: await loadVoice(context, as),
    own: await ownVoice(context, own),
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
      await loadWord(context, word, as).then(
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

/** Part of a sound at another speed, its pitch kept. The sound is handed over, not copied. */
export type Stretch = (
  piece: Song & Part & { channels: Float32Array<ArrayBuffer>[] },
  told: (share: number) => void,
  signal: AbortSignal,
) => Promise<Float32Array<ArrayBuffer>[]>

/** How loud each part of a practice sound is, and how the song steps back in it. */
interface Levels {
  by: Volumes
  back: readonly Toward[]
}

/** So that the whole is as loud as it should be, and no song louder against its counts than another. */
function levelsOf(context: BaseAudioContext, plan: SoundPlan, sounds: Sounds, wish: PracticeWish): Levels {
  const { song, stepBack } = wish
  const measure = song?.measure ?? UNMEASURED
  const volumes = { ...USUAL_VOLUMES, music: song ? USUAL_VOLUMES.music : 0 }
  const announced = plan.announced.flatMap(({ words, at }): CountSound[] => {
    const spoken = sounds.voice.get(words)
    return spoken ? [{ buffer: spoken.buffer, to: 'voice', at }] : []
  })
  const heard = plan.legs.map((leg) => ({
    ...{ leg: { ...leg, k: 0 }, into: 0 },
    sounds: eventsFrom({ ...leg, k: 0 }, 0).flatMap((e) => countSounds(context, sounds, e, leg.start)),
  }))
  const [first] = heard
  if (first) first.sounds.push(...announced)
  const whole = balanceFor(heard, measure, volumes)
  const { music, clicks, voice } = factorsOf(volumes, measure.loudness)
  const said = saidIn(heard.flatMap((h) => h.sounds))
  return {
    by: { music: music * whole, clicks: clicks * whole, voice: voice * whole },
    back: stepsBack(said, stepBackLevel(stepBack)),
  }
}

/** Clicks and voices of one part. @returns one channel */
async function counted(part: SoundPart, sounds: Sounds, { by }: Levels): Promise<Float32Array<ArrayBuffer>> {
  const begin = part.from / SONG_RATE
  const context = new OfflineAudioContext(1, part.to - part.from, SONG_RATE)
  const gain = (level: number) => {
    const g = context.createGain()
    g.gain.value = level
    g.connect(context.destination)
    return g
  }
  const out = { click: gain(by.clicks), voice: gain(by.voice) }
  const spoken = part.announced && sounds.voice.get(part.announced.words)
  if (spoken && part.announced) {
    const source = context.createBufferSource()
    source.buffer = spoken.buffer
    source.connect(out.voice)
    source.start(part.announced.at - begin)
  }
  if (part.leg) {
    const events = eventsFrom({ ...part.leg, k: 0 }, 0)
    scheduleEvents(context, out, sounds, events, part.leg.start - begin)
  }
  return (await context.startRendering()).getChannelData(0)
}

/** The song as it is heard in one part, and where. */
async function music(
  leg: SoundPlan['legs'][0],
  { song, measure }: { song: AudioBuffer; measure: SongMeasure },
  levels: Levels,
  stretch: Stretch,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<{ at: number; sound: Float32Array<ArrayBuffer>[] }> {
  const { at, frames, from } = musicPiece(leg, SONG_RATE)
  const { speed } = leg.timeline
  const plain = speed === 1
  const around = plain ? 0 : AROUND
  const first = Math.round((from - around) * SONG_RATE)
  const length = plain ? frames : Math.ceil((frames / SONG_RATE) * speed * SONG_RATE + 2 * around * SONG_RATE)
  const channels = Array.from({ length: Math.min(2, song.numberOfChannels) }, (_, c) =>
    cut(song.getChannelData(c), first, length),
  )
  const sound = plain
    ? channels
    : await stretch(
        {
          ...{ channels, rate: SONG_RATE, from: from - first / SONG_RATE, speed, samples: frames },
          strokes: Float64Array.from(measure.strokes, (t) => t - first / SONG_RATE),
        },
        told,
        signal,
      )
  faded(sound, levels.by.music, SONG_RATE)
  stepBackIn(sound, at, levels.back)
  return { at, sound }
}

/** Lets music step back while something is said: changes it. @param at its first sample's place in the whole */
function stepBackIn(sound: readonly Float32Array[], at: number, back: readonly Toward[]): void {
  const level = levelAlong(back)
  for (let i = 0; i < (sound[0]?.length ?? 0); i++) {
    const by = level((at + i) / SONG_RATE)
    for (const c of sound) c[i] = (c[i] as number) * by
  }
}

/** What a practice sound is made of. */
export interface PracticeWish {
  voices: Voices
  plan: SoundPlan
  /** Heard where given. */
  song: { song: AudioBuffer; measure: SongMeasure } | null
  /** The song steps back under what is said by so many decibels. */
  stepBack: number
  file: SoundFile
  /** Written into the file. */
  title: string
}

/**
 * Makes a practice sound, many times faster than it sounds: its repetitions are rendered side by side, and what is whole
 * is written to the file while the next are made.
 * @param told how far it is, 0..1
 * @throws DOMException where it was stopped
 */
export async function practiceSound(
  wish: PracticeWish,
  stretch: Stretch,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob> {
  const { plan, song, title, voices } = wish
  const context = new OfflineAudioContext(1, 1, SONG_RATE)
  const sounds = await soundsFor(context, plan, voices, (share) => told(WORDS * share), signal)
  const levels = levelsOf(context, plan, sounds, wish)
  // Counts alone are written to both sides, too: a player sounds one channel from both, but other programs measure it as half.
  const mixing = new Mixing(2)
  const file = await soundWriter({
    as: wish.file,
    channels: mixing.channels,
    alike: !song,
    rate: SONG_RATE,
    title,
    chapters: plan.chapters,
  })
  const limiter = new PieceLimiter(mixing.channels, SONG_RATE)
  const write = async (sound: Float32Array<ArrayBuffer>[]) => {
    if (sound[0]?.length) await file.add(sound)
  }
  const parts = soundParts(plan, SONG_RATE)
  /** How far each part's music is: it takes nearly all of the time. */
  const shares = parts.map(() => 0)
  const made = (part: SoundPart, k: number) => {
    const further = (share: number) => {
      shares[k] = share
      told(WORDS + (1 - WORDS) * (shares.reduce((a, b) => a + b) / parts.length))
    }
    const making = Promise.all([
      counted(part, sounds, levels),
      song && part.leg ? music(part.leg, song, levels, stretch, further, signal) : null,
    ])
    making.then(
      () => further(1),
      () => undefined,
    )
    // Waited for below, in its turn.
    making.catch(() => undefined)
    return making
  }
  const making = new Map<number, ReturnType<typeof made>>()
  let [begun, going, written] = [0, 0, 0]
  /** Begins parts while a core is free for their music and they are not far ahead of what is written. */
  const begin = () => {
    for (let part = parts[begun]; part && begun <= written + AHEAD; part = parts[begun]) {
      const long = part.to - part.from > LONG * SONG_RATE
      if (part.leg && going >= (long ? 1 : AT_ONCE)) return
      const k = begun++
      const leg = part.leg !== null
      if (leg) going++
      const one = made(part, k)
      making.set(k, one)
      const ended = () => {
        if (leg) going--
        if (!signal.aborted) begin()
      }
      one.then(ended, () => undefined)
    }
  }
  try {
    for (const [k, part] of parts.entries()) {
      signal.throwIfAborted()
      written = k
      begin()
      const [counts, heard] = await (making.get(k) as ReturnType<typeof made>)
      making.delete(k)
      mixing.add(part.from, [counts])
      if (heard) mixing.add(heard.at, heard.sound)
      const end = parts[k + 1]?.from ?? soundLength(plan, SONG_RATE)
      while (mixing.from < end) {
        signal.throwIfAborted()
        await write(limiter.add(mixing.take(Math.min(end, mixing.from + WRITTEN * SONG_RATE))))
      }
    }
    signal.throwIfAborted()
    await write(limiter.rest())
    return await file.finish(plan.seconds)
  } catch (error) {
    await file.cancel()
    throw error
  }
}
