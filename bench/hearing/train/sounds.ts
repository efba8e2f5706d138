/* Every sound there is to learn from, with what is known of it: songs in styles played by sound fonts, plain loops, and the
   development half of the bench's songs, which alone is anybody's music. */
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { drumsAt } from '../../../e2e/sounds'
import { readWav, toMono } from '../../../src/core/formats/wav'
import type { Bar } from '../../../src/core/hear/hearing'
import { type Song, writeSong } from '../midi'
import { MODULES, played as playedModule } from '../modules'
import { CACHE, rendered } from '../render'
import { SONGS } from '../songs'
import { chance, prepared } from '../spoil'
import { STYLED, styled } from '../styles'
import { DANCED } from './dance'
import { EXTREMES } from './extremes'
import { grooves } from './grooves'
import { METRES } from './metres'
import { layered, MASTERS, placed, pumped, withTune } from './mix'
import { played } from './sheets'

const LONGEST = 48
const RATE = 44_100
const FONTS = ['/usr/share/sounds/sf2/FluidR3_GM.sf2', '/usr/share/sounds/sf2/TimGM6mb.sf2']
export const WAVS = path.join(CACHE, 'train-wav')
const MIDIS = path.join(CACHE, 'train-midi')
const pick = <T>(xs: readonly T[], key: string) => xs[Math.floor(xs.length * chance(key))] as T

interface Job {
  id: string
  /** Whole sources are left out together when a rule is judged: who made the music. */
  source: string
  family: string
  bar: Bar
  song: () => Song | null
}

function jobs(): Job[] {
  return [
    ...grooves().flatMap((groove) =>
      [0, 1].map((i) => {
        const id = `mma-${groove.file.replaceAll(/\W/g, '_')}-${i}`
        const [low, high] = groove.bpm
        const bpm = Math.round(10 * (low + ((high - low) * (i + chance(`${id} bpm`))) / 2)) / 10
        const [dir] = groove.file.split('/')
        const source = dir === 'stdlib' || dir === 'casio' ? `mma ${dir}` : 'mma others'
        return {
          ...{ id, source, family: `mma ${groove.family}`, bar: groove.beats },
          song: () => played(id, groove, bpm, MIDIS),
        }
      }),
    ),
    ...STYLED.map((s) => ({
      ...{ id: s.id, source: 'made', family: `made ${s.style.name}`, bar: s.style.beats },
      song: () => styled(s),
    })),
    ...DANCED.map((s, i) => ({
      ...{ id: s.id, source: 'dance', family: `dance ${s.style.name}`, bar: s.style.beats },
      song: () => (s.style.pumped && i % 2 === 0 ? pumped(styled(s), s.id) : styled(s)),
    })),
    // By turns of one source and the other: each rule that is judged has heard such music, but not these styles.
    ...[...METRES, ...EXTREMES].map((s, i) => ({
      ...{ id: s.id, family: `${s.style.beats === 4 ? 'dance' : `of ${s.style.beats}`} ${s.style.name}` },
      ...{ source: (i >> 2) % 2 ? 'made' : 'dance', bar: s.style.beats },
      song: () => styled(s),
    })),
  ]
}

/** What is done to versions that are like records, up to which share of them; half-time drums are for bars of four. */
const SPOILED = [
  [0.2, 'lead'],
  [0.3, 'nodrums'],
  [0.4, 'drift'],
  [0.48, 'half'],
] as const

/** What is done to one version of a song before it is played, and after. */
function version(song: Song, job: Job, v: 'plain' | 'record') {
  const id = `${job.id}.${v}`
  const done: string[] = []
  let made = song
  const tuned = job.source.startsWith('mma') && chance(`${id} tune`) < 0.6
  if (tuned) made = withTune(made, id)
  made = layered(made, id)
  const dice = chance(`${id} spoil`)
  const spoil = v === 'plain' ? null : (SPOILED.find(([share]) => dice < share)?.[1] ?? null)
  const spoiled = spoil && (spoil !== 'half' || job.bar === 4) && prepared(made, id, spoil)
  if (spoiled) {
    made = spoiled.song
    done.push(spoil)
  }
  made = placed(made, 0.1 + 2 * chance(`${id} begins`), LONGEST)
  const master =
    v === 'record' && chance(`${id} master?`) < 0.75
      ? pick(Object.keys(MASTERS) as (keyof typeof MASTERS)[], `${id} master`)
      : null
  const mp3 = v === 'record' && chance(`${id} mp3`) < 0.4
  const cut = chance(`${id} crop`) < 0.4 ? 2 + 7 * chance(`${id} cut`) : 0
  return { id, song: made, done, master, mp3, cut, font: FONTS[chance(`${id} font`) < 0.6 ? 0 : 1] as string }
}

/** Plays it into a WAV file, unless that is there. */
function soundOf({ id, song, master, mp3, font }: ReturnType<typeof version>): string {
  const file = path.join(WAVS, `${id}.wav`)
  if (existsSync(file)) return file
  const p = path.join(WAVS, `${id}.part`)
  const quiet = { stdio: 'ignore' } as const
  writeFileSync(`${p}.mid`, writeSong(song))
  execFileSync(
    'fluidsynth',
    ['-niq', '-F', `${p}.wav`, '-T', 'wav', '-O', 's16', '-r', '44100', '-g', '0.3', font, `${p}.mid`],
    quiet,
  )
  if (mp3) {
    execFileSync('lame', ['--quiet', '-b', '128', `${p}.wav`, `${p}.mp3`], quiet)
    execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-i', `${p}.mp3`, `${p}.wav`], quiet)
  }
  const filters = master ? ['-af', MASTERS[master]] : []
  execFileSync(
    'ffmpeg',
    ['-y', '-loglevel', 'error', '-i', `${p}.wav`, ...filters, '-ac', '1', `${p}.mono.wav`],
    quiet,
  )
  renameSync(`${p}.mono.wav`, file)
  for (const left of ['mid', 'mp3', 'wav']) rmSync(`${p}.${left}`, { force: true })
  return file
}

/** What is known of a sound before it is made. */
export interface Sounding {
  id: string
  /** The song, of which there may be several versions. */
  base: string
  source: string
  family: string
}

/** A sound, and the times in seconds of its beats, bars and pairs of bars; null where they are not known. */
export interface Known {
  mono: Float32Array
  rate: number
  tempo: number
  /** Beats in a bar; null where bars cannot be trusted. */
  bar: Bar | null
  done: string[]
  beats: readonly number[]
  downbeats: readonly number[] | null
  eights: readonly number[] | null
}

export type Making = Sounding & { make: () => Promise<Known | null> }

function fromJob(job: Job, v: 'plain' | 'record'): Making {
  const { id, source, family } = job
  return {
    ...{ id: `${id}.${v}`, base: id, source, family },
    make: async () => {
      const song = job.song()
      if (!song) {
        console.error(`${job.id}: mma cannot play it`)
        return null
      }
      const made = version(song, job, v)
      const pcm = readWav(readFileSync(soundOf(made)))
      const all = toMono(pcm)
      let peak = 1e-9
      for (const x of all) peak = Math.max(peak, Math.abs(x))
      const earlier = (times: readonly number[] | null) => times?.map((t) => t - made.cut) ?? null
      return {
        mono: all.subarray(Math.round(made.cut * pcm.sampleRate)).map((x) => (0.89 * x) / peak),
        rate: pcm.sampleRate,
        ...{ tempo: made.song.tempo, bar: job.bar },
        done: [...made.done, ...(made.master ? [made.master] : []), ...(made.mp3 ? ['mp3'] : [])],
        beats: made.song.beats.map((t) => t - made.cut),
        downbeats: earlier(made.song.downbeats),
        eights: earlier(made.song.eights),
      }
    },
  }
}

/** Plain drum loops, straight and swung: the plainest backbeat is heard right. */
function loops(): Making[] {
  return Array.from({ length: 40 }, (_, i) => {
    const bpm = 66 + 2.9 * i
    const swung = i % 4 === 3
    const id = `loop-${bpm.toFixed(1)}`
    return {
      ...{ id, base: id, source: 'loops', family: swung ? 'swung loop' : 'loop' },
      make: async () => {
        const beats = Array.from({ length: Math.floor((39 * bpm) / 60) }, (_, k) => 0.5 + (k * 60) / bpm)
        const mono = drumsAt(beats, 40, RATE, swung ? 2 / 3 : 0.5)
        const every = (n: number) => beats.filter((_, k) => k % n === 0)
        return {
          ...{ mono, rate: RATE, tempo: bpm, bar: 4, done: [] },
          ...{ beats, downbeats: every(4), eights: every(8) },
        }
      },
    }
  })
}

/** Versions of the bench's songs that differ in what tells the beat. */
const VERSIONS = [null, 'crop', 'font', 'nodrums', 'lead', 'half', 'swing', 'mp3'] as const
/** Written at 96, snare on every off-beat: people may well step at 192. Nothing can be learned from it. */
const DOUBTFUL = new Set(['blupi-music008'])

/** Beats of most bars, twos taken in pairs and sixes as two threes; null where they change too often or are others. */
function barOf(beats: readonly number[], downbeats: readonly number[] | null): Bar | null {
  if (!downbeats) return null
  const sizes = downbeats
    .slice(1)
    .map((end, i) => beats.filter((t) => t >= (downbeats[i] as number) - 0.01 && t < end - 0.01).length)
  const counted: Record<number, Bar> = { 2: 4, 3: 3, 4: 4, 5: 5, 6: 3, 7: 7 }
  const most = Object.keys(counted)
    .map(Number)
    .find((n) => sizes.filter((x) => x === n).length > 0.8 * sizes.length)
  return most === undefined ? null : (counted[most] as Bar)
}

/** The development half of the bench's songs; the other half is never learned from. */
function openSongs(): Making[] {
  const songs = SONGS.filter((s) => s.half === 'dev' && !DOUBTFUL.has(s.id))
  return songs.flatMap((song) =>
    VERSIONS.filter((v) => v === null || v === 'crop' || song.spoiled).map((v) => ({
      ...{
        id: `open-${song.id}.${v ?? 'plain'}`,
        base: song.id,
        source: 'open',
        family: `open ${song.kind}`,
      },
      make: async () => {
        const r = await rendered(song, v)
        if (!r) return null
        const pcm = readWav(readFileSync(r.file))
        const { tempo, beats, downbeats, eights } = r.truth
        const bars = song.bars ? downbeats : null
        const known = { tempo, bar: barOf(beats, bars), done: v ? [v] : [], beats, downbeats: bars, eights }
        return { mono: toMono(pcm), rate: pcm.sampleRate, ...known }
      },
    })),
  )
}

/** Tracker modules whose beat is beyond doubt. */
function modules(): Making[] {
  return MODULES.filter((m) => m.rows.length === 1).flatMap((m) =>
    (['plain', 'mp3'] as const).map((v) => ({
      ...{ id: `${m.id}.${v}`, base: m.id, source: 'modules', family: 'module' },
      make: async () => {
        const { file, ...known } = await playedModule(m, v, m.rows[0] as number)
        const pcm = readWav(readFileSync(file))
        return { ...known, bar: 4, mono: toMono(pcm), rate: pcm.sampleRate, done: v === 'mp3' ? ['mp3'] : [] }
      },
    })),
  )
}

/** A record that is played faster or slower is the same music: what is right of one speed is right of the other. */
const SPEEDS = [0.8, 0.9, 1.1, 1.25] as const

/** The same sound at another speed, as a turntable plays it. */
function atAnotherSpeed(making: Making): Making {
  const speed = pick(SPEEDS, `${making.id} speed`)
  return {
    ...making,
    id: `${making.id}.x${speed}`,
    make: async () => {
      const known = await making.make()
      if (!known) return null
      const { mono } = known
      const faster = (times: readonly number[] | null) => times?.map((t) => t / speed) ?? null
      return {
        ...known,
        mono: Float32Array.from({ length: Math.floor((mono.length - 1) / speed) }, (_, i) => {
          const at = Math.floor(i * speed)
          const [a, b] = [mono[at] as number, mono[at + 1] as number]
          return a + (b - a) * (i * speed - at)
        }),
        tempo: known.tempo * speed,
        done: [...known.done, `${speed} times as fast`],
        beats: known.beats.map((t) => t / speed),
        downbeats: faster(known.downbeats),
        eights: faster(known.eights),
      }
    },
  }
}

/** Everything, in an order that never changes; of a fifth of the songs in styles both versions, of the others one; half of them once
    more at another speed, but for plain loops, of which there is one at every speed. */
export function soundings(): Making[] {
  const styles = jobs().flatMap((job) => {
    const both = chance(`${job.id} both`) < 0.2
    const one = chance(`${job.id} which`) < 0.6 ? 'plain' : 'record'
    return (both ? (['plain', 'record'] as const) : ([one] as const)).map((v) => fromJob(job, v))
  })
  const all = [...styles, ...openSongs(), ...modules()]
  return [...all, ...loops(), ...all.filter((m) => chance(`${m.id} again`) < 0.5).map(atAnotherSpeed)]
}
