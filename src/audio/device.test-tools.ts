/* A sound device without sound: its clock goes only when told, and it remembers what was put on it. */

import { type DrillTimeline, drillTimeline } from '@/core/drill'
import { placePhrases } from '@/core/routine'

/** A phrase of so many counts, half a second each. @param countIn counts before it */
export function counts(n: number, speed = 1, countIn = 4): DrillTimeline {
  const times = Array.from({ length: n + 1 }, (_, k) => k * 0.5)
  const phrases = [{ length: n, feel: 'straight' as const, pickUp: false }]
  const placed = placePhrases({ phrases, sections: [], usual: 8 })
  return drillTimeline({ times, placed, from: 0, to: n * 24, cues: [] }, speed, countIn)
}

/** A sound that was put on the clock. */
export interface FakeSource {
  buffer: unknown
  onended: (() => void) | null
  /** What it was connected to. */
  to: unknown
  when: number
  offset: number
  stopped: boolean
  connect: (to: unknown) => unknown
  start: (when: number, offset?: number) => void
  stop: (at?: number) => void
}

export class Device {
  currentTime = 5
  sampleRate = 44_100
  outputLatency = 0
  baseLatency = 0
  state = 'running'
  destination = {}
  sources: FakeSource[] = []
  stopped = 0
  /** Levels of all parts, and when they were asked for. */
  levels: [number, number][] = []
  addEventListener() {}
  resume = async () => {}

  /** When each sound begins. */
  get started(): number[] {
    return this.sources.map((s) => s.when)
  }

  createGain() {
    const put = (level: number, at: number) => this.levels.push([level, at])
    const gain = {
      setTargetAtTime: put,
      setValueAtTime: put,
      linearRampToValueAtTime: put,
      cancelScheduledValues() {},
    }
    const node = { gain, to: null as unknown, connect, disconnect }
    function connect(to: unknown) {
      node.to = to
      return to
    }
    function disconnect() {
      node.to = null
    }
    return node
  }

  createWaveShaper() {
    return { connect: (to: unknown) => to }
  }

  createBuffer(_: number, length: number, sampleRate = this.sampleRate) {
    const samples = new Float32Array(length)
    return {
      ...{ length, numberOfChannels: 1, sampleRate, duration: length / sampleRate },
      getChannelData: () => samples,
      copyFromChannel: (to: Float32Array) => to.set(samples),
    }
  }

  /** As many samples as there are bytes, all of them half of full scale. */
  async decodeAudioData(bytes: ArrayBuffer) {
    const buffer = this.createBuffer(1, bytes.byteLength)
    buffer.getChannelData().fill(0.5)
    return buffer
  }

  createBufferSource(): FakeSource {
    const device = this
    const source: FakeSource = {
      ...{ buffer: null, onended: null, to: null, when: Number.NaN, offset: 0, stopped: false },
      connect(to) {
        source.to = to
        return to
      },
      start(when, offset = 0) {
        Object.assign(source, { when, offset })
        device.sources.push(source)
      },
      stop() {
        source.stopped = true
        device.stopped++
      },
    }
    return source
  }
}
