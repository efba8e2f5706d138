import { afterEach, describe, expect, it, vi } from 'vitest'
import { JOIN } from '@/core/stretch'
import { Device } from './device.test-tools'
import { MUSIC_MODULE, Music } from './music'

afterEach(() => {
  vi.unstubAllGlobals()
})

/** A device with worklets, and what its worklet is told. */
function withWorklets() {
  const told: Record<string, unknown>[] = []
  const modules: string[] = []
  const worklet = {
    port: {
      onmessage: null as ((e: { data: number }) => void) | null,
      postMessage: (message: never) => told.push(message),
    },
    gone: false,
    connect: (to: unknown) => to,
    disconnect() {
      worklet.gone = true
    },
  }
  vi.stubGlobal('AudioWorkletNode', function AudioWorkletNode() {
    return worklet
  })
  const device = Object.assign(new Device(), {
    audioWorklet: { addModule: async (url: string) => modules.push(url) },
  })
  const takes = (number: number) => worklet.port.onmessage?.({ data: number })
  return { device, told, modules, takes, worklet }
}

const songOf = (device: Device) => device.createBuffer(1, 8820) as never as AudioBuffer
const contextOf = (device: Device) => device as never as BaseAudioContext

async function loaded() {
  const w = withWorklets()
  const out = w.device.createGain()
  const loading = Music.load(contextOf(w.device), songOf(w.device), out as never)
  await vi.waitFor(() => expect(w.told).toHaveLength(1))
  w.takes(0)
  return { ...w, out, music: await loading }
}

describe('the music of a device', () => {
  it('is there once its worklet has taken in the song, and then its strokes', async () => {
    const { told, modules, music } = await loaded()
    expect(modules).toEqual([MUSIC_MODULE])
    const channels = [expect.objectContaining({ length: 8820 })]
    expect(told[0]).toMatchObject({ kind: 'song', number: 0, song: { rate: 44_100, channels } })
    music.setStrokes(Float64Array.of(0.1))
    expect(told[1]).toEqual({ kind: 'strokes', strokes: Float64Array.of(0.1) })
  })
  it('is played on samples: from where the sample stands, as long as is asked; each is answered by its number', async () => {
    const { device, told, takes, music } = await loaded()
    const ended: string[] = []
    const at = 6 + 0.4 / device.sampleRate
    music.play(at, 2, 0.5, 1).then(() => ended.push('first'))
    music.play(8, 3, 1, 2).then(() => ended.push('second'))
    const [, first, second] = told as unknown as { number: number; play: { from: number } }[]
    expect(first).toMatchObject({
      kind: 'play',
      number: 1,
      play: { at: 6 * 44_100, samples: 44_100, speed: 0.5 },
    })
    expect(first?.play.from).toBeCloseTo(2 - 0.2 / device.sampleRate, 12)
    expect(second).toMatchObject({
      number: 2,
      play: { at: 8 * 44_100, samples: 2 * 44_100, from: 3, speed: 1 },
    })
    takes(2)
    await vi.waitFor(() => expect(ended).toEqual(['second']))
    takes(1)
    await vi.waitFor(() => expect(ended).toEqual(['second', 'first']))
  })
  it('is cut at a sample, stopped at once, and let go with its song', async () => {
    const { told, worklet, out, music } = await loaded()
    music.cut(7)
    music.stop()
    expect(told.slice(1)).toEqual([{ kind: 'cut', at: 7 * 44_100 }, { kind: 'stop' }])
    music.release()
    expect(told.slice(3)).toEqual([{ kind: 'stop' }, { kind: 'song', song: null, number: -1 }])
    expect([worklet.gone, out.to]).toEqual([true, null])
  })
  it('without worklets is the song as it is, at full speed alone, faded in and out', async () => {
    const device = new Device()
    const music = await Music.load(contextOf(device), songOf(device), {} as never)
    await music.play(6, 1, 0.5, 2)
    expect(device.sources).toEqual([])
    await music.play(6, 1, 1, 2)
    const [source] = device.sources
    expect([source?.when, source?.offset]).toEqual([6 - JOIN, 1 - JOIN])
    expect(device.levels).toEqual([
      [0, 6 - JOIN],
      [1, 6],
      [1, 8 - JOIN],
      [0, 8],
    ])
    device.levels = []
    // From before the song: it begins where it begins, at once.
    await music.play(6, -0.5, 1, 2)
    expect([device.sources[1]?.when, device.sources[1]?.offset]).toEqual([6.5, 0])
    expect(device.levels[0]).toEqual([1, 6.5])
    const stops = device.stopped
    source?.onended?.()
    music.cut(7)
    music.stop()
    music.stop()
    expect(device.stopped - stops).toBe(2)
  })
  it('lets through only what lies below or above, through two filters, and all of it again', async () => {
    const { device, out, music } = await loaded()
    const filters: { type: string; frequency: number; Q: number; to: unknown }[] = []
    vi.stubGlobal('BiquadFilterNode', function BiquadFilterNode(_: unknown, what: object) {
      const node = {
        ...(what as { type: string; frequency: number; Q: number }),
        to: null as unknown,
        connect(to: unknown) {
          node.to = to
          return to
        },
        disconnect() {
          node.to = null
        },
      }
      filters.push(node)
      return node
    })
    music.setFilter('low')
    expect(filters.map(({ type, frequency }) => [type, frequency])).toEqual([
      ['lowpass', 160],
      ['lowpass', 160],
    ])
    // Butterworth of the fourth order: 0.541 and 1.307 (textbook values), in decibels.
    expect(filters.map((f) => 10 ** (f.Q / 20))).toEqual([expect.closeTo(0.541, 2), expect.closeTo(1.307, 2)])
    expect([filters[0]?.to, filters[1]?.to]).toEqual([filters[1], out])
    music.setFilter('high')
    expect(filters.slice(2).map(({ type, frequency }) => [type, frequency])).toEqual([
      ['highpass', 5000],
      ['highpass', 5000],
    ])
    expect([filters[0]?.to, filters[1]?.to]).toEqual([null, null])
    music.setFilter('all')
    expect(filters).toHaveLength(4)
    expect(filters.every((f) => f.to === null)).toBe(true)
    expect(device.sources).toEqual([])
  })
})
