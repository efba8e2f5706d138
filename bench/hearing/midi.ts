/* MIDI files as notes in seconds, with the beats and bars their own tempo and metre maps give (Standard MIDI File 1.0). */
import { type MidiEvent, writeMidi } from 'midi-file'
import { eventsOfMidi, midiClock, type PlacedEvent } from '@/core/formats/midi-grid'
import type { BenchSong } from './songs'

export interface Note {
  on: number
  off: number
  channel: number
  pitch: number
  velocity: number
}

/** Anything that is not a note: programs, controllers, bends. */
export interface Setting {
  at: number
  event: MidiEvent
}

/** A song in seconds. */
export interface Song {
  notes: Note[]
  settings: Setting[]
  end: number
  beats: number[]
  downbeats: number[]
  /** Every second bar from the first full one, or from where they begin anew; null where bars are not 4/4 throughout or not trusted. */
  eights: number[] | null
  tempo: number
}

export const DRUMS = 9

/** At most this much of a song is used. */
const LONGEST = 150

function notesOf(events: readonly PlacedEvent[]): (Note & { tick: number })[] {
  const held = new Map<string, { tick: number; velocity: number }[]>()
  const notes: (Note & { tick: number })[] = []
  const close = (channel: number, pitch: number, off: number) => {
    const first = held.get(`${channel} ${pitch}`)?.shift()
    if (first) notes.push({ tick: first.tick, on: first.tick, off, channel, pitch, velocity: first.velocity })
  }
  for (const { tick, event } of events) {
    if (event.type === 'noteOn' && event.velocity > 0) {
      const key = `${event.channel} ${event.noteNumber}`
      held.set(key, [...(held.get(key) ?? []), { tick, velocity: event.velocity }])
    } else if (event.type === 'noteOn' || event.type === 'noteOff')
      close(event.channel, event.noteNumber, tick)
  }
  const last = events.at(-1)?.tick ?? 0
  for (const [key, list] of held) {
    const [channel, pitch] = key.split(' ').map(Number) as [number, number]
    for (const _ of [...list]) close(channel, pitch, last)
  }
  return notes.sort((a, b) => a.on - b.on)
}

interface Bar {
  tick: number
  num: number
  den: number
  beats: number[]
}

/** Bars and beats in ticks. In 6/8, 9/8 and 12/8 the beat is the dotted quarter. */
function barsOf(events: readonly PlacedEvent[], ppq: number, song: BenchSong, end: number): Bar[] {
  const metres = [{ tick: 0, num: 4, den: 4 }]
  for (const { tick, event } of events) {
    if (event.type !== 'timeSignature') continue
    if (metres.at(-1)?.tick === tick) metres.pop()
    metres.push({ tick, num: event.numerator, den: event.denominator })
  }
  if (song.origin) metres.splice(1)
  const bars: Bar[] = []
  const length = (m: { num: number; den: number }) => (4 * ppq * m.num) / m.den
  let tick = song.origin * ppq
  while (tick > 0) tick -= length(metres[0] as (typeof metres)[0])
  while (tick < end) {
    const here = tick
    const i = Math.max(
      0,
      metres.findLastIndex((m) => m.tick <= here + 1),
    )
    const metre = metres[i] as (typeof metres)[0]
    const next = metres[i + 1]
    const full = length(metre)
    const size = next && next.tick < tick + full - 1 ? next.tick - tick : full
    const compound = metre.den === 8 && metre.num % 3 === 0
    const step = compound ? 1.5 * ppq : metre.den === 8 ? 0.5 * ppq : ppq
    const beats: number[] = []
    for (let k = 0; k * step < size - 1; k++) beats.push(tick + k * step + song.lag)
    bars.push({ tick: tick + song.lag, num: metre.num, den: metre.den, beats })
    tick += size
  }
  return bars
}

/** Reads a song up to its last bar line before 150 s. */
export function readSong(bytes: Uint8Array, song: BenchSong): Song {
  const { ppq, events } = eventsOfMidi(bytes)
  const clock = midiClock(events, ppq)
  const notes = notesOf(events)
  const last = notes.at(-1)?.on ?? 0
  const bars = barsOf(events, ppq, song, last + 8 * ppq)
  const cut = clock(last) > LONGEST ? bars.findLast((b) => clock(b.tick) <= LONGEST)?.tick : undefined
  const limit = cut === undefined ? last + 0.05 * ppq : cut - 1
  const first = notes[0]?.on ?? 0
  const low = first - 0.06 * ppq
  const within = (tick: number) => tick >= low && tick <= limit
  const begun = bars.findLastIndex((b) => b.tick <= first + 0.06 * ppq)
  const bar = bars[begun] as Bar
  const size = (bars[begun + 1]?.tick ?? bar.tick) - bar.tick
  const full = first <= bar.tick + size / 2 ? begun : begun + 1
  const plain = bars.every((b, i) => i < full || b.tick > limit || (b.num === 4 && b.den === 4))
  const begins = (i: number) => [full, ...song.anew].findLast((from) => from <= i) ?? full
  const eights = bars.filter((b, i) => i >= full && (i - begins(i)) % 2 === 0 && within(b.tick))
  const beats = bars
    .flatMap((b) => b.beats)
    .filter(within)
    .map(clock)
  return {
    notes: notes
      .filter((n) => n.on <= limit)
      .map((n) => ({ ...n, on: clock(n.on), off: clock(Math.min(n.off, cut ?? n.off)) })),
    settings: events
      .filter(
        ({ tick, event }) =>
          'channel' in event && event.type !== 'noteOn' && event.type !== 'noteOff' && tick <= limit,
      )
      .map(({ tick, event }) => ({ at: clock(tick), event })),
    end: clock(
      Math.max(limit, ...notes.filter((n) => n.on <= limit).map((n) => Math.min(n.off, limit + 4 * ppq))),
    ),
    beats,
    downbeats: bars
      .map((b) => b.tick)
      .filter(within)
      .map(clock),
    eights: plain && song.bars ? eights.map((b) => clock(b.tick)) : null,
    tempo: tempoOf(beats),
  }
}

/** Median tempo of a list of beats. */
export function tempoOf(beats: readonly number[]): number {
  const steps = beats
    .slice(1)
    .map((t, i) => t - (beats[i] as number))
    .sort((a, b) => a - b)
  return steps.length ? 60 / (steps[steps.length >> 1] as number) : 0
}

/** Ticks a second of what is written: no player's tempo arithmetic can move a note. */
const FINE = 10_000

/** Writes notes and settings as a MIDI file of one constant tempo. */
export function writeSong({ notes, settings, end }: Pick<Song, 'notes' | 'settings' | 'end'>): Uint8Array {
  const timed: { tick: number; rank: number; event: MidiEvent }[] = []
  const put = (at: number, rank: number, event: MidiEvent) =>
    timed.push({ tick: Math.max(0, Math.round(at * FINE)), rank, event })
  for (const s of settings) put(s.at, 0, s.event)
  for (const n of notes) {
    const key = { channel: n.channel, noteNumber: n.pitch, deltaTime: 0 }
    put(n.on, 2, { ...key, type: 'noteOn', velocity: n.velocity })
    put(Math.max(n.off, n.on + 0.01), 1, { ...key, type: 'noteOff', velocity: 0 })
  }
  put(end + 2.5, 3, { type: 'endOfTrack', deltaTime: 0, meta: true })
  timed.sort((a, b) => a.tick - b.tick || a.rank - b.rank)
  let now = 0
  const track = timed.map(({ tick, event }) => {
    const deltaTime = tick - now
    now = tick
    return { ...event, deltaTime }
  })
  const tempo: MidiEvent = { type: 'setTempo', microsecondsPerBeat: 500_000, deltaTime: 0, meta: true }
  return Uint8Array.from(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: FINE / 2 }, tracks: [[tempo, ...track]] }),
  )
}
