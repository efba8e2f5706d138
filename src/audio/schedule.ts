import type { DrillEvent, SaidEvent } from '@/core/drill'
import type { Seconds } from '@/core/time'
import { pieceSound, type Sounds } from './sounds'

/** Where clicks and voice go. */
export interface CountOutputs {
  click: AudioNode
  voice: AudioNode
}

/** What sounds for a count, and when it begins. */
export interface CountSound {
  buffer: AudioBuffer
  to: keyof CountOutputs
  at: Seconds
}

/**
 * What sounds for an event: its click begins on its place, a spoken count and a piece of a recording have their stress there.
 * @param origin time of event time 0
 */
export function countSounds(
  context: BaseAudioContext,
  sounds: Sounds,
  e: DrillEvent | SaidEvent,
  origin: Seconds,
): CountSound[] {
  const when = origin + e.time
  if ('piece' in e) {
    const buffer = pieceSound(context, sounds, e)
    return buffer ? [{ buffer, to: 'voice', at: when - (e.piece.stress - e.piece.from) }] : []
  }
  const click: CountSound = {
    buffer: e.kind === 'sub' ? sounds.sub : e.accent ? sounds.accent : sounds.click,
    to: 'click',
    at: when,
  }
  const spoken = sounds.own?.get(e.call) ?? sounds.voice.get(e.call)
  return spoken ? [click, { buffer: spoken.buffer, to: 'voice', at: when - spoken.stress }] : [click]
}

/**
 * Puts events on the audio clock, each on its sample.
 * @param origin context time of event time 0
 * @returns the sources, so that they can be stopped
 */
export function scheduleEvents(
  context: BaseAudioContext,
  out: CountOutputs,
  sounds: Sounds,
  events: readonly (DrillEvent | SaidEvent)[],
  origin: Seconds,
): AudioBufferSourceNode[] {
  const due = events.filter((e) => origin + e.time >= context.currentTime - 0.02)
  return due.flatMap((e) =>
    countSounds(context, sounds, e, origin).map(({ buffer, to, at }) => {
      const source = context.createBufferSource()
      source.buffer = buffer
      source.connect(out[to])
      // A voice that should have begun already starts now, its stress a little late, rather than not at all.
      source.start(Math.max(at, context.currentTime))
      return source
    }),
  )
}
