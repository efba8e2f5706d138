import { energyPieces } from '@/core/loudness'
import { channelsOf } from './song'

const known = new WeakMap<AudioBuffer, Float64Array>()

/** A sound's weighted energy, worked out once. */
export function energyOf(buffer: AudioBuffer): Float64Array {
  const there = known.get(buffer)
  if (there) return there
  const pieces = energyPieces(channelsOf(buffer), buffer.sampleRate)
  known.set(buffer, pieces)
  return pieces
}
