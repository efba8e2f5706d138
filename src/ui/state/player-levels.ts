import type { Volumes } from '@/audio/conductor'

/* What this device last had: how loud, and whose voice counts. */

/** What sounds in a drill. */
export type Sounding = 'counts' | 'music' | 'both'

export const VOLUMES: Volumes = { music: 0.7, clicks: 0.45, voice: 0.9 }
const KEPT = 'azalea-levels'
const OWN_VOICE = 'azalea-own-voice'

/** Volumes as this device last had them. */
export function keptVolumes(): Volumes {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Volumes>
    const one = (k: keyof Volumes) =>
      typeof kept[k] === 'number' && kept[k] >= 0 && kept[k] <= 1 ? kept[k] : VOLUMES[k]
    return { music: one('music'), clicks: one('clicks'), voice: one('voice') }
  } catch {
    return VOLUMES
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
  music: sound === 'counts' ? 0 : music,
  clicks: sound === 'music' ? 0 : clicks,
  voice: sound === 'music' ? 0 : voice,
})
