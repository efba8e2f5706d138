import { CEILING, limiterDelay } from '@/core/loudness'
import type { Seconds } from '@/core/time'
import { MUSIC_MODULE } from './music'

/** What all sound goes through last: as loud as it is to be, and none of it clips. */
export class Output {
  readonly node: GainNode
  /** It is heard so much later than it was put in. */
  readonly delay: Seconds

  private constructor(private readonly context: BaseAudioContext) {
    this.node = context.createGain()
    this.delay = context.audioWorklet ? limiterDelay(context.sampleRate) / context.sampleRate : 0
  }

  /** @param moduleUrl of the worklet that limits */
  static async open(context: BaseAudioContext, moduleUrl = MUSIC_MODULE): Promise<Output> {
    const output = new Output(context)
    const [first, last] = await limiterIn(context, moduleUrl)
    output.node.connect(first)
    last.connect(context.destination)
    return output
  }

  /** Makes all that is heard from now on louder or quieter by a factor. */
  balance(factor: number): void {
    this.node.gain.setTargetAtTime(factor, this.context.currentTime, 0.01)
  }
}

/** Without worklets, as at addresses that are not safe, what is too loud is bent instead. */
async function limiterIn(
  context: BaseAudioContext,
  moduleUrl: string,
): Promise<readonly [first: AudioNode, last: AudioNode]> {
  if (!context.audioWorklet) return bending(context)
  await context.audioWorklet.addModule(moduleUrl)
  const limiter = new AudioWorkletNode(context, 'azalea-limiter', {
    outputChannelCount: [2],
    channelCount: 2,
    channelCountMode: 'explicit',
  })
  return [limiter, limiter]
}

/** Leaves what is under two thirds as it is, and bends what is above under the ceiling. */
function bending(context: BaseAudioContext): readonly [AudioNode, AudioNode] {
  const [straight, points, reach] = [0.65, 8193, 4]
  const curve = Float32Array.from({ length: points }, (_, i) => {
    const x = reach * ((2 * i) / (points - 1) - 1)
    const over = Math.abs(x) - straight
    if (over <= 0) return x
    return Math.sign(x) * (straight + (CEILING - straight) * Math.tanh(over / (CEILING - straight)))
  })
  const before = context.createGain()
  // A curve is looked up between −1 and 1.
  before.gain.value = 1 / reach
  const shaper = context.createWaveShaper()
  shaper.curve = curve
  shaper.oversample = '4x'
  before.connect(shaper)
  return [before, shaper]
}
