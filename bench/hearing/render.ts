/* Fetches the songs with apt-get, renders them with fluidsynth, keeps everything in a cache directory. */
import { spawn, spawnSync } from 'node:child_process'
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import path from 'node:path'
import { readWav, writeWav } from '../../src/core/formats/wav'
import { readSong, type Song, writeSong } from './midi'
import { type BenchSong, PACKAGES } from './songs'
import { type Prepared, prepared, type Spoil } from './spoil'

export const CACHE = path.resolve(process.env.AZALEA_BENCH ?? '.cache/bench')
const RATE = 44_100
const FONTS = { first: '/usr/share/sounds/sf2/FluidR3_GM.sf2', second: '/usr/share/sounds/sf2/TimGM6mb.sf2' }
const TOOLS = ['fluidsynth', 'fluid-soundfont-gm', 'timgm6mb-soundfont', 'lame', 'ffmpeg']

function must(command: string, args: string[], cwd?: string) {
  const done = spawnSync(command, args, {
    cwd,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  })
  if (done.status !== 0) throw new Error(`${command} ${args.join(' ')} failed`)
}

/** Installs what is missing of some of Debian's packages. */
export function fetchPackages(names: readonly string[]): void {
  const missing = names.filter((p) => spawnSync('dpkg', ['-s', p]).status !== 0)
  if (missing.length === 0) return
  must('apt-get', ['update', '-qq'])
  must('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing])
}

/** Installs the renderer and unpacks the song packages, as far as they are missing. */
export function fetchSongs(all: readonly string[] = PACKAGES): void {
  fetchPackages(TOOLS)
  const packages = all.filter((p) => !existsSync(path.join(CACHE, 'packages', p)))
  if (packages.length) must('apt-get', ['update', '-qq'])
  for (const p of packages) {
    const to = path.join(CACHE, 'packages', p)
    mkdirSync(path.join(CACHE, 'packages'), { recursive: true })
    must('apt-get', ['download', '-qq', p], path.join(CACHE, 'packages'))
    const deb = readdirSync(path.join(CACHE, 'packages')).find((f) => f.startsWith(`${p}_`))
    must('dpkg-deb', ['-x', path.join(CACHE, 'packages', deb ?? ''), `${to}.part`])
    renameSync(`${to}.part`, to)
  }
}

/** The reference programs and the player of modules have a package file of their own; they come only when they are used. */
export function fetchReferences(): void {
  if (existsSync('bench/node_modules/chiptune3') && existsSync('bench/node_modules/essentia.js')) return
  const done = spawnSync('npm', ['ci', '--prefix', 'bench', '--no-audit', '--no-fund'], { stdio: 'inherit' })
  if (done.status !== 0)
    throw new Error('The reference programs could not be fetched; -- --alone goes without.')
}

/** The first file of a name under a directory. */
export function fileNamed(dir: string, name: string): string | null {
  for (const entry of readdirSync(dir, { withFileTypes: true })) {
    const full = path.join(dir, entry.name)
    const found = entry.isDirectory() ? fileNamed(full, name) : entry.name === name ? full : null
    if (found) return found
  }
  return null
}

/** One lump of a WAD archive: a directory of (offset, size, name of 8 bytes) entries. */
function lump(wad: Buffer, name: string): Buffer | null {
  const at = wad.readInt32LE(8)
  for (let i = 0; i < wad.readInt32LE(4); i++) {
    const entry = at + 16 * i
    if (
      wad
        .toString('latin1', entry + 8, entry + 16)
        .replace(/\0.*$/, '')
        .toLowerCase() === name
    )
      return wad.subarray(wad.readInt32LE(entry), wad.readInt32LE(entry) + wad.readInt32LE(entry + 4))
  }
  return null
}

/** The MIDI bytes of one listed song. */
export function midiOf(song: BenchSong): Uint8Array {
  const [from, name] = [song.id.slice(0, song.id.indexOf('-')), song.id.slice(song.id.indexOf('-') + 1)]
  const unpacked = (p: string) => path.join(CACHE, 'packages', p)
  const files: Record<string, string> = {
    omsx: 'openttd-openmsx',
    blupi: 'planetblupi-music-midi',
    mma: 'mma',
  }
  const wads: Record<string, [string, string]> = {
    fd1: ['freedoom', 'freedoom1.wad'],
    fd2: ['freedoom', 'freedoom2.wad'],
    fdm: ['freedm', 'freedm.wad'],
  }
  const wad = wads[from]
  const file = wad
    ? fileNamed(unpacked(wad[0]), wad[1])
    : fileNamed(unpacked(files[from] ?? ''), `${name}.mid`)
  const bytes = file && (wad ? lump(readFileSync(file), name) : readFileSync(file))
  if (!bytes) throw new Error(`${song.id} is not in its package`)
  return bytes
}

function run(command: string, args: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'ignore', 'inherit'] })
    child.on('error', reject)
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${command} ended with ${code}`))))
  })
}

export interface Rendered {
  id: string
  song: BenchSong
  spoil: Spoil | null
  /** A WAV file. */
  file: string
  truth: Song
}

/** Renders one version of a song unless it is in the cache; null where the spoil makes no sense. */
export async function rendered(song: BenchSong, spoil: Spoil | null): Promise<Rendered | null> {
  const ready = prepared(readSong(midiOf(song), song), song.id, spoil)
  if (!ready) return null
  const id = spoil ? `${song.id}.${spoil}` : song.id
  return { id, song, spoil, file: await wavOf(id, ready), truth: ready.song }
}

/** The WAV file of something prepared, rendered unless it is in the cache. */
export async function wavOf(id: string, ready: Prepared): Promise<string> {
  const dir = path.join(CACHE, 'wav')
  const file = path.join(dir, `${id}.wav`)
  if (existsSync(file) && statSync(file).size > 44) return file
  mkdirSync(dir, { recursive: true })
  const part = path.join(dir, `${id}.part`)
  writeFileSync(`${part}.mid`, writeSong(ready.song))
  await run('fluidsynth', [
    '-n',
    '-i',
    '-q',
    '-F',
    `${part}.wav`,
    '-T',
    'wav',
    '-O',
    'float',
    '-r',
    String(RATE),
    '-g',
    '0.35',
    '-o',
    'synth.polyphony=400',
    FONTS[ready.font],
    `${part}.mid`,
  ])
  finish(`${part}.wav`, ready.cut)
  if (ready.mp3) await mp3Of(`${part}.wav`)
  renameSync(`${part}.wav`, file)
  rmSync(`${part}.mid`, { force: true })
  return file
}

/** Makes an mp3 of a WAV file, and a WAV file of that in its place. */
export async function mp3Of(file: string): Promise<void> {
  await run('lame', ['--quiet', '-b', '128', file, `${file}.mp3`])
  // lame writes its delay into the file and ffmpeg takes it off again: the sound stays where it was.
  await run('ffmpeg', ['-y', '-nostdin', '-loglevel', 'error', '-i', `${file}.mp3`, '-f', 'wav', file])
  rmSync(`${file}.mp3`, { force: true })
}

/** Cuts the front off and scales to a peak of 0.89. */
function finish(file: string, cut: number) {
  const { sampleRate, channels } = readWav(readFileSync(file))
  const skip = Math.round(cut * sampleRate)
  let peak = 1e-9
  for (const c of channels)
    for (let i = skip; i < c.length; i++) peak = Math.max(peak, Math.abs(c[i] as number))
  const done = channels.map((c) => {
    const out = new Float32Array(c.length - skip)
    for (let i = skip; i < c.length; i++) out[i - skip] = ((c[i] as number) * 0.89) / peak
    return out
  })
  writeFileSync(file, writeWav({ sampleRate, channels: done }))
}
