import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { DrillTimeline } from '@/core/drill'
import { until } from '@/core/until.test-tools'
import { Conductor } from './conductor'
import { counts, Device } from './device.test-tools'

let device: Device
beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] })
  device = new Device()
  vi.stubGlobal('AudioContext', function AudioContext() {
    return device
  })
  // No words: every sound put on the clock is a click.
  vi.stubGlobal('fetch', async () => ({ json: async () => ({}) }))
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

/** Lets the device's clock and the timers go on together. */
function goOn(seconds: number, each = () => {}) {
  for (let i = 0; i < seconds * 20; i++) {
    device.currentTime += 0.05
    vi.advanceTimersByTime(50)
    each()
  }
}

describe('the conductor', () => {
  it('puts every click of a long song on the clock once, on its place, and only a few ahead', async () => {
    const conductor = await Conductor.open()
    let ended = 0
    const n = 600
    const first = counts(n)
    await conductor.play({ first, next: () => null, onEnd: () => ended++ })
    const begin = device.started[0] as number
    expect(device.started.length).toBeLessThan(10)
    let most = 0
    goOn(n * 0.5 + 4, () => {
      most = Math.max(most, device.started.filter((t) => t > device.currentTime).length)
    })
    expect(most).toBeLessThan(10)
    expect(device.started).toHaveLength(n + 4)
    device.started.forEach((t, k) => {
      expect(t).toBeCloseTo(begin + k * 0.5, 9)
    })
    expect(ended).toBe(1)
    expect(conductor.playing).toBe(false)
  })

  it('joins repetitions without a gap, and each is told once', async () => {
    const conductor = await Conductor.open()
    const told: number[] = []
    await conductor.play({
      first: counts(8),
      next: (k) => (k < 4 ? { timeline: counts(8), countIn: false } : null),
      onLeg: (leg) => told.push(leg.k),
    })
    const begin = device.started[0] as number
    goOn(30)
    expect(told).toEqual([0, 1, 2, 3, 4])
    expect(device.started.map((t) => Math.round((t - begin) * 1e6) / 1e6)).toEqual(
      Array.from({ length: 4 + 5 * 8 }, (_, k) => k * 0.5),
    )
  })

  it('tells of a repetition before the next one is shown, however late its own turn comes', async () => {
    const conductor = await Conductor.open()
    const told: number[] = []
    const next = () => ({ timeline: counts(8), countIn: false })
    await conductor.play({ first: counts(8), next, onLeg: (leg) => told.push(leg.k) })
    // Counted in for two seconds, four long.
    goOn(6)
    expect(told).toEqual([])
    device.currentTime += 0.2
    expect(conductor.now()?.leg.k).toBe(1)
    expect(told).toEqual([0])
  })

  it('tells of the last repetition, then of the end, also to who asks for the place meanwhile', async () => {
    const conductor = await Conductor.open()
    const told: string[] = []
    const onLeg = () => {
      conductor.now()
      told.push('repetition')
    }
    await conductor.play({ first: counts(8), next: () => null, onLeg, onEnd: () => told.push('end') })
    goOn(10)
    expect(told).toEqual(['repetition', 'end'])
  })

  it('says so where the device does not start', async () => {
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] })
    device.resume = () => new Promise(() => {})
    const conductor = await Conductor.open()
    const played = expect(conductor.play({ first: counts(8), next: () => null })).rejects.toThrow(
      'does not start',
    )
    await vi.advanceTimersByTimeAsync(8200)
    await played
    expect(conductor.playing).toBe(false)
    expect(device.started).toEqual([])
  })

  it('stops what waits, and puts nothing more on the clock', async () => {
    const conductor = await Conductor.open()
    await conductor.play({ first: counts(100), next: () => null })
    goOn(3)
    const before = device.started.length
    conductor.stop()
    expect(device.stopped).toBeGreaterThan(0)
    goOn(3)
    expect(device.started).toHaveLength(before)
    expect(conductor.now()).toBeNull()
  })

  it('knows what is heard behind the delay the device states, which is not what is being put on the clock', async () => {
    const conductor = await Conductor.open()
    await conductor.play({ first: counts(8), next: () => null })
    const at = () => conductor.placeAt(device.currentTime + 4)?.into ?? Number.NaN
    const plain = at()
    device.baseLatency = 0.02
    expect(at()).toBeCloseTo(plain - 0.02, 9)
    // The whole way to the ear, where it is known, counts instead.
    device.outputLatency = 0.15
    expect(at()).toBeCloseTo(plain - 0.15, 9)
  })
  it('goes on at another speed from the same place, every click once', async () => {
    const conductor = await Conductor.open()
    const first = counts(24)
    const next = vi.fn(() => null)
    await conductor.play({ first, next, into: 0 })
    goOn(3)
    device.stopped = 0
    const before = device.started.filter((t) => t < device.currentTime + 0.06).length
    const slow = (t: DrillTimeline) => counts(t.to / 24, 0.5)
    const from = device.currentTime + 0.06
    // What was put on the clock for later is taken back.
    const later = device.started.filter((t) => t >= from).length
    conductor.layAnew(slow)
    expect(device.stopped).toBe(later)
    goOn(30)
    const begin = device.started[0] as number
    const into = from - begin
    const clicks = device.started.filter((t) => t < from)
    expect(clicks).toHaveLength(before)
    const anew = device.started.slice(before + later)
    // Where the clicks that are left would have been, twice as far from the change.
    const expected = Array.from({ length: 24 }, (_, k) => k * 0.5)
      .filter((t) => t >= into)
      .map((t) => from + (t - into) * 2)
    expect(anew).toHaveLength(expected.length)
    for (const [k, t] of anew.entries()) expect(t).toBeCloseTo(expected[k] as number, 6)
    expect(conductor.playing).toBe(false)
    expect(next).toHaveBeenCalledOnce()
  })
  it('lets the song step back under words that are heard, and only under those', async () => {
    const word = { buffer: device.createBuffer(1, 13_230), stress: 0 } as never
    const voice = async () => ({ voice: new Map([['1', word]]), recordings: new Map() })
    const conductor = await Conductor.open({ voice })
    const volumes = { music: 0.7, clicks: 0.4, voice: 0.9 }
    const low = () => device.levels.some(([level]) => Math.abs(level - 10 ** (-9 / 20)) < 1e-9)
    conductor.setStepBack(9)
    conductor.setVolumes({ ...volumes, voice: 0 })
    await conductor.play({ first: counts(8), next: () => null, into: 0 })
    expect(low()).toBe(false)
    conductor.setVolumes(volumes)
    expect(low()).toBe(true)
  })
  it('makes a quiet song as loud as any once it is known how loud it is', async () => {
    const conductor = await Conductor.open()
    const measure = { strokes: [], pieces: [], loudness: -30 }
    await conductor.setSong({} as AudioBuffer, Promise.resolve(measure))
    // 12.5 dB louder, to -17.5 LUFS.
    const as =
      (decibels: number) =>
      ([level]: [number, number]) =>
        Math.abs(level - 10 ** (decibels / 20)) < 1e-9
    await until(() => expect(device.levels.some(as(12.5))).toBe(true))
    // The next song is another one: it is not as quiet.
    await conductor.setSong({} as AudioBuffer, new Promise(() => {}))
    device.levels = []
    conductor.setVolumes({ music: 0.7, clicks: 0.45, voice: 0.9 })
    expect(device.levels.some(as(12.5))).toBe(false)
    expect(device.levels.some(as(-7.5))).toBe(true)
  })
  it('begins at the speed that was asked for before it was heard', async () => {
    const conductor = await Conductor.open()
    await conductor.play({ first: counts(4), next: () => null, into: 0 })
    const [begin] = device.started
    conductor.layAnew((t) => counts(t.to / 24, 0.5))
    expect(device.stopped).toBe(4)
    goOn(6)
    expect(device.started.slice(4)).toEqual([0, 1, 2, 3].map((t) => (begin as number) + t))
  })
  it('lays the next repetition anew where this one is nearly over', async () => {
    const conductor = await Conductor.open()
    const next = vi.fn(() => ({ timeline: counts(2), countIn: false }))
    await conductor.play({ first: counts(2), next, into: 0 })
    const begin = device.started[0] as number
    // A second long, it has 50 ms left; what follows is on the clock.
    goOn(1.1)
    expect(device.currentTime).toBeCloseTo(begin + 0.94, 6)
    expect(device.started.map((t) => Math.round((t - begin) * 1e6) / 1e6)).toEqual([0, 0.5, 1, 1.5])
    conductor.layAnew((t) => counts(t.to / 24, 0.5))
    expect(device.stopped).toBe(2)
    expect(device.started.slice(4).map((t) => Math.round((t - begin) * 1e6) / 1e6)).toEqual([1, 2])
    expect(conductor.now()?.leg.start).toBeCloseTo(begin, 6)
  })
  it('lays nothing anew where nothing plays, in a count-in, or at the very end', async () => {
    const conductor = await Conductor.open()
    const lay = vi.fn((t: DrillTimeline) => t)
    conductor.layAnew(lay)
    await conductor.play({ first: counts(4), next: () => null })
    conductor.layAnew(lay)
    expect(lay).not.toHaveBeenCalled()
    // Counted in for four counts of half a second, and nearly to the end of four more.
    goOn(4.1)
    conductor.layAnew(lay)
    expect(lay).not.toHaveBeenCalled()
  })
})
