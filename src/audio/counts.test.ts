import { describe, expect, it } from 'vitest'
import type { DrillEvent, SaidEvent } from '@/core/drill'
import { Counts } from './counts'
import { Device } from './device.test-tools'
import { countSounds, scheduleEvents } from './schedule'
import { clicks, type Sounds } from './sounds'

const event = (time: number, what: Partial<DrillEvent> = {}): DrillEvent => ({
  ...{ time, tick: 0, kind: 'count', call: '', accent: false },
  ...what,
})
const said = (time: number, recording = 'rec'): SaidEvent =>
  ({ time, piece: { recording, from: 1, stress: 1.2, to: 1.5, at: 0 }, keep: 1 }) as never

function setUp() {
  const device = new Device()
  const context = device as never as BaseAudioContext
  const spoken = (stress: number) => ({ buffer: device.createBuffer(1, 4410) as never, stress })
  const sounds: Sounds = {
    ...clicks(context),
    as: 'clear',
    voice: new Map([['5', spoken(0.1)]]),
    recordings: new Map([['rec', { rate: 1000, samples: new Float32Array(2000).fill(0.5) }]]),
    pieces: new Map(),
  }
  const out = { click: { name: 'click' }, voice: { name: 'voice' } } as never
  return { device, context, sounds, out, spoken }
}

describe('what sounds for a count', () => {
  it('is a click on its place: higher on the 1, lower between counts', () => {
    const { context, sounds } = setUp()
    const of = (what: Partial<DrillEvent>) => countSounds(context, sounds, event(2, what), 10)
    expect(of({})).toEqual([{ buffer: sounds.click, to: 'click', at: 12 }])
    expect(of({ accent: true })).toEqual([{ buffer: sounds.accent, to: 'click', at: 12 }])
    expect(of({ kind: 'sub', accent: true })).toEqual([{ buffer: sounds.sub, to: 'click', at: 12 }])
    // Each begins with its onset, and dies away.
    const first = (b: AudioBuffer) => b.getChannelData(0)
    for (const b of [sounds.click, sounds.accent, sounds.sub]) {
      expect(first(b)[0]).toBe(1)
      expect(Math.abs(first(b).at(-1) as number)).toBeLessThan(0.01)
    }
    /** Changes of sign in a second, two each period. */
    const pitch = (b: AudioBuffer) =>
      first(b).filter((x, i, all) => i > 0 && x * (all[i - 1] as number) < 0).length / b.duration / 2
    expect([sounds.sub, sounds.click, sounds.accent].map((b) => Math.round(pitch(b) / 50) * 50)).toEqual([
      ...[800, 1150, 1750],
    ])
  })
  it('is its word too, with its stress on the place; the instructor’s own where there is one', () => {
    const { context, sounds, spoken } = setUp()
    const [, word] = countSounds(context, sounds, event(2, { call: '5' }), 10)
    expect(word).toEqual({ buffer: sounds.voice.get('5')?.buffer, to: 'voice', at: 11.9 })
    const own = spoken(0.25)
    sounds.own = new Map([['5', own]])
    expect(countSounds(context, sounds, event(2, { call: '5' }), 10)[1]).toEqual({
      ...{ buffer: own.buffer, to: 'voice', at: 11.75 },
    })
    expect(countSounds(context, sounds, event(2, { call: '6' }), 10)).toHaveLength(1)
  })
  it('is a piece of a recording, made once, with its stress on the place; nothing where it is not there', () => {
    const { context, sounds } = setUp()
    const [piece] = countSounds(context, sounds, said(2), 10)
    expect([piece?.to, piece?.buffer.length]).toEqual(['voice', 500])
    expect(piece?.at).toBeCloseTo(11.8)
    expect(countSounds(context, sounds, said(4), 10)[0]?.buffer).toBe(piece?.buffer)
    expect(countSounds(context, sounds, { ...said(4), keep: 0.7 }, 10)[0]?.buffer).not.toBe(piece?.buffer)
    expect(countSounds(context, sounds, said(2, 'gone'), 10)).toEqual([])
  })
  it('is put on the clock, each where it goes; what is over is not, a word that has begun starts now', () => {
    const { device, context, sounds, out } = setUp()
    const events = [event(-0.03), event(-0.01, { call: '5' }), event(1, { call: '5' })]
    const sources = scheduleEvents(context, out, sounds, events, 5)
    expect(device.sources).toEqual(sources)
    expect(device.sources.map((s) => [(s.to as { name: string }).name, s.when])).toEqual([
      ['click', 5],
      ['voice', 5],
      ['click', 6],
      ['voice', 5.9],
    ])
    expect(device.sources[1]?.buffer).toBe(sounds.voice.get('5')?.buffer)
  })
})

describe('counts of a device', () => {
  it('are on the clock three seconds ahead, and the rest when it is due', () => {
    const { device, context, sounds, out } = setUp()
    const counts = new Counts(context, out, sounds)
    const sounding = counts.add(
      [0, 1, 2, 3, 4].map((t) => event(t)),
      6,
    )
    expect(sounding.map((s) => s.at)).toEqual([6, 7, 8, 9, 10])
    expect(device.started).toEqual([6, 7])
    counts.fill()
    expect(device.started).toEqual([6, 7])
    device.currentTime = 6.5
    counts.fill()
    expect(device.started).toEqual([6, 7, 8, 9])
    device.currentTime = 20
    counts.fill()
    // What came too late is not heard any more.
    expect(device.started).toEqual([6, 7, 8, 9])
  })
  it('are taken back from a time on, also those that wait; what was before sounds', () => {
    const { device, context, sounds, out } = setUp()
    const counts = new Counts(context, out, sounds)
    counts.add(
      [0, 1, 2, 3, 4].map((t) => event(t)),
      6,
    )
    counts.takeBack(7)
    expect(device.sources.map((s) => s.stopped)).toEqual([false, true])
    device.currentTime = 7
    counts.fill()
    expect(device.started).toEqual([6, 7])
    counts.takeBack(7)
    expect(device.stopped).toBe(1)
  })
  it('are silent once stopped; what ended by itself is let go', () => {
    const { device, context, sounds, out } = setUp()
    const counts = new Counts(context, out, sounds)
    counts.add(
      [0, 1, 2, 3].map((t) => event(t)),
      6,
    )
    device.sources[0]?.onended?.()
    counts.stop()
    expect(device.sources.map((s) => s.stopped)).toEqual([false, true])
    device.currentTime = 7
    counts.fill()
    counts.stop()
    expect([device.started, device.stopped]).toEqual([[6, 7], 1])
  })
})
