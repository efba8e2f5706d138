import type { Ratio, Seconds } from '../time'
import { secondOrder } from './second-order'
import { type Strokes, soundAt, strokeBefore } from './time-map'
import { type Channels, HOP } from './vocoder'

/** Levels are told in steps of so many samples: 0.7 ms at 44.1 kHz. */
const STEP = 32
/** Steps in a hop. */
const STEPS = HOP / STEP
/** Two bands are looked at: from the first on, and from the second on, in Hz. */
const CUTS = [4500, 8000] as const
/** So many steps are taken together on either side: 1.5 ms. */
const BESIDE = 2
/**
 * The loudest of so long counts, in seconds of the song: as good as a wave of the lowest string of a
 * bass. Were it shorter, the waves of a tone would be told from one another, and it would sound an octave lower at half the speed.
 */
const HOLD: Seconds = 0.018
/** After it the level falls to a third in that time divided by this. */
const FALL = 4
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
/** Steps that filters take to settle. */
const SETTLED = 2
/** Steps that are remembered: 186 ms, more than is held at the slowest speed, and a hop. */
const KEPT = 256

/**
 * Factors of a filter, and what it remembers of what has come. Each loop below works out all filters of a sample
 * together, with numbers of its own, so that nothing is kept between them.
 */
class Filter {
  s1 = 0
  s2 = 0
  /** @param factors b0, b1, b2, a1, a2 */
  constructor(readonly factors: Float64Array) {}
}

/** A filter of first order: what it lets through and what it does not add up in phase, so that either can be made louder. */
function firstOrder(hz: number, rate: number): Filter {
  const w = Math.tan((Math.PI * Math.min(hz, rate * 0.45)) / rate)
  return new Filter(Float64Array.of(1 / (1 + w), -1 / (1 + w), 0, (w - 1) / (w + 1), 0))
}

/** A channel whose bands are made louder and softer. */
class Gained {
  private readonly below: Filter
  private readonly all: Filter
  private readonly upper: Filter

  constructor(rate: number) {
    this.below = new Filter(secondOrder(BELOW, true, rate))
    this.all = firstOrder(CUTS[0], rate)
    this.upper = firstOrder(CUTS[1], rate)
  }

  /** Writes a hop, each step as much louder as is said: what comes before it, it, and what comes after. In order. */
  write(sound: Float32Array, out: Float32Array, at: number, gains: readonly Float64Array[]): void {
    const [lower, higher] = gains as [Float64Array, Float64Array]
    for (let k = 0; k < STEPS; k++) {
      const [a, b] = [lower[k + 1] as number, higher[k + 1] as number]
      const half = STEP / 2
      const from = k * STEP
      // From the middle of the step before to the middle of this one, and from there to the middle of the next.
      const [before, beside] = [((lower[k] as number) + a) / 2, ((higher[k] as number) + b) / 2]
      this.ramp(sound, out, at, from, before, beside, (a - before) / half, (b - beside) / half)
      const [after, afterThat] = [((lower[k + 2] as number) + a) / 2, ((higher[k + 2] as number) + b) / 2]
      this.ramp(sound, out, at, from + half, a, b, (after - a) / half, (afterThat - b) / half)
    }
  }

  /** Half a step of it, the gains of both bands changing evenly. */
  private ramp(
    sound: Float32Array,
    out: Float32Array,
    at: number,
    from: number,
    lower: number,
    higher: number,
    lowerBy: number,
    higherBy: number,
  ): void {
    const { below, all, upper } = this
    const [f, g, h] = [below.factors, all.factors, upper.factors]
    const [b0, b1, b2, a1, a2] = [f[0], f[1], f[2], f[3], f[4]] as [number, number, number, number, number]
    const [c0, c1, d1] = [g[0], g[1], g[3]] as [number, number, number]
    const [e0, e1, h1] = [h[0], h[1], h[3]] as [number, number, number]
    let [s1, s2, t, u] = [below.s1, below.s2, all.s1, upper.s1]
    for (let i = from; i < from + STEP / 2; i++) {
      const x = sound[i] as number
      const y = b0 * x + s1
      s1 = b1 * x - a1 * y + s2
      s2 = b2 * x - a2 * y
      const p = c0 * y + t
      t = c1 * y - d1 * p
      const q = e0 * y + u
      u = e1 * y - h1 * q
      const n = i - from + 0.5
      out[at + i] = x + (lower + n * lowerBy - 1) * (p - q) + (higher + n * higherBy - 1) * q
    }
    below.s1 = s1
    below.s2 = s2
    all.s1 = t
    upper.s1 = u
  }
}

/** How loud the bands of a sound are that comes in order, both channels taken together. */
class Levels {
  private readonly low: readonly [Filter, Filter]
  private readonly high: readonly [Filter, Filter]
  private readonly energy = CUTS.map(() => new Float64Array(KEPT))
  private readonly together = CUTS.map(() => new Float64Array(KEPT))
  private readonly held = CUTS.map(() => new Float64Array(KEPT))
  /** Steps that have come, from the first one on. */
  count = 0

  constructor(rate: number) {
    // Twice the same: steep enough that what is loud below does not count.
    const steep = (hz: number): [Filter, Filter] => [
      new Filter(secondOrder(hz, true, rate)),
      new Filter(secondOrder(hz, true, rate)),
    ]
    this.low = steep(CUTS[0])
    this.high = steep(CUTS[1])
  }

  /** Takes in what comes next, whole steps. @param held the loudest of so many steps before each is kept with it */
  take(sound: Channels, from: number, samples: number, held: number): void {
    const [left, right] = sound as [Float32Array, Float32Array?]
    for (let k = 0; k < samples / STEP; k++) {
      this.step(left, right ?? left, from + k * STEP)
      this.count++
      // A sound that begins in the midst of a tone is an edge to a filter, but to nobody else.
      if (this.count === SETTLED + 1)
        for (const energy of this.energy) energy.fill(energy[SETTLED] as number, 0, SETTLED)
      this.average(this.count - 1 - BESIDE, held)
    }
  }

  /** A step of the sound; what lies outside of it is silence. */
  private step(left: Float32Array, right: Float32Array, from: number): void {
    const [l1, l2] = this.low
    const [h1, h2] = this.high
    const [f, g] = [l1.factors, h1.factors]
    const [b0, b1, b2, a1, a2] = [f[0], f[1], f[2], f[3], f[4]] as [number, number, number, number, number]
    const [d0, d1, d2, c1, c2] = [g[0], g[1], g[2], g[3], g[4]] as [number, number, number, number, number]
    let [p1, p2, q1, q2] = [l1.s1, l1.s2, l2.s1, l2.s2]
    let [r1, r2, t1, t2] = [h1.s1, h1.s2, h2.s1, h2.s2]
    let [lower, higher] = [0, 0]
    for (let i = from; i < from + STEP; i++) {
      const x = i >= 0 && i < left.length ? ((left[i] as number) + (right[i] as number)) / 2 : 0
      const y = b0 * x + p1
      p1 = b1 * x - a1 * y + p2
      p2 = b2 * x - a2 * y
      const z = b0 * y + q1
      q1 = b1 * y - a1 * z + q2
      q2 = b2 * y - a2 * z
      const v = d0 * x + r1
      r1 = d1 * x - c1 * v + r2
      r2 = d2 * x - c2 * v
      const w = d0 * v + t1
      t1 = d1 * v - c1 * w + t2
      t2 = d2 * v - c2 * w
      lower += (z - w) * (z - w)
      higher += w * w
    }
    ;[l1.s1, l1.s2, l2.s1, l2.s2] = [p1, p2, q1, q2]
    ;[h1.s1, h1.s2, h2.s1, h2.s2] = [r1, r2, t1, t2]
    const at = this.count % KEPT
    ;(this.energy[0] as Float64Array)[at] = lower / STEP
    ;(this.energy[1] as Float64Array)[at] = higher / STEP
  }

  /** Works out a step whose neighbours are known: the mean of them, and the loudest of such means for a while. */
  private average(step: number, held: number): void {
    if (step < 0) return
    const fall = Math.exp(-FALL / held)
    for (let b = 0; b < CUTS.length; b++) {
      const energy = this.energy[b] as Float64Array
      const together = this.together[b] as Float64Array
      let sum = 0
      for (let k = Math.max(0, step - BESIDE); k <= step + BESIDE; k++) sum += energy[k % KEPT] as number
      together[step % KEPT] = sum / (2 * BESIDE + 1)
      let most = 0
      for (let k = Math.max(0, step - held); k <= step; k++)
        most = Math.max(most, together[k % KEPT] as number)
      const kept = this.held[b] as Float64Array
      // It falls as a sound does: a leap down would leave a leap up of what is made louder.
      kept[step % KEPT] = Math.max(most, (kept[(step + KEPT - 1) % KEPT] as number) * fall)
    }
  }

  /** The loudest just before a step. It has come, and is not forgotten. */
  loudest(band: number, step: number): number {
    return (this.held[band] as Float64Array)[Math.max(0, step) % KEPT] as number
  }
}

/** A hop of what is heard. */
interface Hop {
  readonly sound: readonly Float32Array[]
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
  private readonly sides: readonly Gained[]
  /** The sample of the song its levels begin with; null before the first is asked for. */
  private begin: number | null = null
  /** The hop that is told next. */
  private due: Hop
  /** The one after it. */
  private coming: Hop
  /** How much louder each step of a hop is made, band by band; before it the last step of the hop before, after it the first of the next. */
  private readonly gains = CUTS.map(() => new Float64Array(STEPS + 2).fill(1))
  /** Steps that were told. */
  private told = 0
  /** Steps the loudest of which counts. */
  private readonly held: number

  /** @param channels the song's, two at most */
  constructor(
    private readonly channels: Channels,
    private readonly rate: number,
  ) {
    this.song = new Levels(rate)
    this.heard = new Levels(rate)
    this.sides = channels.map(() => new Gained(rate))
    const hop = () => ({ sound: channels.map(() => new Float32Array(HOP)), even: 0, speed: 1 })
    this.due = hop()
    this.coming = hop()
    this.held = Math.round((HOLD * rate) / STEP)
  }

  /** Takes a hop. @param write puts it into two channels @param even the moment of an even speed at its beginning */
  take(write: (hop: Channels) => void, even: Seconds, speed: Ratio): void {
    const hop = this.due
    this.due = this.coming
    this.coming = hop
    write(hop.sound)
    hop.even = even
    hop.speed = speed
    this.heard.take(hop.sound, 0, HOP, Math.round(this.held / speed))
  }

  /** Writes the hop before the last that was taken. */
  tell(out: Channels, at: number, strokes: Strokes): void {
    const { due, gains } = this
    for (let k = 0; k <= STEPS; k++) this.weigh(k, strokes)
    for (const [c, sound] of due.sound.entries()) {
      const to = out[c]
      if (to) this.sides[c]?.write(sound, to, at, gains)
    }
    for (const of of gains) of[0] = of[STEPS] as number
    this.told += STEPS
  }

  /** Works out how much louder a step of the hop is made. */
  private weigh(k: number, strokes: Strokes): void {
    const { rate, due, heard, song, gains } = this
    const { speed } = due
    const place = placeOf(strokes, due.even + ((k + 0.5) * STEP * speed) / rate, speed)
    this.hear(place * rate)
    const step = (place * rate - (this.begin as number)) / STEP - 0.5
    const first = Math.floor(step)
    for (let b = 0; b < CUTS.length; b++) {
      const early = song.loudest(b, first)
      const there = early + (step - first) * (song.loudest(b, first + 1) - early)
      const gain = Math.sqrt((there + SILENCE) / (heard.loudest(b, this.told + k) + SILENCE))
      ;(gains[b] as Float64Array)[k + 1] = Math.min(LOUDEST, Math.max(SOFTEST, gain))
    }
  }

  /** Takes in the song until its level is known at a sample. */
  private hear(sample: number): void {
    const { channels, song } = this
    this.begin ??= Math.floor(sample - BEFORE * this.rate)
    const until = (sample - this.begin) / STEP + BESIDE + 2
    while (song.count < until) song.take(channels, this.begin + song.count * STEP, STEP, this.held)
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
