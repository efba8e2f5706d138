import type { Ratio, Seconds } from '../time'
import { secondOrder } from './second-order'
import { type Strokes, soundAt, strokeBefore } from './time-map'
import { type Channels, HOP } from './vocoder'

/** Levels are told in steps of so many samples: 0.4 ms at 44.1 kHz. */
const STEP = 16
/** Steps in a hop. */
const STEPS = HOP / STEP
/** Two bands are looked at: from the first on, and from the second on, in Hz. */
const CUTS = [4500, 8000] as const
/** So many steps are taken together on either side: 1.5 ms. */
const BESIDE = 4
/**
 * The loudest of so long counts, in seconds of the song: longer than a wave of the lowest voice. Were it shorter, the waves
 * of a tone would be told from one another, and it would sound an octave lower at half the speed.
 */
const HOLD: Seconds = 0.012
/** Nothing is made softer or louder than by these. */
const [SOFTEST, LOUDEST] = [0.3, 3]
/** So near to a stroke the song lies as the stroke was played, so far from it where an even speed puts it; seconds of what is heard. */
const [AS_PLAYED, EVEN]: readonly [Seconds, Seconds] = [0.012, 0.025]
/** What is below is no part of a band: it would go up and down with it. Far enough to leave the bands in phase, Hz. */
const BELOW = 600
/** Energy of a band that nobody hears: 80 dB below full scale. */
const SILENCE = 1e-8
/** The song is listened to from so long before the first that is heard on. */
const BEFORE: Seconds = 0.05
/** Steps that are remembered: 186 ms, more than is held at the slowest speed, and a hop. */
const KEPT = 512

/** A filter on its way through a sound: what is above a frequency goes through. */
class HighPass {
  private s1 = 0
  private s2 = 0

  /** @param factors b0, b1, b2, a1, a2 */
  constructor(private readonly factors: Float64Array) {}

  /** @param to may be what it reads from */
  pass(from: Float32Array, to: Float32Array, samples: number): void {
    const [b0, b1, b2, a1, a2] = this.factors as unknown as [number, number, number, number, number]
    let { s1, s2 } = this
    for (let i = 0; i < samples; i++) {
      const x = from[i] as number
      const y = b0 * x + s1
      s1 = b1 * x - a1 * y + s2
      s2 = b2 * x - a2 * y
      to[i] = y
    }
    this.s1 = s1
    this.s2 = s2
  }
}

/** A filter of first order: what it lets through and what it does not add up in phase, so that either can be made louder. */
function firstOrder(hz: number, rate: number): Float64Array {
  const w = Math.tan((Math.PI * Math.min(hz, rate * 0.45)) / rate)
  return Float64Array.of(1 / (1 + w), -1 / (1 + w), 0, (w - 1) / (w + 1), 0)
}

/** The bands of a sound that comes in order, channel by channel. */
class Bands {
  private readonly below: readonly HighPass[]
  private readonly filters: readonly (readonly HighPass[])[]
  private readonly above = new Float32Array(HOP)

  constructor(channels: number, rate: number) {
    const each = Array.from({ length: channels })
    this.below = each.map(() => new HighPass(secondOrder(BELOW, true, rate)))
    this.filters = each.map(() => CUTS.map((hz) => new HighPass(firstOrder(hz, rate))))
  }

  /** Splits what comes next, a hop. */
  split(sound: Channels, into: BandsOfHop): void {
    for (const [c, filters] of this.filters.entries()) {
      const bands = into[c] as BandsOfHop[number]
      this.below[c]?.pass(sound[c] as Float32Array, this.above, HOP)
      for (const [b, filter] of filters.entries()) filter.pass(this.above, bands[b] as Float32Array, HOP)
      const [lower, upper] = bands
      for (let i = 0; i < HOP; i++) lower[i] = (lower[i] as number) - (upper[i] as number)
    }
  }
}

/** How loud the bands of a sound are that comes in order, all channels together. */
class Levels {
  private readonly filters: readonly (readonly (readonly HighPass[])[])[]
  private readonly energy = CUTS.map(() => new Float64Array(KEPT))
  private readonly together = CUTS.map(() => new Float64Array(KEPT))
  private readonly passed = CUTS.map(() => new Float32Array(HOP))
  /** Steps that have come, from the first one on. */
  count = 0

  constructor(channels: number, rate: number) {
    // Twice the same: steep enough that what is loud below does not count.
    const steep = (hz: number) => [0, 1].map(() => new HighPass(secondOrder(hz, true, rate)))
    this.filters = Array.from({ length: channels }, () => CUTS.map(steep))
  }

  /** Takes in what comes next, whole steps, a hop at most. */
  take(sound: Channels, samples: number): void {
    const steps = samples / STEP
    for (let k = 0; k < steps; k++) for (const energy of this.energy) energy[(this.count + k) % KEPT] = 0
    for (const [c, bands] of this.filters.entries()) {
      for (const [b, [first, second]] of bands.entries()) {
        const passed = this.passed[b] as Float32Array
        first?.pass(sound[c] as Float32Array, passed, samples)
        second?.pass(passed, passed, samples)
      }
      this.addEnergies(steps)
    }
    for (let k = 0; k < steps; k++, this.count++) this.average(this.count - BESIDE)
  }

  private addEnergies(steps: number): void {
    const [all, upper] = this.passed as [Float32Array, Float32Array]
    const [low, high] = this.energy as [Float64Array, Float64Array]
    for (let k = 0; k < steps; k++) {
      let [lower, higher] = [0, 0]
      for (let i = k * STEP; i < (k + 1) * STEP; i++) {
        lower += ((all[i] as number) - (upper[i] as number)) ** 2
        higher += (upper[i] as number) ** 2
      }
      const at = (this.count + k) % KEPT
      low[at] = (low[at] as number) + lower
      high[at] = (high[at] as number) + higher
    }
  }

  private average(step: number): void {
    if (step < 0) return
    for (const [b, energy] of this.energy.entries()) {
      let sum = 0
      for (let k = Math.max(0, step - BESIDE); k <= step + BESIDE; k++) sum += energy[k % KEPT] as number
      ;(this.together[b] as Float64Array)[step % KEPT] = sum / (2 * BESIDE + 1) / STEP
    }
  }

  /** The loudest of a step and so many before it. Steps that have not come, or are forgotten, are silence. */
  loudest(band: number, step: number, before: number): number {
    const together = this.together[band] as Float64Array
    const last = Math.min(step, this.count - 1 - BESIDE)
    let most = 0
    for (let k = Math.max(0, step - before, this.count - KEPT); k <= last; k++)
      most = Math.max(most, together[k % KEPT] as number)
    return most
  }
}

/** Of each channel both bands of a hop. */
type BandsOfHop = readonly (readonly [Float32Array, Float32Array])[]
const bandsOf = (channels: Channels): BandsOfHop =>
  channels.map(() => [new Float32Array(HOP), new Float32Array(HOP)] as const)

/** A hop of what is heard. */
interface Hop {
  readonly sound: readonly Float32Array[]
  readonly bands: BandsOfHop
  /** The moment of an even speed at its beginning, in seconds of the song. */
  even: Seconds
  speed: Ratio
}

/**
 * Gives a slowed sound the edges of the song above 4.5 kHz: what its frames smear before an edge is held down, what follows is
 * brought up, as loud as the song is there. Between strokes, where the song runs unevenly, that is where an even speed has it.
 * Both channels alike, so that the picture stays. It tells a hop when it has taken the next one.
 */
export class Edges {
  private readonly song: Levels
  private readonly heard: Levels
  private readonly bands: Bands
  /** The sample of the song its levels begin with; null before the first is asked for. */
  private begin: number | null = null
  private readonly piece: readonly Float32Array[]
  /** The hop that is told next. */
  private due: Hop
  /** The one after it. */
  private coming: Hop
  /** How much louder each step of a hop is made, band by band; before it the last step of the hop before, after it the first of the next. */
  private readonly gains = CUTS.map(() => new Float64Array(STEPS + 2).fill(1))
  private told = 0

  /** @param channels the song's, two at most */
  constructor(
    private readonly channels: Channels,
    private readonly rate: number,
  ) {
    this.song = new Levels(channels.length, rate)
    this.heard = new Levels(channels.length, rate)
    this.bands = new Bands(channels.length, rate)
    const hop = () => ({
      sound: channels.map(() => new Float32Array(HOP)),
      bands: bandsOf(channels),
      even: 0,
      speed: 1,
    })
    this.piece = hop().sound
    this.due = hop()
    this.coming = hop()
  }

  /** Takes a hop. @param write puts it into two channels @param even the moment of an even speed at its beginning */
  take(write: (hop: Channels) => void, even: Seconds, speed: Ratio): void {
    const hop = this.due
    this.due = this.coming
    this.coming = hop
    write(hop.sound)
    hop.even = even
    hop.speed = speed
    this.heard.take(hop.sound, HOP)
    this.bands.split(hop.sound, hop.bands)
  }

  /** Writes the hop before the last that was taken. */
  tell(out: Channels, at: number, strokes: Strokes): void {
    const { due } = this
    for (let k = 0; k <= STEPS; k++) this.weigh(k, strokes)
    for (const [c, sound] of due.sound.entries()) {
      const to = out[c]
      if (!to) continue
      to.set(sound, at)
      for (const [b, gains] of this.gains.entries()) {
        const band = due.bands[c]?.[b] as Float32Array
        for (let k = 0; k < STEPS; k++) addGained(band, to, at, k, gains)
      }
    }
    for (const gains of this.gains) gains[0] = gains[STEPS] as number
    this.told += STEPS
  }

  /** Works out how much louder a step of the hop is made. */
  private weigh(k: number, strokes: Strokes): void {
    const { rate, due, heard, song } = this
    const { speed } = due
    const place = placeOf(strokes, due.even + ((k + 0.5) * STEP * speed) / rate, speed)
    this.hear(place * rate)
    const step = (place * rate - (this.begin as number)) / STEP - 0.5
    const first = Math.floor(step)
    const held = Math.round((HOLD * rate) / STEP)
    for (const [b, gains] of this.gains.entries()) {
      const early = song.loudest(b, first, held)
      const there = early + (step - first) * (song.loudest(b, first + 1, held) - early)
      const here = heard.loudest(b, this.told + k, Math.round(held / speed))
      const gain = Math.sqrt((there + SILENCE) / (here + SILENCE))
      gains[k + 1] = Math.min(LOUDEST, Math.max(SOFTEST, gain))
    }
  }

  /** Takes in the song until its level is known at a sample. */
  private hear(sample: number): void {
    const { channels, piece, song } = this
    this.begin ??= Math.floor(sample - BEFORE * this.rate)
    const until = (sample - this.begin) / STEP + BESIDE + 2
    while (song.count < until) {
      const steps = Math.min(STEPS, Math.ceil(until - song.count))
      const from = this.begin + song.count * STEP
      for (const [c, to] of piece.entries())
        for (let i = 0; i < steps * STEP; i++) to[i] = channels[c]?.[from + i] ?? 0
      song.take(piece, steps * STEP)
    }
  }
}

/** Adds what makes a step of a band louder, from the middle of the step before it to the middle of the next. */
function addGained(band: Float32Array, to: Float32Array, at: number, k: number, gains: Float64Array): void {
  const here = gains[k + 1] as number
  const from = ((gains[k] as number) + here) / 2
  const until = ((gains[k + 2] as number) + here) / 2
  for (let i = 0; i < STEP; i++) {
    const share = (i + 0.5) / STEP
    const gain = share < 0.5 ? from + 2 * share * (here - from) : here + (2 * share - 1) * (until - here)
    const n = k * STEP + i
    to[at + n] = (to[at + n] as number) + (gain - 1) * (band[n] as number)
  }
}

/** Where in the song the edges lie that are heard at a moment. */
function placeOf(strokes: Strokes, even: Seconds, speed: Ratio): Seconds {
  const i = strokeBefore(strokes, even)
  const since = even - (strokes[i] ?? Number.NEGATIVE_INFINITY)
  const until = (strokes[i + 1] ?? Number.POSITIVE_INFINITY) - even
  const far = Math.min(1, Math.max(0, (Math.min(since, until) / speed - AS_PLAYED) / (EVEN - AS_PLAYED)))
  if (far === 1) return even
  return even + (1 - far * far * (3 - 2 * far)) * (soundAt(strokes, even, speed) - even)
}
