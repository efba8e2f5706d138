import type { Bpm, Ratio, Seconds } from './units'

/** The speeds Azalea plays at, as ratios of full tempo. */
export const SLOWEST: Ratio = 0.4
export const FASTEST: Ratio = 1.1

/** Seconds of one count at a tempo and speed: 96 BPM at 0.75 is 0.8333 s. */
export function countSeconds(tempo: Bpm, speed: Ratio = 1): Seconds {
  return 60 / (tempo * speed)
}

/** Tempo heard at a speed: 96 BPM at 0.75 is 72 BPM. */
export function tempoAt(tempo: Bpm, speed: Ratio): Bpm {
  return tempo * speed
}

/** MIDI tempo meta event value (Standard MIDI File 1.0): microseconds per quarter note. */
export function midiTempo(tempo: Bpm): number {
  return Math.round(60_000_000 / tempo)
}

/** Whole eights and the counts left over in a stretch of music at a steady tempo. */
export function eightsIn(duration: Seconds, tempo: Bpm): { beats: number; eights: number; counts: number } {
  const beats = (duration * tempo) / 60
  const eights = Math.floor(beats / 8)
  return { beats, eights, counts: beats - eights * 8 }
}

/** A speed inside the playable range, rounded to whole percent. */
export function clampSpeed(speed: Ratio): Ratio {
  return Math.round(Math.min(FASTEST, Math.max(SLOWEST, speed)) * 100) / 100
}

/** "1:05" or, with tenths, "1:05.3". Negative times keep their sign. */
export function clockText(t: Seconds, tenths = false): string {
  const sign = t < 0 ? '-' : ''
  const unit = tenths ? 10 : 1
  const whole = tenths ? Math.round(Math.abs(t) * unit) : Math.floor(Math.abs(t) + 1e-6)
  const minutes = Math.floor(whole / (60 * unit))
  const rest = whole - minutes * 60 * unit
  const seconds = String(Math.floor(rest / unit)).padStart(2, '0')
  return `${sign}${minutes}:${seconds}${tenths ? `.${rest % unit}` : ''}`
}
