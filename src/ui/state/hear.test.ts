import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { listen } from '@/core/hear/listen'
import { FakeWorker } from './fake-worker.test-tools'
import { type Heard, hearSong } from './hear'

const RATE = 22_050
const channel = Float32Array.from({ length: 6 * RATE }, (_, i) =>
  i % (RATE / 2) < 300 ? Math.sin(i / 3) : 0,
)
const song = {
  sampleRate: RATE,
  numberOfChannels: 1,
  length: channel.length,
  copyFromChannel: (to: Float32Array) => to.set(channel),
} as unknown as AudioBuffer
const progress: number[] = []

function begin(signal: AbortSignal = new AbortController().signal) {
  const hearing = hearSong(song, (share) => progress.push(share), signal)
  hearing.catch(() => {})
  return { hearing, worker: FakeWorker.all.at(-1) as FakeWorker }
}

beforeEach(() => {
  FakeWorker.all = []
  progress.length = 0
  vi.stubGlobal('Worker', FakeWorker)
})
afterEach(() => vi.unstubAllGlobals())

describe('hearing in a worker', () => {
  it('sends the samples, tells how far it is, and gives what was heard', async () => {
    const { hearing, worker } = begin()
    expect(worker.sent[0]?.request).toMatchObject({ sampleRate: RATE })
    worker.onmessage({ data: { kind: 'progress', share: 0.5 } })
    const heard = listen(channel, RATE)
    worker.onmessage({ data: { kind: 'heard', ...heard } })
    expect((await hearing).hearing).toEqual(heard.hearing)
    expect(progress).toEqual([0.5])
    expect(worker.ended).toBe(true)
  })
  it.each<[string, (w: FakeWorker) => void, string]>([
    ['an answer of another kind', (w) => w.onmessage({ data: { kind: 'sung' } }), 'cannot be read'],
    ['no answer at all', (w) => w.onmessage({ data: undefined }), 'cannot be read'],
    ['half an answer', (w) => w.onmessage({ data: { kind: 'heard', hearing: {} } }), 'cannot be read'],
    ['an answer that cannot be passed on', (w) => w.onmessageerror(), 'cannot be read'],
    [
      'a failure with a reason',
      (w) => w.onmessage({ data: { kind: 'failed', message: 'no sound in it' } }),
      'no sound in it',
    ],
    ['an end without words', (w) => w.onerror({ message: '' }), 'stopped unexpectedly'],
  ])('%s ends the waiting, with a reason', async (_, answer, why) => {
    const { hearing, worker } = begin()
    answer(worker)
    await expect(hearing).rejects.toThrow(why)
    expect(worker.ended).toBe(true)
  })
  it('is stopped at once, and leaves nothing listening', async () => {
    const stop = new AbortController()
    const removed = vi.spyOn(stop.signal, 'removeEventListener')
    const { hearing, worker } = begin(stop.signal)
    stop.abort()
    await expect(hearing).rejects.toMatchObject({ name: 'AbortError' })
    expect(worker.ended).toBe(true)
    expect(removed).toHaveBeenCalled()
  })
  it('does not begin when it was stopped before', async () => {
    await expect(begin(AbortSignal.abort()).hearing).rejects.toMatchObject({ name: 'AbortError' })
    expect(FakeWorker.all).toEqual([])
  })
})

describe('the worker', () => {
  it('hears what it is sent, also with samples that are no numbers, and says why where it cannot', async () => {
    const said: { kind: string; message?: string; hearing?: Heard['hearing'] }[] = []
    const self = {
      postMessage: (m: (typeof said)[0]) => said.push(m),
      onmessage: (_: { data: unknown }) => {},
    }
    vi.stubGlobal('self', self)
    await import('@/workers/hear.worker')
    const broken = channel.slice()
    broken.fill(Number.NaN, 5000, 6000)
    self.onmessage({ data: { channels: [broken], sampleRate: RATE } })
    expect(said.at(0)?.kind).toBe('progress')
    expect(said.at(-1)?.kind).toBe('heard')
    for (const t of said.at(-1)?.hearing?.beats ?? []) expect(Number.isFinite(t)).toBe(true)
    self.onmessage({ data: null })
    expect(said.at(-1)?.kind).toBe('failed')
    expect(said.at(-1)?.message).toBeTruthy()
  })
})
