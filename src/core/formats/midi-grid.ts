import { type MidiEvent, parseMidi, writeMidi } from 'midi-file'
import type { Seconds } from '../time'
import { MOST } from './limits'
import { type BroughtGrid, FormatProblem, type TimedText } from './problem'
import { decodeText } from './text'

/** An event with its place from the start of the file. */
export interface PlacedEvent {
  tick: number
  event: MidiEvent
}

/** A length of more than the standard's four bytes overflows in the parser, which then goes back in the file, and never ends. */
class ForwardBytes extends Uint8Array {
  override slice(from?: number, to?: number) {
    if (from !== undefined && to !== undefined && to < from)
      throw new FormatProblem('The MIDI file has a length that the format does not allow.')
    return super.slice(from, to)
  }
}

/** All events of all tracks by place; of those at one tick, earlier tracks come first. */
export function eventsOfMidi(bytes: Uint8Array): { ppq: number; events: PlacedEvent[] } {
  const midi = parseMidi(new ForwardBytes(bytes))
  const ppq = midi.header.ticksPerBeat
  if (!ppq) throw new FormatProblem('This MIDI file counts in film frames, not in beats.')
  // The standard ends every track so; the parser itself takes a file that breaks off.
  if (!midi.tracks.length || midi.tracks.some((t) => t.at(-1)?.type !== 'endOfTrack'))
    throw new FormatProblem('This is not a whole MIDI file: a track breaks off.')
  const events = midi.tracks.flatMap((track) => {
    let tick = 0
    return track.map((event) => {
      // A delta longer than the standard's four bytes overflows in the parser.
      if (event.deltaTime < 0)
        throw new FormatProblem('The MIDI file has a wait longer than the format allows.')
      tick += event.deltaTime
      return { tick, event }
    })
  })
  return { ppq, events: events.sort((a, b) => a.tick - b.tick) }
}

/** Seconds of a place, by the file's tempo map (Standard MIDI File 1.0: 120 BPM where nothing is said). */
export function midiClock(events: readonly PlacedEvent[], ppq: number): (tick: number) => Seconds {
  // Kept in microseconds: sums of whole numbers stay exact.
  const steps = [{ tick: 0, at: 0, us: 500_000 }]
  for (const { tick, event } of events) {
    if (event.type !== 'setTempo') continue
    if (!event.microsecondsPerBeat) throw new FormatProblem('The MIDI file has a tempo of no length.')
    const last = steps.at(-1) as (typeof steps)[0]
    const at = last.at + ((tick - last.tick) * last.us) / ppq
    if (tick === last.tick) steps.pop()
    steps.push({ tick, at, us: event.microsecondsPerBeat })
  }
  let s = 0
  return (tick) => {
    if ((steps[s] as (typeof steps)[0]).tick > tick) s = 0
    while (s + 1 < steps.length && (steps[s + 1] as (typeof steps)[0]).tick <= tick) s++
    const step = steps[s] as (typeof steps)[0]
    return (step.at + ((tick - step.tick) * step.us) / ppq) / 1e6
  }
}

const PHRASE = /^(phrase|pick-up) (\d{1,2})$/

/**
 * Reads tempo map, time signatures and markers of a MIDI file (Standard MIDI File 1.0). Cue points "phrase 8" as
 * `writeMidiGrid` makes them say how beats are counted; without them bars do. A bar in 6/8, 9/8 or 12/8 has a beat every
 * three eighths.
 * @throws FormatProblem
 */
export function readMidiGrid(bytes: Uint8Array): BroughtGrid {
  let read: ReturnType<typeof eventsOfMidi>
  try {
    read = eventsOfMidi(bytes)
  } catch (e) {
    if (e instanceof FormatProblem) throw e
    throw new FormatProblem(`This is not a whole MIDI file: ${e instanceof Error ? e.message : e}`)
  }
  const { ppq, events } = read
  const clock = midiClock(events, ppq)
  const own = phrasesOf(events, ppq)
  const { ticks, numbers } = own ?? barsOf(events, ppq)
  if (ticks.length < 2) throw new FormatProblem('The file is shorter than two beats.')
  const marks = events.flatMap(({ tick, event }) =>
    event.type === 'marker' ? [{ start: clock(tick), text: textOf(event.text) }] : [],
  )
  const sections: TimedText[] = marks.map((m, i) => ({ ...m, end: marks[i + 1]?.start ?? null }))
  return { beats: ticks.map(clock), numbers, sections }
}

/** The library keeps text as one letter a byte. */
const textOf = (bytes: string) => decodeText(Uint8Array.from(bytes, (c) => c.charCodeAt(0)))
const bytesOf = (text: string) => String.fromCharCode(...new TextEncoder().encode(text))

/** Places of beats and what each is counted as. */
class Numbered {
  readonly ticks: number[] = []
  readonly numbers: number[] = []

  /** @throws FormatProblem before a small file with long waits fills the memory */
  add(tick: number, number: number): void {
    if (this.ticks.length >= MOST.beats)
      throw new FormatProblem(`The file has more than ${MOST.beats.toLocaleString('en')} beats.`)
    if (tick <= (this.ticks.at(-1) ?? -1)) throw new FormatProblem('Phrases of the file overlap.')
    this.ticks.push(tick)
    this.numbers.push(number)
  }
}

function phrasesOf(events: readonly PlacedEvent[], ppq: number): Numbered | null {
  const found = events.flatMap(({ tick, event }) => {
    const m = event.type === 'cuePoint' ? PHRASE.exec(event.text) : null
    return m ? [{ tick, length: Number(m[2]), pickUp: m[1] === 'pick-up' }] : []
  })
  if (!found.length) return null
  const out = new Numbered()
  for (const p of found)
    for (let k = 0; k < p.length; k++)
      out.add(p.tick + k * ppq, p.pickUp ? Math.max(1, 9 - p.length) + k : k + 1)
  return out
}

function barsOf(events: readonly PlacedEvent[], ppq: number): Numbered {
  const end = events.at(-1)?.tick ?? 0
  const metres = [{ tick: 0, beat: ppq, inBar: 4 }]
  for (const { tick, event } of events) {
    if (event.type !== 'timeSignature') continue
    const { numerator, denominator } = event
    if (numerator < 1 || denominator > 64)
      throw new FormatProblem(`The MIDI file has a time signature of ${numerator}/${denominator}.`)
    const three = denominator === 8 && numerator > 3 && numerator % 3 === 0
    if (metres.at(-1)?.tick === tick) metres.pop()
    metres.push({
      tick,
      beat: ((three ? 12 : 4) * ppq) / denominator,
      inBar: three ? numerator / 3 : numerator,
    })
  }
  const out = new Numbered()
  metres.forEach((m, i) => {
    const until = metres[i + 1]?.tick ?? end + 1
    for (let k = 0, tick = m.tick; tick < until; k++, tick = m.tick + k * m.beat)
      out.add(tick, (k % m.inBar) + 1)
  })
  return out
}

/** A phrase as the file keeps it. */
export interface MidiPhrase {
  counts: number
  pickUp: boolean
}

const PPQ = 480
/** Percussion of General MIDI: its channel, and wood blocks high and low. */
const [DRUMS, HIGH, LOW] = [9, 76, 77]
/** Longest quarter the format can hold is 16.7 s. */
const LONGEST_US = 8_000_000

/**
 * Writes beats as the tempo map of a MIDI file, with a note on each: every beat a quarter, its time kept to the microsecond, so
 * that nothing adds up. The notes are wood blocks, the higher one on the 1 (General MIDI level 1, percussion 76 and 77). Phrases are cue points and time signatures, sections markers. Beats before time 0 cannot be
 * written and are left out.
 */
export function writeMidiGrid(
  beats: readonly Seconds[],
  phrases: readonly MidiPhrase[],
  sections: readonly { beat: number; text: string }[],
): Uint8Array {
  const early = Math.max(
    0,
    beats.findIndex((t) => t >= 0),
  )
  const times = beats.slice(early).map((t) => Math.round(t * 1e6))
  const first = times[0] ?? 0
  const usual = times.length > 1 ? ((times.at(-1) as number) - first) / (times.length - 1) : 500_000
  const lead = first > 0 ? Math.max(1, Math.round(first / usual), Math.ceil(first / LONGEST_US)) : 0
  const all: PlacedEvent[] = []
  const meta = (tick: number, event: Record<string, unknown>) =>
    all.push({ tick, event: { deltaTime: 0, meta: true, ...event } as MidiEvent })
  const quarters = [...Array.from({ length: lead }, (_, j) => Math.round((first * j) / lead)), ...times]
  let tempo = 0
  for (let k = 0; k + 1 < quarters.length; k++) {
    const us = (quarters[k + 1] as number) - (quarters[k] as number)
    if (us !== tempo) meta(k * PPQ, { type: 'setTempo', microsecondsPerBeat: us })
    tempo = us
  }
  const place = (beat: number) => (beat - early + lead) * PPQ
  let beat = 0
  let metre = ''
  for (const { counts, pickUp } of phrases) {
    const from = Math.max(beat, early)
    if (beat + counts > from) {
      const left = beat + counts - from
      meta(place(from), { type: 'cuePoint', text: `${pickUp ? 'pick-up' : 'phrase'} ${left}` })
      const numerator = left % 4 === 0 ? 4 : left % 3 === 0 ? 3 : left
      if (metre !== String(numerator))
        meta(place(from), {
          type: 'timeSignature',
          numerator,
          denominator: 4,
          metronome: 24,
          thirtyseconds: 8,
        })
      metre = String(numerator)
    }
    beat += counts
  }
  const ones = new Set<number>()
  phrases.reduce((at, { counts, pickUp }) => {
    if (!pickUp) ones.add(at)
    return at + counts
  }, 0)
  times.forEach((_, i) => {
    const [tick, noteNumber] = [place(early + i), ones.has(early + i) ? HIGH : LOW]
    const note = { deltaTime: 0, channel: DRUMS, noteNumber }
    all.push({ tick, event: { ...note, type: 'noteOn', velocity: noteNumber === HIGH ? 110 : 80 } })
    all.push({ tick: tick + PPQ / 4, event: { ...note, type: 'noteOff', velocity: 0 } })
  })
  for (const s of sections)
    if (s.beat >= early) meta(place(s.beat), { type: 'marker', text: bytesOf(s.text) })
  meta(place(early + times.length), { type: 'endOfTrack' })
  let at = 0
  const track = all
    .sort((a, b) => a.tick - b.tick)
    .map(({ tick, event }) => {
      const deltaTime = tick - at
      at = tick
      return { ...event, deltaTime }
    })
  return Uint8Array.from(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: PPQ }, tracks: [track] }),
  )
}
