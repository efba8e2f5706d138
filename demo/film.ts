/* The demo's film: its dance drawn, as somebody might have filmed it in a hall: some words, two eights slowly, some words, four eights
   at tempo. H.264 and MP3 in MP4, made here, without a browser. */
import { registerMp3Encoder } from '@mediabunny/mp3-encoder'
import h264 from 'h264-mp4-encoder'
import * as bunny from 'mediabunny'
import {
  armsOf,
  asDanced,
  type Figure,
  figure,
  followBody,
  liesIn,
  type MoveBook,
  type Pose,
  type Spot,
  START,
  stepAt,
} from '../src/core/choreo'
import { nowIn } from '../src/core/floor'
import { danced, type Routine } from '../src/core/routine'
import { findStrokes, monoOf, stretched } from '../src/core/stretch'
import { type Ratio, type Seconds, TICKS_PER_COUNT, type Times, tickOfTime } from '../src/core/time'

const [WIDE, HIGH, FRAMES] = [320, 180, 15]
/** Before the first take, between the two, and after the last. */
const [BEFORE, BETWEEN, AFTER]: [Seconds, Seconds, Seconds] = [3, 2.5, 1.5]
const [GROUND, BOARDS, INK, LIT] = [
  [58, 48, 56],
  [76, 62, 70],
  [248, 219, 230],
  [242, 107, 162],
] as const

export interface DemoSong {
  mono: Float32Array
  rate: number
}

/** An MP3 sounds so many samples later than what was coded: the coder's 576 and the reader's 529 (from memory; measured here: 25.1 ms). Of the silence before the film's sound so much is left out. */
const MP3_DELAY = 576 + 529

/** What is danced in it: seconds of the song, and how fast. */
export interface DemoTake {
  from: Seconds
  to: Seconds
  speed: Ratio
}

/** Its sound, and where in it each take begins. */
export function demoFilmSound({ mono, rate }: DemoSong, takes: readonly DemoTake[]) {
  const strokes = findStrokes(monoOf([mono]), rate)
  const parts: Float32Array[] = []
  const starts: Seconds[] = []
  let at = 0
  const add = (samples: Float32Array) => {
    parts.push(samples)
    at += samples.length / rate
  }
  takes.forEach(({ from, to, speed }, i) => {
    add(new Float32Array(Math.round((i ? BETWEEN : BEFORE) * rate)))
    starts.push(at)
    const samples = Math.round(((to - from) / speed) * rate)
    const [sound] = stretched({ channels: [mono], rate, strokes }, { from, speed, samples })
    // As a room and a telephone leave it: not as loud as it was.
    add((sound ?? new Float32Array(samples)).map((x) => 0.5 * x))
  })
  add(new Float32Array(Math.round(AFTER * rate)))
  const samples = new Float32Array(parts.reduce((n, p) => n + p.length, 0))
  let k = 0
  for (const p of parts) {
    samples.set(p, k)
    k += p.length
  }
  return { samples, rate, starts, seconds: at }
}

/** The film itself. */
export async function demoFilm(
  routine: Routine,
  book: MoveBook,
  times: Times,
  sound: ReturnType<typeof demoFilmSound>,
  takes: readonly DemoTake[],
): Promise<Uint8Array> {
  const shown = asDanced(danced(routine), '', 'base')
  const { steps } = followBody(shown, book, START, routine.positions)
  const poseOn = (tick: number): Figure => {
    const running = nowIn(shown, tick).flatMap((l) => l.cues)
    const pose: Pose = { ...(stepAt(steps, tick) ?? START), arms: armsOf(running), lies: liesIn(running) }
    return figure(pose)
  }
  /** Between two halves of a count the body moves on; it lands where the count is. */
  const bodyAt = (tick: number): Figure => {
    const half = TICKS_PER_COUNT / 2
    const k = Math.floor(tick / half)
    const share = tick / half - k
    return blended(poseOn(k * half), poseOn((k + 1) * half), share * share * share)
  }
  const songAt = (t: Seconds): Seconds => {
    let song = takes[0]?.from ?? 0
    takes.forEach(({ from, to, speed }, i) => {
      const start = sound.starts[i] as Seconds
      if (t >= start) song = Math.min(to, from + (t - start) * speed)
    })
    return song
  }
  const video = await encoded(Math.floor(sound.seconds * FRAMES), (n) =>
    drawn(bodyAt(tickOfTime(times, songAt(n / FRAMES)))),
  )
  return withSound(video, sound)
}

const between = (a: Spot, b: Spot, share: number): Spot => [
  a[0] + (b[0] - a[0]) * share,
  a[1] + (b[1] - a[1]) * share,
]

function blended(a: Figure, b: Figure, share: number): Figure {
  const pair = (of: 'shoulders' | 'elbows' | 'hands' | 'knees' | 'feet') => ({
    left: between(a[of].left, b[of].left, share),
    right: between(a[of].right, b[of].right, share),
  })
  return {
    head: between(a.head, b.head, share),
    neck: between(a.neck, b.neck, share),
    hips: between(a.hips, b.hips, share),
    ...{ shoulders: pair('shoulders'), elbows: pair('elbows'), hands: pair('hands') },
    ...{ knees: pair('knees'), feet: pair('feet') },
    nose: a.nose && b.nose && between(a.nose, b.nose, share),
  }
}

/** A picture of the dancer in the hall, as red, green, blue and opaque. */
function drawn(f: Figure): Uint8Array {
  const out = new Uint8Array(WIDE * HIGH * 4)
  for (let y = 0; y < HIGH; y++) {
    const [r, g, b] = y > HIGH * 0.8 ? BOARDS : GROUND
    for (let i = y * WIDE * 4; i < (y + 1) * WIDE * 4; i += 4) {
      out[i] = r
      out[i + 1] = g
      out[i + 2] = b
      out[i + 3] = 255
    }
  }
  const size = HIGH * 0.76
  const at = ([x, y]: Spot): [number, number] => [WIDE / 2 + x * size, HIGH * 0.93 - y * size]
  const limb = (a: Spot, b: Spot, wide: number, colour: readonly [number, number, number] = INK) =>
    stroke(out, at(a), at(b), wide, colour)
  for (const side of ['left', 'right'] as const) {
    limb(f.hips, f.knees[side], 4.5)
    limb(f.knees[side], f.feet[side], 4)
    limb(f.shoulders[side], f.elbows[side], 3.5, LIT)
    limb(f.elbows[side], f.hands[side], 3, LIT)
  }
  limb(f.hips, f.neck, 6)
  limb(f.shoulders.left, f.shoulders.right, 4.5)
  limb(f.head, f.head, 9)
  if (f.nose) limb(f.nose, f.nose, 2.5, LIT)
  return out
}

/** A line with round ends. */
function stroke(
  out: Uint8Array,
  [ax, ay]: [number, number],
  [bx, by]: [number, number],
  wide: number,
  colour: readonly [number, number, number],
): void {
  const [dx, dy] = [bx - ax, by - ay]
  const long = dx * dx + dy * dy
  const within = (v: number, most: number) => Math.max(0, Math.min(most, v))
  for (
    let y = within(Math.floor(Math.min(ay, by) - wide), HIGH);
    y < within(Math.max(ay, by) + wide + 1, HIGH);
    y++
  )
    for (
      let x = within(Math.floor(Math.min(ax, bx) - wide), WIDE);
      x < within(Math.max(ax, bx) + wide + 1, WIDE);
      x++
    ) {
      const t = long ? within(((x - ax) * dx + (y - ay) * dy) / long, 1) : 0
      if ((x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2 > wide * wide) continue
      const i = (y * WIDE + x) * 4
      out[i] = colour[0]
      out[i + 1] = colour[1]
      out[i + 2] = colour[2]
    }
}

/** Pictures as H.264 in MP4, silent. */
async function encoded(frames: number, picture: (n: number) => Uint8Array): Promise<Uint8Array> {
  const encoder = await h264.createH264MP4Encoder()
  Object.assign(encoder, { width: WIDE, height: HIGH, frameRate: FRAMES })
  Object.assign(encoder, { quantizationParameter: 30, groupOfPictures: FRAMES })
  encoder.initialize()
  for (let n = 0; n < frames; n++) encoder.addFrameRgba(picture(n))
  encoder.finalize()
  const file = encoder.FS.readFile(encoder.outputFilename)
  encoder.delete()
  return file
}

/** The same film with its sound, as MP3. */
async function withSound(
  silent: Uint8Array,
  { samples, rate }: { samples: Float32Array; rate: number },
): Promise<Uint8Array> {
  registerMp3Encoder()
  const bytes = new Uint8Array(silent)
  const input = new bunny.Input({ source: new bunny.BufferSource(bytes), formats: [bunny.MP4] })
  const track = await input.getPrimaryVideoTrack()
  const config = await track?.getDecoderConfig()
  if (!track || !config) throw new Error('the pictures were lost')
  const target = new bunny.BufferTarget()
  const output = new bunny.Output({ format: new bunny.Mp4OutputFormat({ fastStart: 'in-memory' }), target })
  const pictures = new bunny.EncodedVideoPacketSource('avc')
  const voice = new bunny.AudioSampleSource({ codec: 'mp3', bitrate: 64_000 })
  output.addVideoTrack(pictures, { frameRate: FRAMES })
  output.addAudioTrack(voice)
  await output.start()
  // The encoder says of no picture that it stands alone: without looking, a browser would go to any of them and show a later one.
  const packets = new bunny.EncodedPacketSink(track).packets(undefined, undefined, { verifyKeyPackets: true })
  for await (const packet of packets) await pictures.add(packet, { decoderConfig: config })
  const sample = new bunny.AudioSample({
    ...{ data: new Float32Array(samples.subarray(MP3_DELAY)), format: 'f32-planar', numberOfChannels: 1 },
    ...{ sampleRate: rate, timestamp: 0 },
  })
  await voice.add(sample)
  sample.close()
  await output.finalize()
  return new Uint8Array(target.buffer as ArrayBuffer)
}
