import { afterEach, describe, expect, it, vi } from 'vitest'
import { writeWav } from '@/core/formats/wav'
import { CalledSounds } from './called-sounds'
import { Device } from './device.test-tools'
import { clicks, loadRecording, type Sounds } from './sounds'

afterEach(() => {
  vi.unstubAllGlobals()
})

/** A server of voices. @param words what it can say, and where each is stressed, in ms */
function setUp(words: Record<string, number> = {}) {
  const asked: string[] = []
  const wav = writeWav({ sampleRate: 8000, channels: [new Float32Array(800).fill(0.01)] })
  vi.stubGlobal('fetch', async (url: string) => {
    asked.push(url)
    if (url.endsWith('index.json')) return Response.json({ '1': { file: 'one.wav', stress: 0.1 } })
    if (url.endsWith('.wav')) return new Response(new Uint8Array(100))
    if (url.startsWith('/api/voice/recordings/'))
      return url.endsWith('gone') ? new Response('', { status: 404 }) : new Response(wav.slice().buffer)
    const word = new URLSearchParams(url.split('?')[1]).get('say') ?? ''
    const stress = words[word]
    if (stress === undefined) return new Response('', { status: 422 })
    return new Response(new Uint8Array(50), { headers: { 'x-stress-ms': String(stress) } })
  })
  const context = new Device() as never as BaseAudioContext
  const sounds: Sounds = {
    ...clicks(context),
    ...{ as: 'clear', voice: new Map(), recordings: new Map(), pieces: new Map() },
  }
  return { asked, sounds, called: new CalledSounds(context, sounds) }
}

describe('what is called', () => {
  it('is spoken by a voice that comes with the app, got once as long as it is the same', async () => {
    const { asked, sounds, called } = setUp()
    await called.speakAs('clear')
    expect(asked).toEqual([])
    await called.speakAs('warm')
    expect(asked).toEqual(['/voice/warm/index.json', '/voice/warm/one.wav'])
    expect([sounds.as, sounds.voice.get('1')?.stress, sounds.voice.get('1')?.buffer.length]).toEqual([
      ...['warm', 0.1, 100],
    ])
    await called.speakAs('clear')
    expect(asked.slice(2)).toEqual(['/voice/index.json', '/voice/one.wav'])
  })
  it('is words too, each got once; one that cannot be had stays unspoken, and how many are there is told', async () => {
    const { asked, sounds, called } = setUp({ kick: 120, turn: 3000 })
    const told: string[] = []
    await called.learn(['kick', 'nobody', 'kick', '', 'turn'], (ready, all) => told.push(`${ready}/${all}`))
    expect(told).toEqual(['0/3', '1/3', '2/3', '3/3'])
    // A stress that lies seconds into a word is none.
    expect([...sounds.voice.keys()]).toEqual(['kick'])
    expect(sounds.voice.get('kick')?.stress).toBe(0.12)
    await called.learn(['kick'], (ready, all) => told.push(`${ready}/${all}`))
    expect([asked.length, told.at(-1)]).toEqual([3, '0/0'])
    expect((await called.word('kick')).stress).toBe(0.12)
    await expect(called.word('nobody')).rejects.toThrow('“nobody” cannot be spoken.')
    expect(new URLSearchParams(asked.at(-1)?.split('?')[1]).get('voice')).toBe('clear')
    // What no voice can read, as words of another script, is asked of nobody.
    const before = asked.length
    await expect(called.word('шаг')).rejects.toThrow('“шаг” cannot be spoken.')
    expect(asked).toHaveLength(before)
  })
  it('is the instructor’s own counts, as loud as all that is said', async () => {
    const { sounds, called } = setUp()
    await called.countWith([{ call: '5', wav: btoa('x'.repeat(4000)), stressMs: 250 }])
    expect([sounds.own?.get('5')?.stress, sounds.own?.get('5')?.buffer.length]).toEqual([0.25, 4000])
    expect(sounds.own?.get('5')?.buffer.getChannelData(0)[0]).not.toBe(0.5)
    await called.countWith([])
    expect(sounds.own?.size).toBe(0)
  })
  it('is recordings of calls; what is there is not got again, and what cannot be had is clicked alone', async () => {
    const { asked, sounds, called } = setUp()
    await called.learnRecordings(['rec', 'rec', 'gone'])
    expect([...sounds.recordings.keys()]).toEqual(['rec'])
    const { rate, samples } = sounds.recordings.get('rec') ?? { rate: 0, samples: [] }
    expect([rate, samples.length]).toEqual([8000, 800])
    // It was very quiet.
    expect(samples[400]).toBeGreaterThan(0.02)
    await called.learnRecordings(['rec'])
    expect(asked).toHaveLength(2)
    await expect(loadRecording('gone')).rejects.toThrow('cannot be had')
    const own = new Float32Array(800).fill(0.01)
    called.giveRecording('new', { rate: 8000, samples: own })
    expect(sounds.recordings.get('new')?.samples[400]).toBeCloseTo(samples[400] as number, 3)
    expect(own[400]).toBeCloseTo(0.01)
  })
})
