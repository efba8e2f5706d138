import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { readWav } from '@/core/formats/wav'
import { soundPlan, USUAL_SOUND, usualContents } from '@/core/handout'
import { cuesOf, page } from '@/core/routine/hand.test-tools'
import { UNMEASURED } from '@/core/stretch'
import { Device, type FakeSource } from './device.test-tools'
import { type PracticeWish, practiceSound, soundsFor } from './practice'

/** A device that renders what was put on its clock: each sound on its nearest sample, times the gain it goes through. */
class Renderer extends Device {
  override currentTime = 0
  private readonly length: number
  constructor(_: number, length: number, rate: number) {
    super()
    this.sampleRate = rate
    this.length = length
  }

  override createGain() {
    return Object.assign(super.createGain(), { gain: { value: 1 } as never })
  }

  async startRendering() {
    const out = this.createBuffer(1, this.length)
    const mixed = out.getChannelData()
    for (const { buffer, when, to } of this.sources as (FakeSource & { buffer: AudioBuffer })[]) {
      const { value } = (to as GainNode).gain
      const first = Math.round(when * this.sampleRate)
      buffer.getChannelData(0).forEach((x, i) => {
        if (first + i < mixed.length) mixed[first + i] = (mixed[first + i] as number) + x * value
      })
    }
    return out
  }
}

let asked: string[] = []
/** Words that can be spoken. */
let spoken = new Set<string>()
beforeEach(() => {
  asked = []
  spoken = new Set()
  vi.stubGlobal('OfflineAudioContext', Renderer)
  vi.stubGlobal('fetch', async (url: string) => {
    if (url.endsWith('index.json')) return Response.json({})
    const word = new URLSearchParams(url.split('?')[1]).get('say') ?? url
    asked.push(word)
    if (!spoken.has(word)) return new Response('', { status: 422 })
    return new Response(new Uint8Array(400), { headers: { 'x-stress-ms': '0' } })
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
})

const routine = page(2, cuesOf(['1 step R; 3 kick R']))
const times = Array.from({ length: 17 }, (_, i) => 1 + i * 0.5)
const contents = { ...usualContents(routine), stretch: { from: 0, to: 96 } }
const plan = (what: Partial<typeof USUAL_SOUND>) =>
  soundPlan(routine, times, contents, { ...USUAL_SOUND, announced: false, calls: 'none', ...what })
const wishOf = (what: Partial<PracticeWish>): PracticeWish => ({
  ...{ voices: { own: [], as: 'clear' as const }, plan: plan({ speeds: [1], times: 1 }), song: null },
  ...{ stepBack: 6, file: 'wav' as const, title: 'Practice' },
  ...what,
})
const RATE = 44_100
const STILL = new AbortController().signal

/** A file's left side. */
async function sideOf(blob: Blob) {
  const pcm = readWav(new Uint8Array(await blob.arrayBuffer()))
  return { ...pcm, left: pcm.channels[0] as Float32Array }
}
/** Where a sound begins again after it was silent for a tenth of a second, in seconds. */
function beginnings(samples: Float32Array): number[] {
  const out: number[] = []
  let last = Number.NEGATIVE_INFINITY
  samples.forEach((x, i) => {
    if (Math.abs(x) < 0.01) return
    if (i - last > RATE / 10) out.push(i / RATE)
    last = i
  })
  return out
}
const noStretch = () => {
  throw new Error('nothing is stretched here')
}

describe('a practice sound', () => {
  it('of counts alone has each click on its place, on both sides, and lasts as long as its plan', async () => {
    const wish = wishOf({ plan: plan({ speeds: [0.5, 1], times: 1 }) })
    const told: number[] = []
    const blob = await practiceSound(wish, noStretch, (share) => told.push(share), STILL)
    const { left, channels, sampleRate } = await sideOf(blob)
    expect([blob.type, sampleRate, channels.length]).toEqual(['audio/wav', RATE, 2])
    expect(channels[1]).toEqual(left)
    expect(left.length / RATE).toBeCloseTo(wish.plan.seconds, 2)
    const expected = wish.plan.legs.flatMap((leg) =>
      [...leg.timeline.countIn, ...leg.timeline.counts].map((e) => leg.start + e.time),
    )
    const heard = beginnings(left)
    expect(heard).toHaveLength(expected.length)
    expected
      .sort((a, b) => a - b)
      .forEach((t, k) => {
        expect(Math.abs((heard[k] as number) - t)).toBeLessThan(0.002)
      })
    expect(told.at(-1)).toBeCloseTo(1)
    expect(told).toEqual([...told].sort((a, b) => a - b))
  })
  it('has the song where it is danced, as it is at full speed and stretched where it is slower', async () => {
    const song = new Device().createBuffer(1, 12 * RATE) as never as AudioBuffer
    song.getChannelData(0).fill(0.25)
    const pieces: { speed: number; from: number; samples: number; length: number }[] = []
    const stretch = async (
      piece: Parameters<Parameters<typeof practiceSound>[1]>[0],
      further: (x: number) => void,
    ) => {
      const { speed, from, samples, channels } = piece
      pieces.push({ speed, from, samples, length: channels[0]?.length ?? 0 })
      further(0.5)
      return channels.map(() => new Float32Array(samples).fill(0.25))
    }
    const measured = { song, measure: UNMEASURED }
    const wish = wishOf({ song: measured, plan: plan({ speeds: [0.5, 1], times: 1, song: true }) })
    const told: number[] = []
    const { left } = await sideOf(await practiceSound(wish, stretch, (x) => told.push(x), STILL))
    expect(pieces).toHaveLength(1)
    const [slow, full] = wish.plan.legs
    expect(pieces[0]).toMatchObject({ speed: 0.5 })
    // A second more than is heard lies on either side, for the stretching to look at.
    expect(pieces[0]?.from).toBeCloseTo(1, 3)
    expect((pieces[0]?.length ?? 0) / RATE).toBeCloseTo(((pieces[0]?.samples ?? 0) / RATE) * 0.5 + 2, 2)
    const level = (t: number) => Math.abs(left[Math.round(t * RATE)] as number)
    for (const leg of [slow, full]) {
      const half = 0.5 / (leg?.timeline.speed ?? 1) / 2
      expect(level((leg?.start ?? 0) + half)).toBeGreaterThan(0.02)
    }
    // Nothing of it before its first leg is counted in.
    expect(level(0.1)).toBe(0)
    expect(told).toContain(0.2 + (0.8 * 0.5) / 2)
  })
  it('gets each word it calls once; one that cannot be had is clicked alone', async () => {
    spoken = new Set(['step R'])
    const { words } = plan({ speeds: [1], times: 2, calls: 'words' })
    expect(words).toEqual(expect.arrayContaining(['step R', 'kick R']))
    const told: number[] = []
    const context = new Renderer(1, 1, RATE) as never as BaseAudioContext
    const voices = { own: [], as: 'clear' as const }
    const wanted = { words, recordings: ['gone'] }
    const sounds = await soundsFor(context, wanted, voices, (x) => told.push(x), STILL)
    expect(asked.sort()).toEqual([...words, '/api/voice/recordings/gone'].sort())
    expect([[...sounds.voice.keys()], sounds.recordings.size]).toEqual([['step R'], 0])
    expect(told).toEqual(words.map((_, i) => i / words.length))
  })
  it('says a speed before its rung where that can be spoken', async () => {
    spoken = new Set(['100 percent'])
    const wish = wishOf({ plan: plan({ speeds: [1], times: 1, announced: true }) })
    const { left } = await sideOf(await practiceSound(wish, noStretch, () => {}, STILL))
    expect(beginnings(left)[0]).toBeCloseTo(wish.plan.announced[0]?.at ?? 0, 2)
  })
  it('is stopped between two of its parts, and nothing comes of it', async () => {
    const stop = new AbortController()
    const wish = wishOf({ plan: plan({ speeds: [1], times: 3 }) })
    const making = practiceSound(wish, noStretch, (share) => share > 0.2 && stop.abort(), stop.signal)
    await expect(making).rejects.toThrow(/abort/i)
    asked = []
    const early = new AbortController()
    early.abort()
    await expect(
      practiceSound(
        wishOf({ plan: plan({ speeds: [1], times: 1, calls: 'words' }) }),
        noStretch,
        () => {},
        early.signal,
      ),
    ).rejects.toThrow(/abort/i)
    expect(asked).toEqual([])
  })
})
