import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Performance } from '@/audio/conductor'
import { emptyRoutine, everyEight, layOut, placePhrases } from '@/core/routine'
import { until } from '@/core/until.test-tools'
import { useCursor } from './cursor'
import type { Page } from './page'
import { Player } from './player'

/** What stands for the audio device: it counts how often it is opened and closed, and plays nothing. */
const device = vi.hoisted(() => ({
  opened: [] as {
    closed: number
    stopped: number
    played: unknown[]
    volumes: unknown[]
    lose(): void
    place: unknown
    filters: unknown[]
    stepBacks: number[]
    spokenAs: string[]
    recordings: unknown[]
    said: string[]
    counted: unknown[]
    anew: unknown[]
  }[],
  fails: false,
  /** No word can be spoken. */
  speechless: true,
  /** A word is ready. */
  told: () => {},
  /** Held open until told: opening a device takes a moment. */
  gate: Promise.resolve() as Promise<void>,
  song: (): Promise<ArrayBuffer> => Promise.resolve(new ArrayBuffer(8)),
}))

vi.mock('@/audio/conductor', () => ({
  Conductor: class {
    closed = 0
    stopped = 0
    played: unknown[] = []
    volumes: unknown[] = []
    place: unknown = null
    onInterrupted = () => {}
    static async open() {
      if (device.fails) throw new Error('no device here')
      const c = new this()
      device.opened.push(c)
      await device.gate
      return c
    }
    lose() {
      this.onInterrupted()
    }
    async setSong() {}
    setFilter(f: unknown) {
      this.filters.push(f)
    }
    setVolumes(v: unknown) {
      this.volumes.push(v)
    }
    async play(p: Performance) {
      this.played.push(p)
    }
    filters: unknown[] = []
    stepBacks: number[] = []
    spokenAs: string[] = []
    async speakAs(voice: string) {
      this.spokenAs.push(voice)
    }
    setStepBack(decibels: number) {
      this.stepBacks.push(decibels)
    }
    recordings: unknown[] = []
    said: string[] = []
    counted: unknown[] = []
    async learn(words: string[], told: (ready: number, all: number) => void) {
      if (device.speechless) throw new Error('no words today')
      for (let ready = 0; ready <= words.length; ready++) {
        told(ready, words.length)
        device.told()
      }
    }
    async learnRecordings(ids: unknown[]) {
      this.recordings.push(ids)
    }
    giveRecording(id: string) {
      this.recordings.push(id)
    }
    async say(words: string) {
      if (device.speechless) throw new Error('no words today')
      this.said.push(words)
    }
    async countWith(own: unknown) {
      this.counted.push(own)
    }
    anew: unknown[] = []
    layAnew(lay: (t: unknown) => unknown) {
      this.anew.push(lay({ from: 24, to: 48 }))
    }
    placeAt(time: number) {
      return { at: time }
    }
    now() {
      return this.place
    }
    stop() {
      this.stopped++
    }
    close() {
      this.closed++
    }
  },
}))
vi.mock('@/audio/song', () => ({
  fetchSong: () => device.song(),
  decodeSong: async () => ({ duration: 20 }),
}))

let n = 0
const routine = layOut(
  emptyRoutine('Test'),
  { counts: 32, starts: everyEight(0, 32), sections: [] },
  () => `id-${n++}`,
)
const page = {
  times: Array.from({ length: 32 }, (_, i) => 1 + i / 2),
  placed: placePhrases(routine),
  duration: 20,
} as unknown as Page
const performance: Performance = { first: {} as Performance['first'], next: () => null, into: 0 }

beforeEach(() => {
  device.opened.length = 0
  device.fails = false
  device.speechless = true
  device.told = () => {}
  device.gate = Promise.resolve()
  device.song = () => Promise.resolve(new ArrayBuffer(8))
})

describe('the player', () => {
  it('opens one device, however often play is pressed while the song cannot be had', async () => {
    device.song = () => Promise.reject(new Error('gone'))
    const player = new Player('/song')
    for (let press = 0; press < 5; press++) expect(await player.perform(performance)).toBe(false)
    expect(device.opened).toHaveLength(1)
    expect(player.state.getState()).toMatchObject({ playing: false, problem: 'No sound: gone' })
    expect(player.state.getState().loading).toEqual({ kind: 'problem', why: 'gone' })
    // The song is there again: the same device plays it.
    device.song = () => Promise.resolve(new ArrayBuffer(8))
    expect(await player.perform(performance)).toBe(true)
    expect(device.opened).toHaveLength(1)
    expect(device.opened[0]?.played).toHaveLength(1)
  })
  it('tries the device again after it could not be opened', async () => {
    device.fails = true
    const player = new Player('/song')
    expect(await player.perform(performance)).toBe(false)
    device.fails = false
    expect(await player.perform(performance)).toBe(true)
    expect(device.opened).toHaveLength(1)
  })
  it('closes the device when it is left while the song is loading', async () => {
    let come = (_: ArrayBuffer) => {}
    device.song = () => new Promise((resolve) => (come = resolve))
    const player = new Player('/song')
    const pressed = player.perform(performance)
    await until(() => expect(device.opened).toHaveLength(1))
    player.close()
    come(new ArrayBuffer(8))
    await pressed
    expect(device.opened[0]?.closed).toBeGreaterThan(0)
    expect(device.opened[0]?.played).toEqual([])
  })
  it('closes a device that is only just being opened when it is left', async () => {
    let open = () => {}
    device.gate = new Promise((resolve) => (open = resolve))
    const player = new Player('/song')
    const pressed = player.perform(performance)
    await until(() => expect(device.opened).toHaveLength(1))
    player.close()
    open()
    await pressed
    expect(device.opened[0]?.closed).toBeGreaterThan(0)
  })
  it('plays only what was asked for last', async () => {
    const player = new Player('/song')
    const [first, second] = [player.perform(performance), player.perform({ ...performance, into: 3 })]
    await Promise.all([first, second])
    expect(device.opened[0]?.played).toMatchObject([{ into: 3 }])
  })
  it.each([
    ['the page plays', (player: Player) => player.playFrom(page, 0, [])],
    ['another way to count plays', (player: Player) => player.playOnce(page, performance.first)],
  ])(
    'says so when the device takes the sound away while %s, and waits where it was heard last',
    async (_, play) => {
      const player = new Player('/song')
      play(player)
      await until(() => expect(device.opened[0]?.played).toHaveLength(1))
      const [c] = device.opened
      if (!c) throw new Error('no device')
      // Half a second a count from second 1: 4 s into the song is count 7.
      c.place = { leg: { timeline: { songStart: 1, speed: 1 } }, into: 3 }
      c.lose()
      expect(player.state.getState()).toMatchObject({
        playing: false,
        problem:
          'The sound stopped: the device changed, or this computer slept. Play goes on from where it was.',
      })
      expect(c.stopped).toBeGreaterThan(0)
      expect(useCursor.getState().tick).toBe(6 * 24)
    },
  )
  it('waits at its beginning until it sounds, not before; a count-in lies before', async () => {
    const player = new Player('/song')
    player.playFrom(page, 6 * 24, [])
    await until(() => expect(device.opened[0]?.played).toHaveLength(1))
    const [c] = device.opened
    if (!c) throw new Error('no device')
    const at = (countedIn: boolean) => {
      c.place = { leg: { timeline: { songStart: 4, speed: 1 }, countedIn }, into: -0.25 }
      return player.tickNow(page)
    }
    expect(at(true)).toBe(5.5 * 24)
    expect(at(false)).toBe(6 * 24)
    // Stopped before it is heard, the cursor stays at the count that was asked for.
    player.pause(page)
    expect(useCursor.getState().tick).toBe(6 * 24)
  })
  it('is at no count in a song that has none yet', async () => {
    const player = new Player('/song')
    await player.perform(performance)
    const [c] = device.opened
    if (c) c.place = { leg: { timeline: { songStart: 0, speed: 1 } }, into: 3 }
    expect(player.tickNow(page)).toBe(4 * 24)
    expect(player.tickNow({ ...page, times: [] })).toBeNull()
    player.pause({ ...page, times: [] })
    expect(player.state.getState().playing).toBe(false)
  })
  it('is heard at the speed that was set while the sound was being opened', async () => {
    let open = () => {}
    device.gate = new Promise((resolve) => (open = resolve))
    const player = new Player('/song')
    player.playFrom(page, 0, [])
    await until(() => expect(device.opened).toHaveLength(1))
    player.setSpeed(0.8)
    open()
    await until(() => expect(device.opened[0]?.anew).toMatchObject([{ from: 24, to: 48, speed: 0.8 }]))
    // At the speed it was laid out at, it is left as it is.
    player.playFrom(page, 0, [])
    await until(() => expect(device.opened[0]?.played).toHaveLength(2))
    expect(device.opened[0]?.anew).toHaveLength(1)
  })
  it('leaves the way on to the floor while it has one', async () => {
    const player = new Player('/song')
    const floor = vi.fn()
    const deaf = player.onInterrupted(floor)
    await player.perform(performance)
    device.opened[0]?.lose()
    expect(floor).toHaveBeenCalledOnce()
    expect(player.state.getState().problem).toBe('')
    deaf()
    await player.perform(performance)
    device.opened[0]?.lose()
    expect(floor).toHaveBeenCalledOnce()
  })
  it('mutes music or counts without forgetting their volumes', async () => {
    const player = new Player('/song')
    await player.perform(performance)
    const { volumes } = player.state.getState()
    player.mute('counts')
    expect(device.opened[0]?.volumes.at(-1)).toEqual({ ...volumes, music: 0 })
    player.setVolumes({ clicks: 0.2 })
    expect(device.opened[0]?.volumes.at(-1)).toEqual({ ...volumes, music: 0, clicks: 0.2 })
    player.mute('music')
    expect(device.opened[0]?.volumes.at(-1)).toEqual({ ...volumes, clicks: 0, voice: 0 })
    player.mute('both')
    expect(device.opened[0]?.volumes.at(-1)).toEqual({ ...volumes, clicks: 0.2 })
  })
  it('goes on without the words that could not be made ready', async () => {
    const player = new Player('/song')
    await expect(player.learn(['turn'])).resolves.toBeUndefined()
    expect(player.state.getState().words).toBeNull()
  })
})

describe('the desk', () => {
  /** A player, what it plays, and its device, once it is open. */
  async function playing(ask: (player: Player) => void, player = new Player('/song')) {
    ask(player)
    await until(() => expect(device.opened[0]?.played).not.toHaveLength(0))
    return { player, played: device.opened[0]?.played.at(-1) as Performance, device: device.opened[0] }
  }

  it('plays from a count to the end at its own speed, and ends by itself', async () => {
    const { player, played } = await playing((p) => {
      p.setSpeed(0.5)
      p.playFrom(page, 24, [])
    })
    expect(played.first).toMatchObject({ from: 24, to: 32 * 24, speed: 0.5 })
    expect(played.next(1)).toBeNull()
    expect(player.state.getState().playing).toBe(true)
    played.onEnd?.()
    expect(player.state.getState().playing).toBe(false)
    // Nothing is there to play from the end on.
    player.playFrom(page, 32 * 24, [])
    player.playFrom({ ...page, placed: [] }, 0, [])
    expect(player.state.getState().playing).toBe(false)
  })
  it.each([
    ['from inside', 48, 48],
    ['from its beginning', 24, 24],
    ['from its last count', 71, 71],
    ['from outside it, before', 0, 24],
    ['from its end, which is outside', 72, 24],
  ])('plays a loop again and again, %s', async (_, at, from) => {
    const { played } = await playing((p) => p.playFrom(page, at, [], { from: 24, to: 72 }))
    expect(played.first).toMatchObject({ from, to: 72 })
    const again = played.next(1)
    expect(again).toMatchObject({ countIn: false, timeline: { from: 24, to: 72 } })
    expect(played.next(1)).toEqual(again)
  })
  it('has words made ready before they are called, and says how many there are still', async () => {
    device.speechless = false
    const seen: unknown[] = []
    const player = new Player('/song')
    device.told = () => seen.push(player.state.getState().words)
    const word = { word: 'turn', at: 0, of: 0, after: 24 }
    const calls = {
      words: new Map([[0, word]]),
      voices: [{ recording: 'rec', stretch: { from: 0, to: 0 }, pieces: [] }],
    } as never
    const { device: open } = await playing((p) => p.playFrom(page, 0, [], null, calls), player)
    await until(() => expect(seen).toEqual([{ ready: 0, all: 1 }, null]))
    await until(() => expect(open?.recordings).toEqual([['rec']]))
    await player.giveRecording('mine', {} as never)
    expect(open?.recordings.at(-1)).toBe('mine')
    await player.learnVoices([])
    expect(open?.recordings).toHaveLength(2)
  })
  it('says something beside what plays, as loud as calls are, also where a part is muted', async () => {
    device.speechless = false
    const { player, device: open } = await playing((p) => {
      p.perform(performance)
      p.mute('music')
    })
    await player.say('Ready')
    expect(open?.said).toEqual(['Ready'])
    expect(open?.volumes.at(-1)).toMatchObject({ clicks: 0, voice: 0.9, music: 0.7 })
    device.speechless = true
    await expect(player.say('Nothing')).resolves.toBeUndefined()
    device.fails = true
    await expect(new Player('/other').say('Nothing')).resolves.toBeUndefined()
  })
  it('keeps filter and speed, for a device that is opened later, too', async () => {
    const { player, device: open } = await playing((p) => {
      p.setFilter('low')
      p.setStepBack(9)
      p.perform(performance)
    })
    expect(open?.stepBacks).toEqual([9])
    await player.speakAs('warm')
    expect(open?.spokenAs).toEqual(['clear', 'warm'])
    expect(await player.voices()).toEqual({ own: [], as: 'warm' })
    player.setStepBack(0)
    expect(open?.stepBacks).toEqual([9, 0])
    expect(player.state.getState().stepBack).toBe(0)
    expect(open?.filters).toEqual(['low'])
    player.setFilter('high')
    expect(open?.filters).toEqual(['low', 'high'])
    expect(player.state.getState().filter).toBe('high')
    player.setSpeed(9)
    expect(player.state.getState().speed).toBe(1.1)
    expect(player.placeAt(3)).toEqual({ at: 3 })
    expect(new Player('/none').placeAt(3)).toBeNull()
    expect(new Player('/none').now()).toBeNull()
  })
  it('tells why nothing is heard only of what was asked for last', async () => {
    device.song = () => Promise.reject(new Error('gone'))
    const player = new Player('/song')
    const [first, second] = [player.perform(performance), player.perform(performance)]
    expect(await Promise.all([first, second])).toEqual([true, false])
    expect(player.state.getState()).toMatchObject({ playing: false, problem: 'No sound: gone' })
    // What was stopped meanwhile has no trouble to tell.
    const stopped = player.perform(performance)
    player.stop()
    expect(await stopped).toBe(true)
    expect(player.state.getState().problem).toBe('')
  })
  it('counts in one’s own voice on this device alone, and without it where it cannot be had', async () => {
    const kept = new Map<string, string>()
    vi.stubGlobal('localStorage', {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, x: string) => kept.set(k, x),
    })
    const own = [{ call: '1', wav: 'w', stressMs: 1 }]
    vi.stubGlobal('fetch', async () => Response.json(own))
    const { player, device: open } = await playing((p) => p.perform(performance))
    expect([player.ownVoice, await player.ownCounts()]).toEqual([false, []])
    expect(open?.counted).toEqual([])
    await player.countWith(own)
    expect([player.ownVoice, await player.ownCounts()]).toEqual([true, own])
    expect(open?.counted).toEqual([own])
    const next = new Player('/song')
    await next.perform(performance)
    expect(device.opened[1]?.counted).toEqual([own])
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('away')))
    expect(await player.ownCounts()).toEqual([])
    await player.countWith(null)
    expect([player.ownVoice, open?.counted.at(-1)]).toEqual([false, []])
    player.setVolumes({ music: 0.1 })
    const later = new Player('/song')
    later.restore()
    expect(later.state.getState().volumes).toEqual({ music: 0.1, clicks: 0.45, voice: 0.9 })
    vi.unstubAllGlobals()
  })
  it('goes on at another speed at once; what has a speed of its own does not', async () => {
    const {
      player,
      played,
      device: open,
    } = await playing((p) => p.playFrom(page, 0, [], { from: 0, to: 96 }))
    player.setSpeed(0.6)
    expect(open?.anew).toMatchObject([{ from: 24, to: 48, speed: 0.6 }])
    expect(played.next(1)).toMatchObject({ timeline: { speed: 0.6 } })
    player.playOnce(page, performance.first)
    player.setSpeed(0.7)
    expect(open?.anew).toHaveLength(1)
    player.playFrom(page, 0, [])
    player.pause(page)
    player.setSpeed(0.8)
    expect(open?.anew).toHaveLength(1)
  })
})
