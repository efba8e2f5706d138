/* Tracker modules from Debian's packages: real samples, played row by row, so that the rows say exactly where each beat lies. */
import { copyFileSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { writeWav } from '../../src/core/formats/wav'
import { CACHE, fileNamed, mp3Of } from './render'

/** Packages that are unpacked for their modules. No module of any other package is opened: those are for judging. */
export const MODULE_PACKAGES = [
  'circuslinux-data',
  'madbomber-data',
  'open-invaders-data',
  'solarwolf',
] as const

export interface Module {
  id: string
  package: (typeof MODULE_PACKAGES)[number]
  file: string
  /** Rows from beat to beat, as its drums are written; two where people may well step at either. */
  rows: readonly number[]
  /** Pairs of bars begin with its patterns. */
  bars: boolean
}

/** Seen by where kick, snare and hats are written. One of two bars, and one that repeats half a second, are left out. */
export const MODULES: readonly Module[] = (
  [
    ['circuslinux-data', 'finally.mod', [4]],
    ['circuslinux-data', 'hiscore.mod', [4]],
    ['circuslinux-data', 'kaupunki.mod', [4]],
    ['circuslinux-data', 'klovninarki.mod', [4]],
    ['madbomber-data', 'astraltr.mod', [8]],
    ['madbomber-data', 'bizjung.it', [4]],
    ['madbomber-data', 'fdn-arab.s3m', [4, 8]],
    ['madbomber-data', 'gluppobe.mod', [8]],
    ['madbomber-data', 'waterfal.mod', [8, 4]],
    ['open-invaders-data', 'endsong.mod', [4]],
    ['open-invaders-data', 'gamesong.mod', [4]],
    ['open-invaders-data', 'hiscore.mod', [4]],
    ['open-invaders-data', 'titlesong.mod', [4]],
    ['solarwolf', 'arg.xm', [8]],
    ['solarwolf', 'aster2_sw.xm', [8]],
  ] as const
).map(([from, file, rows]) => ({
  id: `module-${from.replace(/-data$/, '')}-${file.replace(/\..*/, '')}`,
  package: from,
  file,
  rows,
  bars: true,
}))

interface Row {
  /** Seconds. */
  at: number
  /** Its number in its pattern. */
  row: number
}

/** What of the player's compiled library is used; it counts in bytes of its own memory. */
interface Player {
  HEAPU8: Uint8Array
  HEAPF32: Float32Array
  _malloc(bytes: number): number
  _openmpt_module_create_from_memory2(data: number, bytes: number, ...none: 0[]): number
  _openmpt_module_set_repeat_count(module: number, times: number): void
  _openmpt_module_read_float_mono(module: number, rate: number, frames: number, to: number): number
  _openmpt_module_get_current_order(module: number): number
  _openmpt_module_get_current_row(module: number): number
}

const RATE = 44_100
/** Frames rendered between two looks at the row: 1.5 ms. */
const STEP = 64
const LONGEST = 200

/** Plays a module once. */
async function play(bytes: Uint8Array): Promise<{ mono: Float32Array; rows: Row[] }> {
  const file = path.resolve('bench/node_modules/chiptune3/libopenmpt.worklet.js')
  const { default: load } = (await import(pathToFileURL(file).href)) as { default: () => Promise<Player> }
  const player = await load()
  const data = player._malloc(bytes.length)
  player.HEAPU8.set(bytes, data)
  const module = player._openmpt_module_create_from_memory2(data, bytes.length, 0, 0, 0, 0, 0, 0, 0)
  if (!module) throw new Error('this module cannot be played')
  player._openmpt_module_set_repeat_count(module, 0)
  const to = player._malloc(4 * STEP)
  const mono = new Float32Array(LONGEST * RATE)
  const rows: Row[] = []
  let n = 0
  for (let last = -1; n + STEP <= mono.length; ) {
    const got = player._openmpt_module_read_float_mono(module, RATE, STEP, to)
    if (!got) break
    const row = player._openmpt_module_get_current_row(module)
    const place = 1000 * player._openmpt_module_get_current_order(module) + row
    if (place !== last) rows.push({ at: n / RATE, row })
    last = place
    mono.set(player.HEAPF32.subarray(to / 4, to / 4 + got), n)
    n += got
  }
  return { mono: mono.subarray(0, n), rows }
}

export interface PlayedModule {
  /** A WAV file. */
  file: string
  tempo: number
  beats: number[]
  downbeats: number[]
  eights: number[]
  end: number
}

/** One version of a module, rendered unless it is in the cache, counted by so many rows a beat. */
export async function played(
  module: Module,
  version: 'plain' | 'mp3',
  rowsPerBeat: number,
): Promise<PlayedModule> {
  const dir = path.join(CACHE, 'modules')
  const [plain, file] = ['plain', version].map((v) => path.join(dir, `${module.id}.${v}.wav`)) as [
    string,
    string,
  ]
  const known = path.join(dir, `${module.id}.rows.json`)
  mkdirSync(dir, { recursive: true })
  if (!existsSync(plain) || !existsSync(known)) {
    const from = fileNamed(path.join(CACHE, 'packages', module.package), module.file)
    if (!from) throw new Error(`${module.file} is not in its package`)
    const { mono, rows } = await play(readFileSync(from))
    let peak = 1e-9
    for (const x of mono) peak = Math.max(peak, Math.abs(x))
    writeFileSync(plain, writeWav({ sampleRate: RATE, channels: [mono.map((x) => (0.89 * x) / peak)] }))
    writeFileSync(known, JSON.stringify({ rows, end: mono.length / RATE }))
  }
  if (!existsSync(file)) {
    copyFileSync(plain, `${file}.part`)
    await mp3Of(`${file}.part`)
    renameSync(`${file}.part`, file)
  }
  const { rows, end } = JSON.parse(readFileSync(known, 'utf8')) as { rows: Row[]; end: number }
  const every = (n: number) => rows.filter((r) => r.row % n === 0).map((r) => r.at)
  const beats = every(rowsPerBeat)
  const gaps = beats.slice(1).map((t, i) => t - (beats[i] as number))
  const tempo = 60 / (gaps.sort((a, b) => a - b)[gaps.length >> 1] as number)
  return { file, tempo, beats, downbeats: every(4 * rowsPerBeat), eights: every(8 * rowsPerBeat), end }
}
