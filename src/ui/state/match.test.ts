import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { packMeasure } from '@/core/stretch'
import { FakeWorker } from './fake-worker.test-tools'
import { matchSong } from './match'
import { measureInWorker, measureOf } from './measure'
import { stretchInWorker } from './stretch'

beforeEach(() => {
  FakeWorker.all = []
  vi.stubGlobal('Worker', FakeWorker)
})
afterEach(() => vi.unstubAllGlobals())

const samples = Float32Array.of(0.1, 0.2, 0.3)
const recording = {
  sampleRate: 8000,
  numberOfChannels: 1,
  length: 3,
  copyFromChannel: (to: Float32Array) => to.set(samples),
  getChannelData: () => samples,
} as unknown as AudioBuffer
const found = { trace: Uint8Array.of(1, 2), takes: [{ from: 0, to: 3, at: 1, rate: 1, sure: 0.9 }] }
const never = new AbortController().signal

describe('looking for a song in a recording', () => {
  it('hands the samples over, tells how far it is, and gives what was found', async () => {
    const told: number[] = []
    const song = Uint8Array.of(9)
    const looked = matchSong(recording, song, (share) => told.push(share), never)
    const { request, moved } = FakeWorker.last.sent[0] as {
      request: { channels: Float32Array[] }
      moved: unknown
    }
    expect(request).toEqual({ channels: [samples], sampleRate: 8000, song })
    expect(moved).toEqual([request.channels[0]?.buffer])
    expect(String(FakeWorker.last.program)).toContain('match.worker')
    FakeWorker.last.answers({ kind: 'progress', share: 0.4 })
    FakeWorker.last.answers({ kind: 'done', ...found })
    expect(await looked).toMatchObject(found)
    expect(told).toEqual([0.4])
    expect(FakeWorker.last.ended).toBe(true)
  })
  it.each<[string, unknown, string]>([
    ['a failure', { kind: 'failed', message: 'Too short.' }, 'Too short.'],
    ['half an answer', { kind: 'done', trace: found.trace, takes: [{ from: 0 }] }, 'cannot be read'],
    ['a trace that is none', { kind: 'done', trace: [1], takes: [] }, 'cannot be read'],
    ['nothing', null, 'cannot be read'],
  ])('says so of %s', async (_, answer, why) => {
    const looked = matchSong(recording, null, () => {}, never)
    FakeWorker.last.answers(answer)
    await expect(looked).rejects.toThrow(why)
  })
  it('says so where the worker ends by itself, and takes another one where it is given', async () => {
    const begin = vi.fn(() => new FakeWorker() as unknown as Worker)
    const looked = matchSong(recording, null, () => {}, never, begin)
    expect(begin).toHaveBeenCalledOnce()
    expect(FakeWorker.all).toHaveLength(1)
    FakeWorker.last.onerror({ message: '' })
    await expect(looked).rejects.toThrow('The search stopped unexpectedly.')
  })
})

describe('measuring a song in a worker', () => {
  it('hands its channels over, and gives what was found, packed', async () => {
    const found = measureInWorker(recording)
    expect(String(FakeWorker.last.program)).toContain('measure.worker')
    const { request, moved } = FakeWorker.last.sent[0] as {
      request: { channels: Float32Array[] }
      moved: unknown
    }
    expect(request).toEqual({ channels: [samples], rate: 8000 })
    // What is handed over is not the song's own.
    expect(moved).toEqual([request.channels[0]?.buffer])
    expect(request.channels[0]?.buffer).not.toBe(samples.buffer)
    const packed = packMeasure([1, 2], [0.1])
    FakeWorker.last.answers({ kind: 'done', measure: packed })
    expect(measureOf(await found).strokes).toEqual(Float64Array.of(1, 2))
    expect(() => measureOf(packed.subarray(0, 3))).toThrow('could not be measured')
  })
  it.each<[unknown, string]>([
    [{ kind: 'failed', message: 'No memory.' }, 'No memory.'],
    [{ kind: 'done', measure: [1] }, 'could not be measured'],
  ])('says why there are none: %j', async (answer, why) => {
    const begin = vi.fn(() => new FakeWorker() as unknown as Worker)
    const found = measureInWorker(recording, begin)
    expect(begin).toHaveBeenCalledOnce()
    FakeWorker.last.answers(answer)
    await expect(found).rejects.toThrow(why)
  })
})

describe('slowing in a worker', () => {
  const piece = () => ({ channels: [samples.slice()], sampleRate: 8000, speed: 0.5 }) as never
  it('gives the slowed channels, and tells how far it is', async () => {
    const told: number[] = []
    const slowed = stretchInWorker(piece(), (share) => told.push(share), never)
    expect(String(FakeWorker.last.program)).toContain('stretch/worker.js')
    expect(FakeWorker.last.sent[0]?.moved).toHaveLength(1)
    FakeWorker.last.answers({ kind: 'progress', share: 0.5 })
    FakeWorker.last.answers({ kind: 'done', channels: [samples] })
    expect(await slowed).toEqual([samples])
    expect(told).toEqual([0.5])
  })
  it.each<[string, (w: FakeWorker) => void, string]>([
    ['it cannot be', (w) => w.answers({ kind: 'failed', message: 'No memory.' }), 'No memory.'],
    ['no channels come', (w) => w.answers({ kind: 'done', channels: [[1]] }), 'could not be slowed down'],
    ['it ends by itself', (w) => w.onerror({ message: '' }), 'could not be slowed down'],
    ['an answer is lost', (w) => w.onmessageerror(), 'could not be slowed down'],
  ])('says so where %s', async (_, happens, why) => {
    const slowed = stretchInWorker(piece(), () => {}, never)
    happens(FakeWorker.last)
    await expect(slowed).rejects.toThrow(why)
  })
})
