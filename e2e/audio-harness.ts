/* Bundled by audio.spec.ts and put into a page of the app: renders drills and stretches offline, as fast as they go. */
import { type Filter, Music } from '../src/audio/music'
import { scheduleEvents } from '../src/audio/schedule'
import { channelsOf } from '../src/audio/song'
import { clicks, loadVoice } from '../src/audio/sounds'
import { drillTimeline, eventsOf, firstLeg, type Leg, legAfter } from '../src/core/drill'
import { emptyRoutine, everyEight, layOut, placePhrases } from '../src/core/routine'
import { findStrokes, monoOf } from '../src/core/stretch'

const RATE = 44_100

/** Sample positions where sound begins after at least 40 ms of near silence. */
function onsets(samples: Float32Array, threshold: number): number[] {
  const out: number[] = []
  let quiet = RATE
  samples.forEach((s, i) => {
    if (Math.abs(s) < threshold) quiet++
    else {
      if (quiet > 0.04 * RATE) out.push(i / RATE)
      quiet = 0
    }
  })
  return out
}

/**
 * `plain`: 40 even counts in eights. `uneven`: a tempo that drifts by 3 %, phrases of 8, 6, 8, 4, 8 and 6, of which 6, 8
 * and 4 are drilled; `six`: of these the 6 alone.
 */
type Kind = 'plain' | 'uneven' | 'six'

function plan(speed: number, countInEach: boolean, loops: number, kind: Kind = 'plain') {
  const times = [0.37]
  while (times.length < 40) {
    const t = times.at(-1) as number
    times.push(t + 0.5 / (kind === 'plain' ? 1 : 1 + 0.03 * Math.sin(t / 3)))
  }
  let n = 0
  const starts = kind === 'plain' ? everyEight(0, 40) : [0, 8, 14, 22, 26, 34]
  const page = layOut(emptyRoutine('Test'), { counts: 40, starts, sections: [] }, () => `id${n++}`)
  const placed = placePhrases(page)
  const range = { from: 192, to: { plain: 384, uneven: 26 * 24, six: 14 * 24 }[kind] }
  const timeline = drillTimeline({ times, placed, ...range, cues: [192] }, speed, 4)
  const legs: Leg[] = [firstLeg(timeline, 0.2)]
  while (legs.length < loops) legs.push(legAfter(legs.at(-1) as Leg, timeline, countInEach))
  const last = legs.at(-1) as Leg
  return { times, timeline, legs, seconds: last.start + timeline.body + 0.5 }
}

/**
 * Every click of a drill as planned and as rendered, in seconds; and for every called count how far its stress lies
 * from the count: the recording is looked for in what was rendered, by their difference.
 */
async function renderCounts(speed: number, countInEach: boolean, loops: number, kind: Kind = 'plain') {
  const { legs, seconds } = plan(speed, countInEach, loops, kind)
  const context = new OfflineAudioContext(2, Math.ceil(seconds * RATE), RATE)
  const merge = context.createChannelMerger(2)
  merge.connect(context.destination)
  const [click, voice] = [context.createGain(), context.createGain()]
  click.connect(merge, 0, 0)
  voice.connect(merge, 0, 1)
  const sounds = {
    ...clicks(context),
    as: 'clear' as const,
    voice: await loadVoice(context, 'clear'),
    recordings: new Map(),
    pieces: new Map(),
  }
  const planned: { t: number; call: string }[] = []
  for (const [i, leg] of legs.entries()) {
    const events = eventsOf(leg.timeline, leg.countedIn)
    planned.push(...events.map((e) => ({ t: leg.start + e.time, call: e.call })))
    const schedule = () => scheduleEvents(context, { click, voice }, sounds, events, leg.start)
    // As on the floor, each repetition is put on the clock shortly before it begins.
    if (i === 0) schedule()
    else
      context.suspend(leg.start - (leg.countedIn ? leg.timeline.lead : 0) - 0.5).then(() => {
        schedule()
        context.resume()
      })
  }
  const rendered = await context.startRendering()
  const said = rendered.getChannelData(1)
  const stress = planned.flatMap(({ t, call }, i) => {
    const word = sounds.voice.get(call)
    // The whole of fifty loops says the same again: every seventh call is looked at.
    return word && i % 7 === 0
      ? [placeOf(said, word.buffer.getChannelData(0), t - word.stress) + word.stress - t]
      : []
  })
  return { planned: planned.map((e) => e.t), heard: onsets(rendered.getChannelData(0), 0.05), stress }
}

/** Where within 20 ms of a time a recording lies in a sound: where its loudest 0.1 s differs least from it. */
function placeOf(sound: Float32Array, recording: Float32Array, t: number): number {
  const n = Math.min(recording.length, Math.round(0.1 * RATE))
  let loudest = 0
  let most = -1
  for (let i = 0; i + n <= recording.length; i += 441) {
    let sum = 0
    for (let k = i; k < i + n; k += 5) sum += (recording[k] as number) ** 2
    if (sum > most) {
      most = sum
      loudest = i
    }
  }
  let least = Number.POSITIVE_INFINITY
  let at = t
  for (let d = -882; d <= 882; d += 4) {
    const from = Math.round(t * RATE) + d
    let sum = 0
    for (let i = loudest; i < loudest + n; i += 3)
      sum += ((sound[from + i] ?? 0) - (recording[i] as number)) ** 2
    if (sum < least) {
      least = sum
      at = from / RATE
    }
  }
  return at
}

/** A song as the app plays it: with its strokes, which are known soon after it is there. */
async function loaded(context: OfflineAudioContext, song: AudioBuffer): Promise<Music> {
  const music = await Music.load(context, song, context.destination)
  music.setStrokes(findStrokes(monoOf(channelsOf(song)), song.sampleRate))
  return music
}

/**
 * Renders the music of a drill from a song of clicks on its counts; returns the clicks as planned and as heard. Many
 * loops are rendered at a lower rate, in samples a second: where they lie does not depend on it, how long it takes does.
 */
async function renderMusic(speed: number, loops: number, kind: Kind = 'plain', rate = RATE) {
  const { times, timeline, legs, seconds } = plan(speed, false, loops, kind)
  const context = new OfflineAudioContext(2, Math.ceil(seconds * rate), rate)
  const song = context.createBuffer(2, 21 * rate, rate)
  for (const t of times) {
    for (let c = 0; c < 2; c++) {
      const data = song.getChannelData(c)
      for (let i = 0; i < 0.0204 * rate; i++)
        data[Math.round(t * rate) + i] =
          Math.cos((2 * Math.PI * 1500 * i) / rate) * Math.exp(-i / (0.0041 * rate))
    }
  }
  const music = await loaded(context, song)
  const play = (leg: Leg) => music.play(leg.start, timeline.songStart, speed, timeline.body)
  await play(legs[0] as Leg)
  for (const [i, leg] of legs.entries()) {
    if (i === 0) continue
    // The worklet takes its message while rendering stands still.
    context.suspend(leg.start - 0.4).then(async () => {
      // The worklet answers when it has taken the change in, so that it is there before rendering goes on.
      await play(leg)
      context.resume()
    })
  }
  const rendered = await context.startRendering()
  const planned = legs.flatMap((leg) => timeline.counts.map((e) => leg.start + e.time))
  const samples = rendered.getChannelData(0)
  // The strongest 2 ms near each planned click: a stretched click has no sharp edge.
  const heard = planned.map((t) => {
    let best = 0
    let at = t
    for (let i = Math.round((t - 0.06) * rate); i < (t + 0.06) * rate; i += 4) {
      let sum = 0
      for (let j = i; j < i + 0.002 * rate; j++) sum += (samples[j] ?? 0) ** 2
      if (sum > best) {
        best = sum
        at = i / rate
      }
    }
    return at
  })
  return { planned, heard, weights: planned.map((t) => centre(samples, t, rate)) }
}

/** Centre of the energy within 60 ms of a time: blunt, but steady where a slow stretch smears a click. */
function centre(x: Float32Array, t: number, rate: number): number {
  let sum = 0
  let moment = 0
  for (let i = Math.round((t - 0.06) * rate); i < (t + 0.06) * rate; i++) {
    const e = (x[i] ?? 0) ** 2
    sum += e
    moment += e * (i / rate)
  }
  return moment / sum
}

/** Stretches 20 s of sound: a tone, and a click at the start and end of it. Returns the tone's pitch and the clicks' distance. */
async function renderTone(speed: number) {
  const length = 20 * speed
  const context = new OfflineAudioContext(2, Math.ceil(22 * RATE), RATE)
  const song = context.createBuffer(1, Math.ceil((length + 3) * RATE), RATE)
  const data = song.getChannelData(0)
  for (let i = 0; i < data.length; i++) data[i] = 0.25 * Math.sin((2 * Math.PI * 440 * i) / RATE)
  for (const t of [1, 1 + length])
    for (let i = 0; i < 60; i++)
      data[Math.round(t * RATE) + i] = Math.cos((2 * Math.PI * 5000 * i) / RATE) * Math.exp(-i / 20) * 3
  const music = await loaded(context, song)
  await music.play(0.5, 1 - 0.5 * speed, speed, 21.4)
  const out = (await context.startRendering()).getChannelData(0)
  return {
    pitch: pitchOf(out.subarray(5 * RATE, 15 * RATE)),
    between: clickNear(out, 21) - clickNear(out, 1),
  }
}

/** How strong tones of 60, 800 and 10 000 Hz are, in decibels against all of the song, when only a part is let through. */
async function renderBand(band: Filter) {
  const levels = async (through: Filter) => {
    const context = new OfflineAudioContext(1, 2 * RATE, RATE)
    const song = context.createBuffer(1, 3 * RATE, RATE)
    const data = song.getChannelData(0)
    for (let i = 0; i < data.length; i++)
      for (const f of TONES) data[i] = (data[i] as number) + 0.2 * Math.sin((2 * Math.PI * f * i) / RATE)
    const music = await Music.load(context, song, context.destination)
    music.setFilter(through)
    await music.play(0.1, 0.5, 1, 1.9)
    const out = (await context.startRendering()).getChannelData(0).subarray(RATE / 2)
    return TONES.map((f) => {
      let [re, im] = [0, 0]
      out.forEach((x, i) => {
        re += x * Math.cos((2 * Math.PI * f * i) / RATE)
        im += x * Math.sin((2 * Math.PI * f * i) / RATE)
      })
      return 10 * Math.log10(re * re + im * im)
    })
  }
  const [all, part] = [await levels('all'), await levels(band)]
  return part.map((x, i) => x - (all[i] as number))
}
const TONES = [60, 800, 10_000]

/** Frequency by the phase advance of one Fourier bin between the two halves of the sound. */
function pitchOf(x: Float32Array): number {
  const half = x.length >> 1
  const phase = (from: number) => {
    let re = 0
    let im = 0
    for (let i = 0; i < half; i++) {
      const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / half)
      const a = (2 * Math.PI * 440 * (from + i)) / RATE
      re += w * (x[from + i] as number) * Math.cos(a)
      im -= w * (x[from + i] as number) * Math.sin(a)
    }
    return Math.atan2(im, re)
  }
  let turn = phase(half) - phase(0)
  while (turn > Math.PI) turn -= 2 * Math.PI
  while (turn < -Math.PI) turn += 2 * Math.PI
  return 440 + turn / (2 * Math.PI) / (half / RATE)
}

/** Where the sound changes fastest within 100 ms of a time: the click stands out of the tone by its brightness. */
function clickNear(x: Float32Array, t: number): number {
  let best = 0
  let at = t
  for (let i = Math.round((t - 0.1) * RATE); i < (t + 0.1) * RATE; i += 2) {
    let sum = 0
    for (let j = i; j < i + 60; j++)
      sum += ((x[j + 1] as number) - 2 * (x[j] as number) + (x[j - 1] as number)) ** 2
    if (sum > best) {
      best = sum
      at = i / RATE
    }
  }
  return at
}

declare global {
  interface Window {
    harness: {
      renderCounts: typeof renderCounts
      renderMusic: typeof renderMusic
      renderTone: typeof renderTone
      renderBand: typeof renderBand
    }
  }
}

window.harness = { renderCounts, renderMusic, renderTone, renderBand }
