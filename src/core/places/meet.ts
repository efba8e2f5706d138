import type { Dancer, Spot } from '../routine'
import type { Stretch, Ticks } from '../time'
import { lengthOf, onWay, spotOn, type Travel } from './on-way'
import { type Standing, spotAt } from './standing'
import type { Metres } from './ways'

/* How near dancers come to each other on their ways, when, and who might give way. */

/** Nearer than this, two run into each other; a bend keeps so much. Values from memory. */
export const TOO_NEAR: Metres = 0.5
export const KEPT: Metres = 0.8

/** The nearest that two come to each other on the way to a formation. */
export interface Meeting {
  a: string
  b: string
  /** A real-valued tick. */
  at: number
  metres: Metres
  /** To which one of them is on the way; the first where all only stand. */
  formation: string
}

/** Bent ways are straight for so long: a quarter of a count. */
const PIECE: Ticks = 6

/** Moments between which some dancers go straight or stand. @param within only these; all where nothing is said */
function momentsOf(standing: Standing, ids: Iterable<string>, within: Stretch | null = null): number[] {
  const out = new Set<number>()
  for (const id of ids)
    for (const { leaves, arrives, through } of standing.travels.get(id) ?? []) {
      if (within && arrives < within.from) continue
      if (within && leaves > within.to) break
      out.add(leaves)
      out.add(arrives)
      if (through) for (let t = leaves + PIECE; t < arrives; t += PIECE) out.add(t)
    }
  return [...out].sort((a, b) => a - b)
}

/** When two who go straight from here to there in the same time are nearest: share of that time, and how near. */
export function nearest(a0: Spot, a1: Spot, b0: Spot, b1: Spot): { share: number; metres: Metres } {
  const x = a0.x - b0.x
  const y = a0.y - b0.y
  const vx = a1.x - a0.x - (b1.x - b0.x)
  const vy = a1.y - a0.y - (b1.y - b0.y)
  const v2 = vx * vx + vy * vy
  const share = v2 < 1e-12 ? 0 : Math.min(1, Math.max(0, -(x * vx + y * vy) / v2))
  const nx = x + vx * share
  const ny = y + vy * share
  // A thousand times a formation, and several times as fast as Math.hypot.
  return { share, metres: Math.sqrt(nx * nx + ny * ny) }
}

/** A dancer, and which one they are. */
interface Named {
  id: string
  index: number
}

/** Follows one dancer from moment to moment: asked for later and later ones, it does not search, and makes nothing new. */
class Follower {
  private at = 0
  private readonly ways: readonly Travel[]
  /** Between the two moments: where they go from and to, and the box that holds both. */
  from: Spot
  to: Spot
  moving: Travel | null = null
  left = 0
  right = 0
  front = 0
  back = 0

  constructor(
    readonly id: string,
    readonly index: number,
    { travels, first }: Standing,
  ) {
    this.ways = travels.get(id) ?? []
    this.from = first.get(id) as Spot
    this.to = this.from
    this.bound()
  }

  /** The way that has begun by a moment, whether it ended or not; null before the first. */
  private wayBy(tick: number): Travel | null {
    while (this.at < this.ways.length && (this.ways[this.at] as Travel).leaves <= tick) this.at++
    return this.ways[this.at - 1] ?? null
  }

  private bound(): void {
    const { from, to } = this
    this.left = Math.min(from.x, to.x)
    this.right = Math.max(from.x, to.x)
    this.front = Math.min(from.y, to.y)
    this.back = Math.max(from.y, to.y)
  }

  /** Goes on to between two moments, of which none is before another that was gone to. */
  follow(from: number, to: number): void {
    const way = this.wayBy((from + to) / 2)
    const moving = way && way.leaves < to && way.arrives > from ? way : null
    // Who stood and stands has not gone anywhere.
    if (!moving && !this.moving && (!way || way.to === this.to)) return
    this.moving = moving
    if (way) {
      this.from = moving ? spotOn(moving, from) : way.to
      this.to = moving ? spotOn(moving, to) : this.from
    }
    this.bound()
  }
}

/** The nearest meeting of each two on the way to each formation. */
class NearestOfTwo {
  /** By formation, then by the two: a key of three names is slow to put together. */
  private readonly byFormation = new Map<string, Map<number, Meeting>>()

  /** @param of how many there are */
  constructor(private readonly of: number) {}

  /** Takes a meeting where it is the nearest so far of its two. */
  take(one: Named, other: Named, at: number, metres: Metres, formation: string): void {
    const [a, b] = one.id < other.id ? [one, other] : [other, one]
    const two = a.index * this.of + b.index
    let known = this.byFormation.get(formation)
    if (!known) {
      known = new Map()
      this.byFormation.set(formation, known)
    }
    const before = known.get(two)
    if (!before || metres < before.metres) known.set(two, { a: a.id, b: b.id, at, metres, formation })
  }

  /** In order of time. */
  all(): Meeting[] {
    const out: Meeting[] = []
    for (const known of this.byFormation.values()) for (const meeting of known.values()) out.push(meeting)
    return out.sort((a, b) => a.at - b.at)
  }
}

/**
 * All meetings nearer than a distance, the nearest of each two on each way, in order of time.
 * Between two moments everybody goes straight, so the nearest is exact; only those who may come so near are looked at.
 */
export function meetings(standing: Standing, within: Metres = TOO_NEAR): Meeting[] {
  const ids = [...standing.first.keys()]
  // In the order from left to right of the moment before, which is nearly that of the next: soon sorted.
  const bodies = ids.map((id, i) => new Follower(id, i, standing))
  const best = new NearestOfTwo(ids.length)
  const [opening] = standing.formations
  if (opening)
    for (const m of standingStill(standing, ids, opening.at, within))
      best.take(m.a, m.b, m.at, m.metres, opening.id)
  const moments = momentsOf(standing, ids)
  for (const [k, from] of moments.entries()) {
    const to = moments[k + 1]
    if (to === undefined) break
    for (const body of bodies) body.follow(from, to)
    if (bodies.every((body) => body.moving === null)) continue
    bodies.sort((a, b) => a.left - b.left)
    for (let i = 0; i < bodies.length; i++) {
      const a = bodies[i] as Follower
      for (let j = i + 1; j < bodies.length; j++) {
        const b = bodies[j] as Follower
        if (b.left > a.right + within) break
        if (b.front > a.back + within || a.front > b.back + within) continue
        const way = a.moving ?? b.moving
        if (!way) continue
        const near = nearest(a.from, a.to, b.from, b.to)
        if (near.metres < within) best.take(a, b, from + near.share * (to - from), near.metres, way.formation)
      }
    }
  }
  return best.all()
}

/** Those who stand too near to each other at first. */
function standingStill(standing: Standing, ids: readonly string[], at: Ticks, within: Metres) {
  const spots = ids.flatMap((id, index) => {
    const spot = spotAt(standing, id, at)
    return spot ? [{ id, index, spot }] : []
  })
  return spots.flatMap((a, i) =>
    spots.slice(i + 1).flatMap((b) => {
      const metres = Math.hypot(a.spot.x - b.spot.x, a.spot.y - b.spot.y)
      return metres < within ? [{ a, b, at, metres }] : []
    }),
  )
}

/** The nearest two come to each other in a stretch. */
export function leastBetween(standing: Standing, a: string, b: string, { from, to }: Stretch): Metres {
  let least = Number.POSITIVE_INFINITY
  const inside = momentsOf(standing, [a, b], { from, to }).filter((t) => t > from && t < to)
  const moments = [from, ...inside, to]
  for (const [k, t] of moments.entries()) {
    const next = moments[k + 1] ?? t
    const [a0, a1] = [spotAt(standing, a, t), spotAt(standing, a, next)]
    const [b0, b1] = [spotAt(standing, b, t), spotAt(standing, b, next)]
    if (a0 && a1 && b0 && b1) least = Math.min(least, nearest(a0, a1, b0, b1).metres)
  }
  return least
}

/** A way that was tried, and gives way. */
export interface Cure {
  dancer: string
  formation: string
  through: Spot
  /** The nearest it comes to the one that was met, and how much longer it is. */
  keeps: Metres
  adds: Metres
}

const ASIDE: readonly Metres[] = [0.5, 0.75, 1, 1.25, 1.5, 2]

/** The standing with one way bent. */
function withBend(
  standing: Standing,
  { dancer, formation }: Pick<Travel, 'dancer' | 'formation'>,
  through: Spot,
) {
  const ways = standing.travels.get(dancer) ?? []
  const bent = ways.map((w) => (w.formation === formation ? { ...w, through } : w))
  return { ...standing, travels: new Map([...standing.travels, [dancer, bent]]) }
}

/**
 * A bend that keeps two who meet apart, tried before it is said: of the two, and of both sides, the one that adds the least, that keeps
 * enough to the one who is met, and lets nobody else come nearer than anybody may.
 */
export function cureOf(standing: Standing, meeting: Meeting): Cure | null {
  const both = [
    [meeting.a, meeting.b],
    [meeting.b, meeting.a],
  ] as const
  const bends = both.flatMap(([dancer, other]) => {
    const way = standing.travels.get(dancer)?.find((w) => w.formation === meeting.formation)
    if (!way) return []
    const straight = lengthOf(way)
    return bendsOf(way).map((through) => ({
      ...{ way, other, through },
      adds: lengthOf({ ...way, through }) - straight,
    }))
  })
  // The first that serves adds the least.
  for (const { way, other, through, adds } of bends.sort((a, b) => a.adds - b.adds)) {
    const { dancer, formation, leaves, arrives } = way
    const tried = withBend(standing, way, through)
    const during = { from: leaves, to: arrives }
    const keeps = leastBetween(tried, dancer, other, during)
    if (keeps < KEPT) continue
    const isFree = (id: string) =>
      leastBetween(tried, dancer, id, during) >=
      Math.min(TOO_NEAR, leastBetween(standing, dancer, id, during))
    if ([...standing.first.keys()].every((id) => id === dancer || id === other || isFree(id)))
      return { dancer, formation, through, keeps, adds }
  }
  return null
}

/** Places a way may be bent through: aside of its middle, further and further. */
function bendsOf({ from, to }: Travel): Spot[] {
  const long = Math.hypot(to.x - from.x, to.y - from.y)
  if (long < 0.1) return []
  const middle = onWay({ from, to, through: null }, 0.5)
  const [x, y] = [-(to.y - from.y) / long, (to.x - from.x) / long]
  return ASIDE.flatMap((by) => [
    { x: middle.x + x * by, y: middle.y + y * by },
    { x: middle.x - x * by, y: middle.y - y * by },
  ]).map((s) => ({ x: Math.round(100 * s.x) / 100, y: Math.round(100 * s.y) / 100 }))
}

/** How near and how far partners are from each other over the dance; each two once. */
export function partnersApart(
  standing: Standing,
  dancers: readonly Dancer[],
  dance: Stretch,
): { a: string; b: string; least: Metres; most: Metres }[] {
  const moments = [
    dance.from,
    ...momentsOf(standing, standing.travels.keys()).filter((t) => t > dance.from && t < dance.to),
  ]
  return dancers.flatMap(({ id, partner }) => {
    if (partner === null || id > partner) return []
    const apart = moments.flatMap((t) => {
      const [one, other] = [spotAt(standing, id, t), spotAt(standing, partner, t)]
      return one && other ? [Math.hypot(one.x - other.x, one.y - other.y)] : []
    })
    if (!apart.length) return []
    return [
      { a: id, b: partner, least: leastBetween(standing, id, partner, dance), most: Math.max(...apart) },
    ]
  })
}
