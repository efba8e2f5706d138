/* The stretching of signalsmith-stretch without its worklet: a worklet is asked for 128 samples at a time and seeks anew for
   each, here a sound runs through in one go, in half the time. */

/** What the package's worklet holds of its program. */
interface Held {
  wasmReady?: boolean
  wasmModule: {
    HEAP8: { buffer: ArrayBuffer }
    _inputLatency(): number
    _outputLatency(): number
    _seek(samples: number, rate: number): void
    _process(inputs: number, outputs: number): void
  }
  /** Samples that fit into a buffer. */
  bufferLength: number
  buffersIn: number[]
  buffersOut: number[]
}
type Processor = new (options: { numberOfOutputs: number; outputChannelCount: number[] }) => Held

/** A sound, and what of it is to be heard. */
export interface StretchPiece {
  channels: readonly Float32Array[]
  /** Samples a second, of what comes out too. */
  rate: number
  /** Where in the sound what comes out begins, in seconds; what lies outside of the sound is silence. */
  from: number
  /** Speed of what comes out; its pitch stays. */
  speed: number
  /** Samples that come out. */
  frames: number
}

/** Samples made at one time; they fit into the program's buffers at any speed up to double. */
const BLOCK = 1024
/** The program is read in some tens of milliseconds; it does not say when it cannot be. */
const TRIES = 1000
/** Progress is told so often. */
const TOLD = 64 * BLOCK

/** The package's processor: it registers itself where it believes to be in a worklet. */
async function processor(rate: number): Promise<Processor> {
  let found: Processor | null = null
  Object.assign(globalThis, {
    sampleRate: rate,
    AudioWorkletProcessor: class {
      port = { postMessage: () => undefined, onmessage: null }
    },
    registerProcessor: (_name: string, made: Processor) => {
      found = made
    },
  })
  await import('signalsmith-stretch')
  known ??= found
  if (!known) throw new Error('the stretching has no processor')
  return known
}
let known: Processor | null = null

/** @returns one array of `frames` samples for each channel, two at most. @param told 0..1 */
export async function stretched(
  piece: StretchPiece,
  told: (share: number) => void = () => undefined,
): Promise<Float32Array<ArrayBuffer>[]> {
  const { rate, from, speed, frames } = piece
  const channels = piece.channels.slice(0, 2)
  const held = new (await processor(rate))({ numberOfOutputs: 1, outputChannelCount: [channels.length] })
  for (let tries = 0; !held.wasmReady; tries++) {
    if (tries > TRIES) throw new Error('the stretching did not begin')
    await new Promise((again) => setTimeout(again, 1))
  }
  const { wasmModule: program, bufferLength, buffersIn, buffersOut } = held
  const [before, after] = [program._inputLatency(), program._outputLatency()]
  /** The program has to have heard so many samples of the sound when the t-th sample comes out. */
  const heardAt = (t: number) => Math.round((from + ((t + after) / rate) * speed) * rate) + before
  const give = (a: number, b: number) => {
    for (const [c, sound] of channels.entries()) {
      const to = new Float32Array(program.HEAP8.buffer, buffersIn[c] as number, b - a)
      to.fill(0)
      const [s, e] = [Math.max(0, a), Math.min(sound.length, b)]
      if (e > s) to.set(sound.subarray(s, e), s - a)
    }
  }
  const out = channels.map(() => new Float32Array(frames))
  let heard = heardAt(0)
  give(heard - bufferLength, heard)
  program._seek(bufferLength, speed)
  for (let t = 0; t < frames; t += BLOCK) {
    const n = Math.min(BLOCK, frames - t)
    const next = heardAt(t + n)
    give(heard, next)
    program._process(next - heard, n)
    heard = next
    for (const [c, to] of out.entries())
      to.set(new Float32Array(program.HEAP8.buffer, buffersOut[c] as number, n), t)
    if (t % TOLD === 0) told(t / frames)
  }
  return out
}
