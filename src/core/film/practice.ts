import { armsOf, type BodyState, liesIn, type Pose, START, stepAt } from '../choreo'
import { manner, nowIn, saidCount } from '../floor'
import type { SoundPlan } from '../handout'
import {
  cueLine,
  type DancedCue,
  labelIn,
  mirrorFacing,
  otherSide,
  type PlacedPhrase,
  phraseAt,
} from '../routine'
import { type Ratio, type Seconds, type Ticks, type Times, tickOfTime } from '../time'

/** What a practice film is made of, beside its pictures. */
export interface FilmScene {
  plan: Pick<SoundPlan, 'legs' | 'chapters' | 'seconds'>
  times: Times
  placed: readonly PlacedPhrase[]
  /** Of what is danced, in order of place. */
  cues: readonly DancedCue[]
  /** Where the dancer stands, cue by cue (choreo/body.ts). */
  steps: Parameters<typeof stepAt>[0]
  mirrored: boolean
}

/** What is seen at a moment of a practice film. */
export interface FilmMoment {
  /** "75 %". */
  speedName: string
  /** The time of the song that is danced; null between two repetitions. */
  song: Seconds | null
  /** What is drilled, in seconds of the song, and how fast. */
  piece: { from: Seconds; to: Seconds }
  speed: Ratio
  /** The count, or what is counted in with. */
  count: string
  sub: string
  countingIn: boolean
  now: string
  beside: string
  next: string
  caution: string
  pose: Pose
}

/** What is seen of a practice film at one of its moments. */
export function filmMoment(scene: FilmScene, t: Seconds): FilmMoment {
  const { plan, times, placed, cues, mirrored } = scene
  const leg = plan.legs.find((l) => t >= l.start - l.timeline.lead && t < l.start + l.timeline.body) ?? null
  const chapter = plan.chapters.filter((c) => c.at <= t).at(-1)
  const idle = { count: '', sub: '', countingIn: false, now: '', beside: '', caution: '' }
  if (!leg) {
    const next = plan.legs.find((l) => l.start > t) ?? plan.legs.at(-1)
    const { songStart: from = 0, songEnd: to = 0, speed = 1 } = next?.timeline ?? {}
    const pose = poseAt(scene, next?.timeline.from ?? 0)
    return { ...idle, speedName: chapter?.name ?? '', song: null, piece: { from, to }, speed, next: '', pose }
  }
  const { timeline } = leg
  const into = t - leg.start
  const song = timeline.songStart + into * timeline.speed
  const tick: Ticks = into < 0 ? timeline.from : Math.floor(tickOfTime(times, song) + 1e-6)
  const seen = {
    ...{ speedName: chapter?.name ?? '', song, speed: timeline.speed },
    piece: { from: timeline.songStart, to: timeline.songEnd },
    next: nextIn(placed, cues, into < 0 ? tick - 1 : tick, mirrored),
    pose: poseAt(scene, tick),
  }
  if (into < 0) {
    const said = timeline.countIn.filter((e) => e.time <= into + 1e-6).at(-1)
    return { ...idle, ...seen, count: said?.call ?? '', countingIn: true }
  }
  const lines = nowIn(cues, tick)
  const words = (line: (typeof lines)[number]) =>
    line.cues.map((c) => [cueLine(c, mirrored), manner(c, mirrored)].filter(Boolean).join(', ')).join(' · ')
  const cautions = lines.flatMap((l) => l.cues.flatMap((c) => (c.caution ? [`mind the ${c.caution}`] : [])))
  const { number, sub } = saidCount(placed, cues, tick)
  return {
    ...seen,
    ...{ count: number, sub, countingIn: false },
    now: lines[0] ? words(lines[0]) : '',
    beside: lines
      .slice(1)
      .map((l) => `${l.layer}: ${words(l)}`)
      .join('   '),
    caution: cautions.join(', '),
  }
}

function nextIn(
  placed: readonly PlacedPhrase[],
  cues: readonly DancedCue[],
  tick: Ticks,
  mirrored: boolean,
): string {
  const at = cues.find((c) => c.at > tick)?.at
  if (at === undefined) return ''
  const row = phraseAt(placed, at)
  const words = cues.filter((c) => c.at === at).map((c) => cueLine(c, mirrored))
  return `${row ? `${labelIn(row, at)} ` : ''}${words.join(' · ')}`
}

function poseAt({ steps, cues, mirrored }: FilmScene, tick: Ticks): Pose {
  const here: BodyState = stepAt(steps, tick) ?? START
  const running = nowIn(cues, tick).flatMap((l) => l.cues)
  const arms = armsOf(running)
  const { weight, facing, level } = here
  return {
    weight: mirrored && (weight === 'left' || weight === 'right') ? otherSide(weight) : weight,
    facing: mirrored && facing !== 'unknown' ? mirrorFacing(facing) : facing,
    level,
    arms: mirrored && arms ? otherSide(arms) : arms,
    lies: liesIn(running),
  }
}
