import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Performance } from '@/audio/conductor'
import { moveBook, STARTING_MOVES } from '@/core/choreo'
import { practicePage, usualContents } from '@/core/handout'
import { levelSaid } from '@/core/loudness'
import type { Take } from '@/core/match'
import { cuesOf, ids, page as pageOf } from '@/core/routine/hand.test-tools'
import { type Copy, laidOnCopy } from './copy'
import { type Drill, Player, timelineOf } from './drill'
import { voiceOf } from './voice'

/** What stands for the audio device. */
const device = vi.hoisted(() => ({
  opened: [] as { worklet?: string }[],
  played: [] as unknown[],
  songs: [] as unknown[],
  volumes: [] as unknown[],
  stopped: 0,
  worklets: true,
  place: null as unknown,
  lose: () => {},
  takes: [] as unknown[],
}))
vi.mock('@/audio/conductor', () => ({
  Conductor: {
    async open(from: { worklet?: string }) {
      device.opened.push(from)
      return {
        context: { audioWorklet: device.worklets ? {} : undefined },
        setSong: async (song: unknown) => device.songs.push(song),
        setVolumes: (volumes: unknown) => device.volumes.push(volumes),
        play: async (p: unknown) => device.played.push(p),
        stop: () => device.stopped++,
        now: () => device.place,
        set onInterrupted(told: () => void) {
          device.lose = told
        },
      }
    },
  },
}))
vi.mock('@/audio/song', () => ({ decodeSong: async () => ({ duration: 40 }) }))
vi.mock('@/ui/state/measure', () => ({
  measureInWorker: async () => Uint8Array.of(1),
  measureOf: () => ({ strokes: [1, 2], pieces: [], loudness: -12 }),
}))
vi.mock('@/ui/state/match', () => ({
  matchSong: async (_audio: unknown, _song: unknown, told: (share: number) => void) => {
    told(1)
    return { takes: device.takes as Take[] }
  },
}))

const times = Array.from({ length: 33 }, (_, i) => 10 + i * 0.5)
const routine = { ...pageOf(4, cuesOf(['1 step R; 2& touch L', ''])), leadWords: 'ready go' }
const page = practicePage(
  ...(['routine1', routine, times, moveBook(STARTING_MOVES)] as const),
  ...([{ ...usualContents(routine), stretch: { from: 0, to: 384 } }, 'AAAA', ids(), new Date(0)] as const),
)
const drill: Drill = {
  ...{
    stretch: { from: 0, to: 192 },
    speed: 0.5,
    calls: 'numbers',
    mirrored: false,
    countIn: 4,
    again: true,
  },
}
const copy: Copy = {
  name: 'mine.mp3',
  audio: { duration: 40 } as AudioBuffer,
  places: times.map((t) => t + 2),
}
const VOLUMES = { music: 0.5, clicks: 0.4, voice: 0.3 }

beforeEach(() => {
  Object.assign(device, {
    opened: [],
    played: [],
    songs: [],
    volumes: [],
    stopped: 0,
    worklets: true,
    place: null,
  })
  vi.stubGlobal('MUSIC_WORKLET', 'worklet()')
  vi.stubGlobal('MEASURE_WORKER', 'measure()')
})
afterEach(() => vi.unstubAllGlobals())

describe('a repetition', () => {
  it('lies where the copy has its counts, and where the instructor’s song had them without one', () => {
    const alone = timelineOf(page, drill, null)
    expect([alone.song, alone.timeline.songStart, alone.timeline.songEnd]).toEqual([false, 10, 14])
    expect(alone.timeline).toMatchObject({ from: 0, to: 192, speed: 0.5, body: 8 })
    expect(
      alone.timeline.countIn
        .map((e) => e.call)
        .filter(Boolean)
        .slice(-2),
    ).toEqual(['ready', 'go'])
    expect(alone.timeline.counts.some((e) => e.call === '&')).toBe(true)
    const own = timelineOf(page, drill, copy)
    expect([own.song, own.timeline.songStart]).toEqual([true, 12])
    // A count that is not in the copy: counted as the instructor's song was.
    const short = { ...copy, places: copy.places.map((t, i) => (i === 3 ? null : t)) }
    expect(timelineOf(page, drill, short)).toMatchObject({ song: false, timeline: { songStart: 10 } })
  })
})

describe('the player of a page', () => {
  const play = async (how: Partial<Drill>, song: Copy | null, player = new Player(page, null)) => ({
    player,
    said: await player.play({ ...drill, ...how }, song, VOLUMES),
    played: device.played.at(-1) as Performance,
  })
  it('opens its device once, with a worklet that a file may load, and plays again and again, counted in', async () => {
    const { player, said, played } = await play({}, null)
    expect(said).toBe('')
    expect(device.opened[0]?.worklet).toBe(`data:text/javascript;base64,${btoa('worklet()')}`)
    expect(played.next(1)).toEqual({ timeline: played.first, countIn: true })
    expect(device.volumes).toEqual([{ ...VOLUMES, music: 0 }])
    const once = await play({ again: false }, null, player)
    expect(once.played.next(1)).toBeNull()
    expect(device.opened).toHaveLength(1)
  })
  it('is heard with the learner’s copy, loaded once', async () => {
    const { player } = await play({}, copy)
    await play({}, copy, player)
    expect([device.songs, device.volumes.at(-1)]).toEqual([[copy.audio], VOLUMES])
    const other = { ...copy, audio: {} as AudioBuffer }
    await play({}, other, player)
    expect(device.songs).toHaveLength(2)
    player.setVolumes(VOLUMES, false)
    expect(device.volumes.at(-1)).toEqual({ ...VOLUMES, music: 0 })
    player.setVolumes(VOLUMES, true)
    expect(device.volumes.at(-1)).toEqual(VOLUMES)
  })
  it('says why the song is not heard, or not as slowly', async () => {
    const short = { ...copy, places: copy.places.map(() => null) }
    expect((await play({}, short)).said).toContain('has not got these counts')
    expect(device.songs).toEqual([])
    device.worklets = false
    expect((await play({}, copy)).said).toContain('at full speed only')
    expect((await play({ speed: 1 }, copy)).said).toBe('')
    expect((await play({}, null)).said).toBe('')
  })
  it('tells when it ends: by itself, or because the sound went', async () => {
    const { player, played } = await play({}, null)
    const ends: string[] = []
    player.onEnd = (why) => ends.push(why)
    played.onEnd?.()
    device.lose()
    expect([ends, device.stopped]).toEqual([['', 'The sound was interrupted.'], 1])
    player.stop()
    expect(device.stopped).toBe(2)
    // Nothing was opened yet: nothing is stopped, and nothing heard.
    const silent = new Player(page, null)
    silent.stop()
    silent.setVolumes(VOLUMES, true)
    expect([device.stopped, silent.heard()]).toEqual([2, null])
  })
  it('tells which count is heard, and which of the count-in', async () => {
    const { player, played } = await play({}, null)
    const at = (into: number, countedIn = true) => {
      device.place = { leg: { timeline: played.first, countedIn }, into }
      return player.heard()
    }
    expect(at(0)).toEqual({ tick: 0, call: '1', countedIn: false })
    // Half tempo: a count lasts a second; sub-counts change nothing.
    expect(at(1.6)).toEqual({ tick: 24, call: '2', countedIn: false })
    expect(at(-0.9)).toMatchObject({ countedIn: true, call: 'go' })
    expect(at(-99)).toBeNull()
    expect(at(-0.9, false)).toBeNull()
    device.place = null
    expect(player.heard()).toBeNull()
  })
})

describe('a learner’s copy', () => {
  const file = new File(['x'], 'mine.mp3')
  const look = (signal = new AbortController().signal) => laidOnCopy(file, times, 'AAAA', () => {}, signal)
  beforeEach(() => {
    vi.stubGlobal('MATCH_WORKER', 'match()')
    vi.stubGlobal('Worker', class {})
  })
  it('is laid under the counts where the song plays in it', async () => {
    const released = vi.spyOn(URL, 'revokeObjectURL')
    device.takes = [{ from: 0, to: 40, at: 2, rate: 1, sure: 1 }]
    const found = await look()
    expect([found.name, found.places.slice(0, 3)]).toEqual(['mine.mp3', [8, 8.5, 9]])
    expect(released).toHaveBeenCalledOnce()
  })
  it('is another song where too few of the counts are in it', async () => {
    const released = vi.spyOn(URL, 'revokeObjectURL')
    device.takes = [{ from: 0, to: 12, at: 2, rate: 1, sure: 1 }]
    await expect(look()).rejects.toThrow('Only 13 of 33 counts of the dance are in this copy')
    expect(released).toHaveBeenCalled()
    device.takes = []
    await expect(look()).rejects.toThrow('This is another song')
  })
  it('is not looked through once it was stopped', async () => {
    await expect(look(AbortSignal.abort())).rejects.toMatchObject({ name: 'AbortError' })
  })
})

describe('the calls of a page', () => {
  /** A file whose click lies 0.1 s later than it was made with: each sample's value is its own place. */
  const RATE = 1000
  const samples = Float32Array.from({ length: 3 * RATE }, (_, i) => (i === 150 ? -1 : i / 10_000))
  const context = {
    decodeAudioData: async () => ({ sampleRate: RATE, getChannelData: () => samples }),
    createBuffer: (_channels: number, length: number, rate: number) => ({
      ...{ length, rate, samples: new Float32Array(0) as Float32Array },
      copyToChannel(piece: Float32Array) {
        this.samples = piece
      },
    }),
  } as unknown as BaseAudioContext
  /** As loud as all that is said. */
  const level = (sound: Float32Array) => {
    levelSaid(sound, RATE)
    return sound
  }
  it('are cut out of their one file where its click says they lie', async () => {
    const { voice, recordings } = await voiceOf(context, {
      file: 'AAAA',
      click: 0.05,
      calls: { step: [1, 1.2, 1.05], edge: [-0.2, 0.1, 0], none: [1, 1, 1] },
      recordings: { rec: [2, 2.5] },
    } as never)
    const step = voice.get('step') as unknown as {
      buffer: { samples: Float32Array; length: number }
      stress: number
    }
    expect([step.buffer.length, step.stress]).toEqual([200, expect.closeTo(0.05)])
    expect(step.buffer.samples).toEqual(level(samples.slice(1100, 1300)))
    // What would begin before the file begins with it; what has no length has one sample.
    expect(voice.get('edge')?.buffer).toMatchObject({ length: 200 })
    expect(voice.get('none')?.buffer.length).toBe(1)
    const rec = recordings.get('rec')
    expect([rec?.rate, rec?.samples]).toEqual([RATE, level(samples.slice(2100, 2600))])
  })
  it('are none where the page has no voice', async () => {
    const { voice, recordings } = await voiceOf(context, null)
    expect([voice.size, recordings.size]).toEqual([0, 0])
  })
})
