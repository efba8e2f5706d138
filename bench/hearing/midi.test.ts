import { writeMidi } from 'midi-file'
import { describe, expect, it } from 'vitest'
import { readSong, writeSong } from './midi'
import type { BenchSong } from './songs'
import { prepared, SPOILS } from './spoil'

const listed: BenchSong = {
  id: 'made',
  half: 'dev',
  kind: 'clean',
  origin: 0,
  anew: [],
  lag: 0,
  bars: true,
  spoiled: true,
}

/** A note on every quarter, at a tempo and metre given as meta events. */
function made(quarters: number, metas: { at: number; us?: number; metre?: [number, number] }[]): Uint8Array {
  const ppq = 96
  const events: { tick: number; event: object }[] = []
  for (const m of metas) {
    if (m.us)
      events.push({ tick: m.at * ppq, event: { type: 'setTempo', meta: true, microsecondsPerBeat: m.us } })
    if (m.metre)
      events.push({
        tick: m.at * ppq,
        event: {
          type: 'timeSignature',
          meta: true,
          numerator: m.metre[0],
          denominator: m.metre[1],
          metronome: 24,
          thirtyseconds: 8,
        },
      })
  }
  for (let k = 0; k < quarters; k++) {
    events.push({
      tick: k * ppq,
      event: { type: 'noteOn', channel: k % 2 ? 9 : 0, noteNumber: 60, velocity: 90 },
    })
    events.push({
      tick: k * ppq + 48,
      event: { type: 'noteOff', channel: k % 2 ? 9 : 0, noteNumber: 60, velocity: 0 },
    })
  }
  events.sort((a, b) => a.tick - b.tick)
  let now = 0
  const track = events.map(({ tick, event }) => {
    const deltaTime = tick - now
    now = tick
    return { ...event, deltaTime }
  })
  const end = { type: 'endOfTrack', meta: true, deltaTime: 0 }
  return Uint8Array.from(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: ppq }, tracks: [[...track, end]] } as never),
  )
}

describe('reading a song (Standard MIDI File 1.0)', () => {
  it('takes 120 BPM and 4/4 where nothing is said', () => {
    const s = readSong(made(32, []), listed)
    expect(s.tempo).toBeCloseTo(120, 6)
    expect(s.beats.slice(0, 3)).toEqual([0, 0.5, 1])
    expect(s.downbeats.slice(0, 3)).toEqual([0, 2, 4])
    expect(s.eights).toEqual([0, 4, 8, 12])
  })
  it('follows a change of tempo: 500 000 and then 1 000 000 microseconds a quarter', () => {
    const s = readSong(
      made(16, [
        { at: 0, us: 500_000 },
        { at: 8, us: 1_000_000 },
      ]),
      listed,
    )
    expect(s.beats.slice(7, 11)).toEqual([3.5, 4, 5, 6])
  })
  it('beats a 6/8 bar in two dotted quarters, and names no eights there', () => {
    const s = readSong(made(24, [{ at: 0, metre: [6, 8] }]), listed)
    expect(s.beats.slice(0, 3)).toEqual([0, 0.75, 1.5])
    expect(s.downbeats.slice(0, 3)).toEqual([0, 1.5, 3])
    expect(s.eights).toBeNull()
  })
  it('counts bars from the first written one after a beat of set-up', () => {
    expect(
      readSong(made(32, [{ at: 0, metre: [4, 4] }]), { ...listed, origin: 1 }).downbeats.slice(0, 2),
    ).toEqual([0.5, 2.5])
  })
  it('writes back every note where it was', () => {
    const s = readSong(made(32, [{ at: 0, us: 437_000 }]), listed)
    const again = readSong(writeSong(s), listed)
    expect(again.notes).toHaveLength(s.notes.length)
    for (const [i, n] of s.notes.entries())
      expect(Math.abs((again.notes[i]?.on ?? 0) - n.on)).toBeLessThan(1e-4)
  })
})

describe('spoiling', () => {
  const song = readSong(made(240, [{ at: 0, us: 500_000 }]), listed)
  it('keeps beats rising and notes with their beats', () => {
    for (const spoil of SPOILS) {
      const p = prepared(song, 'made', spoil)
      if (!p) continue
      const { beats } = p.song
      for (let i = 1; i < beats.length; i++)
        expect(beats[i] as number).toBeGreaterThan(beats[i - 1] as number)
    }
  })
  it('is the same every time', () => {
    for (const spoil of SPOILS) expect(prepared(song, 'made', spoil)).toEqual(prepared(song, 'made', spoil))
  })
  it('does what it says', () => {
    const of = (s: (typeof SPOILS)[number]) => prepared(song, 'made', s)?.song
    expect(of('pad')?.beats[0]).toBeGreaterThan(7)
    expect(of('crop')?.beats.length).toBeLessThan(song.beats.length)
    const slow = of('drift')?.beats ?? []
    const steps = slow.slice(1).map((t, i) => t - (slow[i] as number))
    expect(0.5 / Math.min(...steps)).toBeCloseTo(1.03, 2)
    expect(0.5 / Math.max(...steps)).toBeCloseTo(0.97, 2)
    const pause = of('break')?.notes.map((n) => n.on) ?? []
    expect(Math.max(...pause.slice(1).map((t, i) => t - (pause[i] as number)))).toBeGreaterThan(4)
  })
})
