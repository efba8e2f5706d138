import * as v from 'valibot'
import { wordsOf } from '@/core/formats/said'
import type { Seconds } from '../core/time'

/** What the worklet hands on. */
const Heard = v.object({
  at: v.pipe(v.number(), v.finite()),
  block: v.custom<Float32Array<ArrayBuffer>>((x) => x instanceof Float32Array),
})

const MODULE = '/listen/microphone.js'

/** Why there is no microphone or camera, in words for people. */
export function refused(error: unknown, what: 'microphone' | 'camera'): string {
  const name = error instanceof DOMException ? error.name : ''
  if (name === 'NotAllowedError')
    return `The browser was not allowed to use the ${what}. Allow it beside the address, then try again.`
  if (name === 'NotFoundError') return `There is no ${what} at this computer.`
  if (name === 'NotReadableError') return `Another program holds the ${what}.`
  return `The ${what} could not be opened: ${wordsOf(error)}`
}

/** The microphone as it is: a browser's own cleaning would swallow claps and shift them. */
const PLAIN = { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 }

/**
 * Listens to the microphone on the clock of an audio context, until stopped.
 * @param heard gets mono blocks and the context time of their first sample; the way in is not taken away
 * @param lost told when the microphone is gone
 * @returns stops listening and lets go of the microphone
 * @throws Error in words for people
 */
export async function listenToMicrophone(
  context: AudioContext,
  heard: (block: Float32Array<ArrayBuffer>, at: Seconds) => void,
  lost: () => void = () => {},
): Promise<() => void> {
  if (!navigator.mediaDevices?.getUserMedia)
    throw new Error('This browser has no way to a microphone here. Open Azalea by localhost or https.')
  const stream = await navigator.mediaDevices.getUserMedia({ audio: PLAIN }).catch((error: unknown) => {
    throw new Error(refused(error, 'microphone'))
  })
  const close = () => {
    for (const track of stream.getTracks()) track.stop()
  }
  try {
    await context.audioWorklet.addModule(MODULE)
    const source = context.createMediaStreamSource(stream)
    const node = new AudioWorkletNode(context, 'microphone', { numberOfOutputs: 1 })
    node.port.onmessage = ({ data }: MessageEvent<unknown>) => {
      const { block, at } = v.parse(Heard, data)
      heard(block, at)
    }
    // Its output is silent; joined to the device, so that it is run.
    source.connect(node).connect(context.destination)
    stream.getAudioTracks()[0]?.addEventListener('ended', lost)
    return () => {
      node.port.onmessage = null
      source.disconnect()
      node.disconnect()
      close()
    }
  } catch (error) {
    close()
    throw error
  }
}
