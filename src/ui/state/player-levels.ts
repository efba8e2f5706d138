import { APP_VOICES, type AppVoice } from '@/core/drill'
import { STEPS_BACK, USUAL_STEP_BACK, USUAL_VOLUMES, type Volumes } from '@/core/loudness'

/* What this device last had: how loud, and whose voice counts. */

/** What sounds in a drill. */
export type Sounding = 'counts' | 'music' | 'both' | 'none'

const KEPT = 'azalea-levels'
const STEP_BACK = 'azalea-step-back'
const APP_VOICE = 'azalea-app-voice'
const OWN_VOICE = 'azalea-own-voice'

/** Volumes as this device last had them. */
export function keptVolumes(): Volumes {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Volumes>
    const one = (k: keyof Volumes) =>
      typeof kept[k] === 'number' && kept[k] >= 0 && kept[k] <= 1 ? kept[k] : USUAL_VOLUMES[k]
    return { music: one('music'), clicks: one('clicks'), voice: one('voice') }
  } catch {
    return USUAL_VOLUMES
  }
}

/** A browser that keeps nothing begins with the usual ones next time. */
export function keepVolumes(volumes: Volumes): void {
  try {
    localStorage.setItem(KEPT, JSON.stringify(volumes))
  } catch {
    // See above.
  }
}

/** By how many decibels the song steps back under what is said, as this device last had it. */
export function keptStepBack(): number {
  try {
    const kept = Number(localStorage.getItem(STEP_BACK) ?? Number.NaN)
    return STEPS_BACK.find((d) => d === kept) ?? USUAL_STEP_BACK
  } catch {
    return USUAL_STEP_BACK
  }
}

/** A browser that keeps nothing begins with the usual next time. */
export function keepStepBack(decibels: number): void {
  try {
    localStorage.setItem(STEP_BACK, String(decibels))
  } catch {
    // See above.
  }
}

/** Which voice of the app counts on this device. */
export function keptAppVoice(): AppVoice {
  try {
    const kept = localStorage.getItem(APP_VOICE)
    return APP_VOICES.find((x) => x === kept) ?? APP_VOICES[0]
  } catch {
    return APP_VOICES[0]
  }
}

/** A browser that keeps nothing begins with the usual one next time. */
export function keepAppVoice(voice: AppVoice): void {
  try {
    localStorage.setItem(APP_VOICE, voice)
  } catch {
    // See above.
  }
}

/** Whether this device counts in the instructor's own voice. */
export function keptOwnVoice(): boolean {
  try {
    return localStorage.getItem(OWN_VOICE) === 'yes'
  } catch {
    return false
  }
}

/** A browser that keeps nothing asks again next time. */
export function keepOwnVoice(own: boolean): void {
  try {
    localStorage.setItem(OWN_VOICE, own ? 'yes' : 'no')
  } catch {
    // See above.
  }
}

/** The volumes as they are heard where only a part of it sounds. */
export const heardVolumes = ({ music, clicks, voice }: Volumes, sound: Sounding): Volumes => ({
  music: sound === 'counts' || sound === 'none' ? 0 : music,
  clicks: sound === 'music' || sound === 'none' ? 0 : clicks,
  voice: sound === 'music' || sound === 'none' ? 0 : voice,
})
