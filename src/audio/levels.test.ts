import { describe, expect, it } from 'vitest'
import { firstLeg } from '@/core/drill'
import { energyPieces, factorsOf, loudnessOf, stepBackLevel, USUAL_VOLUMES } from '@/core/loudness'
import { balanceFor, eventsFrom } from './balance'
import { counts, Device } from './device.test-tools'
import { energyOf } from './energy'
import { Output } from './output'
import type { CountSound } from './schedule'
import { StepBack } from './step-back'

/** A level that remembers what was put on its clock, and what was taken back. */
function device() {
  const steps: { at: number; level: number }[] = []
  const context = {
    currentTime: 10,
    createGain: () => ({
      gain: {
        cancelScheduledValues(from: number) {
          for (let i = steps.length - 1; i >= 0; i--) if ((steps[i]?.at as number) >= from) steps.splice(i, 1)
        },
        setTargetAtTime: (level: number, at: number) => steps.push({ at, level }),
      },
      connect: (to: unknown) => to,
    }),
  }
  const from = (t: number) => steps.filter((s) => s.at > t).map(({ at, level }) => [at, level])
  return { context, steps, from }
}

describe('the song under what is said', () => {
  it('steps back before each word and comes again after it; what is near one another is one', () => {
    const { context, from } = device()
    const back = new StepBack(context as never)
    back.setDecibels(6)
    back.add([
      { from: 11, to: 11.4 },
      { from: 14, to: 14.3 },
    ])
    // Of the next repetition: its first word follows at once.
    back.add([{ from: 14.5, to: 14.8 }])
    const low = stepBackLevel(6)
    expect(from(10)).toEqual([
      [10.95, low],
      [11.4, 1],
      [13.95, low],
      [14.8, 1],
    ])
    // Another depth holds at once, also for what is being said.
    context.currentTime = 11.2
    back.setDecibels(12)
    expect(from(11.199)).toEqual([
      [11.2, stepBackLevel(12)],
      [11.4, 1],
      [13.95, stepBackLevel(12)],
      [14.8, 1],
    ])
  })
  it('does not step back under what is taken back, and comes again after what is being said', () => {
    const { context, from } = device()
    const back = new StepBack(context as never)
    back.setDecibels(6)
    back.add([
      { from: 11, to: 11.4 },
      { from: 12, to: 12.4 },
    ])
    context.currentTime = 11.1
    back.takeBack(11.16)
    expect(from(11.09)).toEqual([
      [11.1, stepBackLevel(6)],
      [11.4, 1],
    ])
    back.stop()
    expect(from(11.09)).toEqual([[11.1, 1]])
  })
})

describe('the balance of what is heard', () => {
  const leg = firstLeg(counts(16, 1, 0), 0)
  const tone = (hz: number, seconds: number, level: number) =>
    Float32Array.from(
      { length: seconds * 44_100 },
      (_, i) => level * Math.sin((2 * Math.PI * hz * i) / 44_100),
    )
  const buffer = (samples: Float32Array) =>
    ({
      ...{
        length: samples.length,
        numberOfChannels: 1,
        sampleRate: 44_100,
        duration: samples.length / 44_100,
      },
      copyFromChannel: (to: Float32Array) => to.set(samples),
    }) as unknown as AudioBuffer
  const word = buffer(tone(500, 0.3, 0.3))
  const sounds: CountSound[] = leg.timeline.counts.map(({ time: at }) => ({ at, buffer: word, to: 'voice' }))
  const song = tone(300, 8, 0.5)
  const measure = {
    ...{ strokes: [], pieces: energyPieces([song], 44_100), loudness: loudnessOf([song], 44_100) },
  }
  const heard = [{ leg, into: 0, sounds }]
  it('brings song and counts together to where they should be, and counts alone', () => {
    for (const music of [0.7, 0]) {
      const by = balanceFor(heard, measure, { ...USUAL_VOLUMES, music })
      const { music: m, voice } = factorsOf({ ...USUAL_VOLUMES, music }, measure.loudness)
      // Song and words one after another, by another way: their mean squares add up.
      const out = song.map((x, i) => x * m * (i % 22_050 < 0.3 * 44_100 ? stepBackLevel(6) : 1) * by)
      for (const { at } of sounds)
        tone(500, 0.3, 0.3).forEach((x, i) => {
          const k = Math.round(at * 44_100) + i
          out[k] = (out[k] as number) + x * voice * by
        })
      expect(Math.abs((loudnessOf([out], 44_100) as number) + 15)).toBeLessThan(1)
    }
  })
  it('is of the usual volumes: a person’s own make it louder or quieter', () => {
    const usual = balanceFor(heard, measure, USUAL_VOLUMES)
    expect(balanceFor(heard, measure, { music: 0.2, clicks: 1, voice: 0.4 })).toBe(usual)
    // What does not sound does not count.
    expect(balanceFor(heard, measure, { ...USUAL_VOLUMES, voice: 0 })).toBeGreaterThan(usual)
  })
})

describe('where no worklet can be had', () => {
  it('what is too loud is bent under the ceiling, and all else is left', async () => {
    const shaper = { curve: new Float32Array(0), oversample: '', connect: (to: unknown) => to }
    const gains: { gain: { value: number } }[] = []
    const context = {
      createGain: () => {
        const node = { gain: { value: 1 }, connect: (to: unknown) => to }
        gains.push(node)
        return node
      },
      createWaveShaper: () => shaper,
      destination: {},
    }
    const output = await Output.open(context as never)
    expect(output.delay).toBe(0)
    const { curve } = shaper
    const at = (x: number) =>
      curve[Math.round(((x * (gains[1]?.gain.value as number) + 1) / 2) * (curve.length - 1))]
    expect(at(0)).toBe(0)
    expect(at(0.5)).toBeCloseTo(0.5, 3)
    expect(at(-0.6)).toBeCloseTo(-0.6, 3)
    expect(at(1)).toBeLessThan(0.892)
    for (const x of curve) expect(Math.abs(x)).toBeLessThanOrEqual(10 ** (-1 / 20))
    for (let i = 1; i < curve.length; i++) expect(curve[i]).toBeGreaterThanOrEqual(curve[i - 1] as number)
  })
})

describe('what sounds in a repetition', () => {
  const timeline = counts(8, 1, 2)
  const from = (into: number | null, countedIn: boolean) =>
    eventsFrom({ k: 0, start: 10, timeline, countedIn }, into).map((e) => e.time)

  it('is all of it, counting in first, in order', () => {
    expect(from(null, true)).toEqual([-1, -0.5, 0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5])
  })
  it('is what lies at a place and after it where that is begun in the midst', () => {
    expect(from(2, false)).toEqual([2, 2.5, 3, 3.5])
    expect(from(2.1, false)).toEqual([2.5, 3, 3.5])
  })
  it('has its energy worked out once', () => {
    const buffer = new Device().createBuffer(1, 44_100) as never
    expect(energyOf(buffer)).toBe(energyOf(buffer))
    expect(energyOf(new Device().createBuffer(1, 44_100) as never)).not.toBe(energyOf(buffer))
  })
})
