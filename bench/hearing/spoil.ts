/* The same song made harder, its truth moved along. Deterministic: every choice follows from the song's name. */
import { DRUMS, type Note, type Song, tempoOf } from './midi'

/** What is done to a song before or after it is rendered. */
export const SPOILS = [
  'crop',
  'begin',
  'drift',
  'pad',
  'mp3',
  'font',
  'lead',
  'nodrums',
  'swing',
  'half',
  'break',
  'jump',
] as const
export type Spoil = (typeof SPOILS)[number]

export interface Prepared {
  song: Song
  /** Seconds cut off the front once it is rendered. */
  cut: number
  font: 'first' | 'second'
  mp3: boolean
}

/** A repeatable number 0..1 from a text (FNV-1a). */
export function chance(text: string): number {
  let h = 2_166_136_261
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 16_777_619)
  return (h >>> 0) / 4_294_967_296
}

/** Passes every time of a song through f. */
function moved(song: Song, f: (t: number) => number): Song {
  const beats = song.beats.map(f)
  return {
    notes: song.notes.map((n) => ({ ...n, on: f(n.on), off: f(n.off) })),
    settings: song.settings.map((s) => ({ ...s, at: f(s.at) })),
    end: f(song.end),
    beats,
    downbeats: song.downbeats.map(f),
    eights: song.eights?.map(f) ?? null,
    tempo: tempoOf(beats),
  }
}

/** Tempo times 1 + 0.03 sin over 30 to 50 s. */
function drift(song: Song, id: string): Song {
  const period = 30 + 20 * chance(`${id} period`)
  const phase = 2 * Math.PI * chance(`${id} phase`)
  const step = 0.001
  const map = [0]
  for (let i = 1; i < 400_000; i++)
    map.push((map[i - 1] as number) + step / (1 + 0.03 * Math.sin((2 * Math.PI * i * step) / period + phase)))
  return moved(song, (t) => {
    const x = Math.max(0, t) / step
    const i = Math.min(map.length - 2, Math.floor(x))
    return (map[i] as number) + (x - i) * ((map[i + 1] as number) - (map[i] as number))
  })
}

/** From a bar in the middle on, 15 % faster or slower. */
function jump(song: Song, id: string): Song {
  const at = song.downbeats[song.downbeats.length >> 1] ?? 0
  const rate = chance(`${id} jump`) < 0.5 ? 1.15 : 1 / 1.15
  return moved(song, (t) => (t < at ? t : at + (t - at) / rate))
}

/** Straight second halves of beats come late, at two thirds. */
function swing(song: Song): Song {
  const bend = (t: number) => {
    const k = song.beats.findLastIndex((b) => b <= t + 1e-6)
    const a = song.beats[k]
    const b = song.beats[k + 1]
    if (a === undefined || b === undefined) return t
    const x = (t - a) / (b - a)
    return a + (b - a) * (x < 0.5 ? (x * 4) / 3 : 2 / 3 + ((x - 0.5) * 2) / 3)
  }
  return {
    ...song,
    notes: song.notes.map((n) => ({ ...n, on: bend(n.on), off: Math.max(bend(n.on) + 0.03, bend(n.off)) })),
  }
}

const withoutDrums = (song: Song): Song => ({ ...song, notes: song.notes.filter((n) => n.channel !== DRUMS) })

/** Other drums: kick on 1, snare on 3, hats on the beats. */
function halfTime(song: Song): Song {
  const drums: Note[] = []
  const hit = (on: number, pitch: number, velocity: number) =>
    drums.push({ on, off: on + 0.1, channel: DRUMS, pitch, velocity })
  song.downbeats.forEach((bar, i) => {
    const end = song.downbeats[i + 1] ?? song.end
    const beats = song.beats.filter((b) => b >= bar - 1e-6 && b < end - 1e-6)
    for (const b of beats) hit(b, 42, 70)
    hit(bar, 36, 110)
    if (beats[2] !== undefined) hit(beats[2], 38, 110)
  })
  return { ...song, notes: [...withoutDrums(song).notes, ...drums].sort((a, b) => a.on - b.on) }
}

/** Nothing is played for eight beats in the middle. */
function pause(song: Song): Song {
  const k = song.downbeats[song.downbeats.length >> 1] ?? 0
  const from = song.beats.findIndex((b) => b >= k - 1e-6)
  const until = song.beats[from + 8] ?? song.end
  const gone = (t: number) => t >= k - 0.03 && t < until - 0.03
  const notes = song.notes
    .filter((n) => !gone(n.on))
    .map((n) => (n.on < k && n.off > k ? { ...n, off: k } : n))
  return { ...song, notes }
}

/** A voice over everything, louder than the rest, with its own timing: late, early, held. */
function lead(song: Song, id: string): Song {
  const channel = 14
  const notes = song.notes
    .filter((n) => n.channel !== channel)
    .map((n) => ({ ...n, velocity: Math.round(n.velocity * 0.55) }))
  let pitch = 67
  let i = 0
  for (let t = song.beats[4] ?? 0; t < song.end; i++) {
    const beat = 60 / song.tempo
    const held = beat * (0.5 + 1.7 * chance(`${id} held ${i}`))
    const sounding = song.notes.filter(
      (n) => n.channel !== DRUMS && n.on <= t + 0.05 && n.off > t && n.pitch > 45,
    )
    const tones = sounding.map((n) => n.pitch % 12)
    const tone = tones[Math.floor(chance(`${id} tone ${i}`) * tones.length)]
    if (tone !== undefined) {
      pitch = 60 + ((tone - 60 + 120) % 12) + (chance(`${id} high ${i}`) > 0.6 ? 12 : 0)
      const late = 0.09 * (chance(`${id} late ${i}`) - 0.4)
      notes.push({ on: Math.max(0, t + late), off: t + held * 0.92, channel, pitch, velocity: 127 })
    }
    t += chance(`${id} rest ${i}`) > 0.8 ? held + beat : held
  }
  const voice = { type: 'programChange', channel, programNumber: 53, deltaTime: 0 } as const
  return {
    ...song,
    notes: notes.sort((a, b) => a.on - b.on),
    settings: [
      ...song.settings.filter((s) => !('channel' in s.event) || s.event.channel !== channel),
      { at: 0, event: voice },
    ],
  }
}

/** Five chords held in front that enter at uneven times: sound without a beat. */
function free(song: Song, seconds: number): Song {
  const later = moved(song, (t) => t + seconds)
  const at = [0, 1.37, 3.05, 4.92, 5.61]
  const chords = [
    [48, 55],
    [60, 64],
    [53, 57],
    [65, 69],
    [50, 62],
  ]
  const pad = 15
  const notes = at.flatMap((on, i) =>
    (chords[i] ?? []).map((pitch) => ({ on, off: seconds - 0.4, channel: pad, pitch, velocity: 70 })),
  )
  const program = { type: 'programChange', channel: pad, programNumber: 89, deltaTime: 0 } as const
  return {
    ...later,
    notes: [...notes, ...later.notes.filter((n) => n.channel !== pad)],
    settings: [{ at: 0, event: program }, ...later.settings],
  }
}

/** Cuts the truth where the sound is cut. */
function cropped(song: Song, at: number): Song {
  const keep = (xs: readonly number[]) => xs.filter((x) => x >= at).map((x) => x - at)
  const beats = keep(song.beats)
  return {
    ...song,
    beats,
    downbeats: keep(song.downbeats),
    eights: song.eights && keep(song.eights),
    tempo: tempoOf(beats),
  }
}

/** A song ready to be rendered, with the truth of what will be heard; null where a spoil makes no sense for it. */
export function prepared(song: Song, id: string, spoil: Spoil | null): Prepared | null {
  const plain: Prepared = { song, cut: 0, font: 'first', mp3: false }
  const front = 7.6 + 0.9 * chance(`${id} front`)
  switch (spoil) {
    case null:
      return plain
    case 'crop': {
      const cut = 7 + 9 * chance(`${id} crop`)
      return { ...plain, song: cropped(song, cut), cut }
    }
    case 'begin': {
      // The file begins with its first eight, as most records do.
      const first = song.eights?.[0]
      if (first === undefined) return null
      const cut = Math.max(0, first - 0.005)
      return { ...plain, song: cropped(song, cut), cut }
    }
    case 'drift':
      return { ...plain, song: drift(song, id) }
    case 'pad':
      // Silence for every other song, chords without a beat for the rest.
      return chance(`${id} pad`) < 0.5
        ? { ...plain, song: moved(song, (t) => t + front) }
        : { ...plain, song: free(song, front) }
    case 'mp3':
      return { ...plain, mp3: true }
    case 'font':
      return { ...plain, font: 'second' }
    case 'lead':
      return { ...plain, song: lead(song, id) }
    case 'nodrums':
      return song.notes.some((n) => n.channel === DRUMS) && withoutDrums(song).notes.length > 200
        ? { ...plain, song: withoutDrums(song) }
        : null
    case 'swing':
      return { ...plain, song: swing(song) }
    case 'half':
      return { ...plain, song: halfTime(song) }
    case 'break':
      return { ...plain, song: pause(song) }
    case 'jump':
      return { ...plain, song: jump(song, id) }
  }
}
