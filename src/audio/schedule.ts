import type { DrillEvent, SaidEvent } from '@/core/drill'
import type { Seconds } from '@/core/time'
import { pieceSound, type Sounds } from './sounds'

/** Where clicks and voice go. */
export interface CountOutputs {
  click: AudioNode
  voice: AudioNode
}

/**
 * Puts events on the audio clock: every click starts on its sample, every spoken count and every piece of a
 * recording with its stress there.
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
  const made: AudioBufferSourceNode[] = []
  const play = (buffer: AudioBuffer, to: AudioNode, when: Seconds) => {
    const source = context.createBufferSource()
    source.buffer = buffer
    source.connect(to)
    // A voice that should have begun already starts now, its stress a little late, rather than not at all.
    source.start(Math.max(when, context.currentTime))
    made.push(source)
  }
  for (const e of events) {
    const when = origin + e.time
    if (when < context.currentTime - 0.02) continue
    if ('piece' in e) {
      const buffer = pieceSound(context, sounds, e)
      if (buffer) play(buffer, out.voice, when - (e.piece.stress - e.piece.from))
      continue
    }
    play(e.kind === 'sub' ? sounds.sub : e.accent ? sounds.accent : sounds.click, out.click, when)
    const spoken = sounds.own?.get(e.call) ?? sounds.voice.get(e.call)
    if (spoken) play(spoken.buffer, out.voice, when - spoken.stress)
  }
  return made
}
