import { describe, expect, it } from 'vitest'
import { renderDemoSong } from '../../../demo/song'
import { piece } from './match.test-tools'
import { packTrace, TraceMaker, traceOf, unpackTrace } from './trace'

const { left, sampleRate } = renderDemoSong()
const { samples, rate } = piece({ rate: sampleRate, samples: left }, 3, 21.37)

describe('the trace of a sound', () => {
  it('is the same to the bit however the sound comes: whole, or in pieces of any length', () => {
    const whole = packTrace(traceOf(samples, rate))
    for (const length of [960, 1024, 7777, 100_000]) {
      const maker = new TraceMaker(rate)
      for (let at = 0; at < samples.length; at += length) maker.add(samples.subarray(at, at + length))
      expect(Buffer.from(packTrace(maker.finish())).equals(whole)).toBe(true)
    }
  })

  it('is empty of nothing, and of silence says nothing', () => {
    expect(new TraceMaker(48_000).finish()).toMatchObject({ chroma: new Float32Array(0) })
    const silent = traceOf(new Float32Array(48_000), 48_000)
    expect(silent.chroma.every((x) => x === 0) && silent.data.every((x) => x === 0)).toBe(true)
    expect(unpackTrace(packTrace(silent))?.frames).toBe(silent.frames)
  })
})
