/* What makes a played song more like a record: layers that come and go, other kits, a tune, a pad that sinks under the kick,
   a limiter, a telephone's loudspeaker, mp3. Every choice follows from the song's name. */
import { DRUMS, type Note, type Setting, type Song } from '../midi'
import { chance } from '../spoil'

const pick = <T>(xs: readonly T[], key: string) => xs[Math.floor(xs.length * chance(key))] as T
const TUNE = 13
const PAD = 12
const KICKS = new Set([35, 36])

const byTime = (notes: Note[]) => notes.sort((a, b) => a.on - b.on)
const voice = (channel: number, programNumber: number): Setting => ({
  at: 0,
  event: { type: 'programChange', channel, programNumber, deltaTime: 0 },
})

/** Pitch classes that sound at a time, drums and bass left out. */
const sounding = (song: Song, t: number) => [
  ...new Set(
    song.notes
      .filter((n) => n.channel !== DRUMS && n.on <= t + 0.05 && n.off > t + 0.05 && n.pitch > 45)
      .map((n) => n.pitch % 12),
  ),
]

/** A tune over three quarters of the song, its rhythm the same every two bars, often against the beat, with a player's time. */
export function withTune(song: Song, id: string): Song {
  const beat = 60 / song.tempo
  const loose = pick([0, 0, 0.01, 0.02], `${id} loose`)
  const notes = [...song.notes]
  song.downbeats.forEach((bar, b) => {
    const section = b >> 3
    if (b < 4 || section % 4 === 3) return
    const next = song.downbeats[b + 1] ?? bar + 4 * beat
    const quarters = 4 * Math.round((next - bar) / beat)
    for (let i = 0; i < quarters; ) {
      const key = `${id} ${b % 2} ${section % 2} ${i}`
      const long = pick([1, 2, 2, 2, 3, 3, 4, 4, 6, 8], `${key} long`)
      const t = bar + (i * beat) / 4
      const tones = chance(`${key} rest`) < 0.7 ? sounding(song, t) : []
      if (tones.length) {
        const pitch = 60 + pick(tones, `${key} ${b} tone`) + (chance(`${key} up`) < 0.4 ? 12 : 0)
        const on = Math.max(0, t + loose * (chance(`${key} ${b} late`) - 0.3))
        notes.push({
          on,
          off: t + (long * beat * 0.9) / 4,
          channel: TUNE,
          pitch,
          velocity: 85 + Math.round(30 * chance(`${key} loud`)),
        })
      }
      i += long
    }
  })
  const program = pick([0, 4, 11, 25, 27, 52, 53, 56, 65, 66, 73, 80, 81], `${id} voice`)
  return { ...song, notes: byTime(notes), settings: [...song.settings, voice(TUNE, program)] }
}

/** Each channel louder or softer, another drum kit; in half the songs eights without drums, or with drums and bass alone. */
export function layered(song: Song, id: string): Song {
  const layers = chance(`${id} layers`) < 0.5
  const eightOf = (t: number) =>
    Math.max(
      0,
      song.downbeats.findLastIndex((d) => d <= t + 0.03),
    ) >> 3
  const silent = (n: Note) => {
    const dice = chance(`${id} layer ${eightOf(n.on)}`)
    return layers && (n.channel === DRUMS ? dice < 0.2 : dice > 0.85 && n.channel !== 1)
  }
  const loud = (n: Note) => {
    const velocity = Math.round(n.velocity * (0.6 + 0.55 * chance(`${id} gain ${n.channel}`)))
    return { ...n, velocity: Math.max(8, Math.min(127, velocity)) }
  }
  const kit = pick([0, 0, 0, 8, 16, 24, 25, 25, 40], `${id} kit`)
  return {
    ...song,
    notes: song.notes.filter((n) => !silent(n)).map(loud),
    settings: kit ? [...song.settings, voice(DRUMS, kit)] : song.settings,
  }
}

/** A held pad that sinks under every kick and is back within the beat. */
export function pumped(song: Song, id: string): Song {
  const beat = 60 / song.tempo
  const pad = song.downbeats.flatMap((bar) =>
    sounding(song, bar + 0.1)
      .slice(0, 3)
      .map((p) => ({ on: bar, off: bar + 3.95 * beat, channel: PAD, pitch: 60 + p, velocity: 100 })),
  )
  const swells = song.notes
    .filter((n) => n.channel === DRUMS && KICKS.has(n.pitch))
    .flatMap((n) =>
      Array.from(
        { length: 8 },
        (_, i): Setting => ({
          at: n.on + (i * beat) / 9,
          event: {
            type: 'controller',
            controllerType: 11,
            channel: PAD,
            value: Math.round(18 + (109 * i) / 7),
            deltaTime: 0,
          },
        }),
      ),
    )
  return {
    ...song,
    notes: byTime([...song.notes, ...pad]),
    settings: [...song.settings, voice(PAD, pick([50, 89, 90, 95], `${id} pad`)), ...swells],
  }
}

/** Everything later by some seconds, and no longer than `longest`. */
export function placed(song: Song, by: number, longest: number): Song {
  const later = (t: number) => t + by
  const end = Math.min(longest, song.end + by)
  const times = (xs: readonly number[]) => xs.map(later).filter((t) => t < end)
  return {
    ...song,
    notes: song.notes
      .map((n) => ({ ...n, on: n.on + by, off: Math.min(end, n.off + by) }))
      .filter((n) => n.on < end),
    settings: song.settings.map((s) => ({ ...s, at: s.at > 0 ? s.at + by : 0 })).filter((s) => s.at < end),
    end,
    beats: times(song.beats),
    downbeats: times(song.downbeats),
    eights: song.eights && times(song.eights),
  }
}

/** What a studio or a loudspeaker does to the sound, as filters of ffmpeg. */
export const MASTERS = {
  pressed:
    'acompressor=threshold=0.06:ratio=8:attack=5:release=80:makeup=6,alimiter=limit=0.7:attack=2:release=40',
  clipped: 'volume=14dB,alimiter=level=false:limit=0.6:attack=1:release=20,asoftclip=type=tanh',
  boomy: 'bass=g=9:f=110,alimiter=limit=0.8',
  muffled: 'treble=g=-14:f=3500,bass=g=4:f=120',
  thin: 'bass=g=-12:f=160,treble=g=6:f=5000,alimiter=limit=0.8',
  room: 'aecho=0.8:0.6:23|41|67:0.35|0.25|0.18,alimiter=limit=0.8',
} as const
