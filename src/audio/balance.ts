import { type DrillEvent, eventsOfLeg, type Leg, type SaidEvent, songOf } from '@/core/drill'
import {
  balanceOf,
  factorsOf,
  joinSaid,
  loudnessOfMix,
  stepBackLevel,
  stepsBack,
  USUAL_STEP_BACK,
  USUAL_VOLUMES,
  type Volumes,
} from '@/core/loudness'
import type { SongMeasure } from '@/core/stretch'
import type { Seconds } from '@/core/time'
import { energyOf } from './energy'
import type { CountSound } from './schedule'

/** What sounds in a repetition from a place in its body on, in order. @param into null for all of it, from what leads into it on */
export function eventsFrom(leg: Leg, into: Seconds | null): (DrillEvent | SaidEvent)[] {
  return [...eventsOfLeg(leg), ...leg.timeline.said]
    .filter((e) => into === null || e.time >= into - 1e-6 || leg.countedIn)
    .sort((a, b) => a.time - b.time)
}

/** When something is said in it. */
export const saidIn = (sounds: readonly CountSound[]) =>
  joinSaid(
    sounds
      .filter(({ to }) => to === 'voice')
      .map(({ at, buffer }) => ({ from: at, to: at + buffer.duration })),
  )

/** A repetition from a place in its body on, and what sounds in it. */
export interface Heard {
  leg: Leg
  into: Seconds
  sounds: readonly CountSound[]
}

/**
 * By how much all that is heard is made louder or quieter, so that it is as loud as it should be at the usual volumes: a person's
 * own volumes make it louder or quieter than that.
 * @param volumes only what sounds at all counts
 */
export function balanceFor(heard: readonly Heard[], measure: SongMeasure, volumes: Volumes): number {
  const usual = { ...USUAL_VOLUMES }
  for (const part of ['music', 'clicks', 'voice'] as const) if (volumes[part] === 0) usual[part] = 0
  const by = factorsOf(usual, measure.loudness)
  const sounds = heard.flatMap((h) => h.sounds)
  const songs = heard.map(({ leg, into }) => {
    const { before, from, seconds } = songOf(leg.timeline, leg.countedIn, into)
    return { at: leg.start + into - before, seconds, from, speed: leg.timeline.speed, by: by.music }
  })
  return balanceOf(
    loudnessOfMix(
      sounds.map(({ at, buffer, to }) => ({
        at,
        pieces: energyOf(buffer),
        by: to === 'click' ? by.clicks : by.voice,
      })),
      songs,
      measure.pieces,
      stepsBack(saidIn(sounds), by.voice ? stepBackLevel(USUAL_STEP_BACK) : 1),
    ),
  )
}
