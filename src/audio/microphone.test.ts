import { afterEach, describe, expect, it, vi } from 'vitest'
import { listenToMicrophone, refused } from './microphone'

afterEach(() => {
  vi.unstubAllGlobals()
})

describe('why there is no microphone', () => {
  it.each([
    ['NotAllowedError', 'not allowed to use the microphone'],
    ['NotFoundError', 'There is no microphone'],
    ['NotReadableError', 'Another program holds the microphone'],
    ['AbortError', 'could not be opened: gone wrong'],
  ])('is said in words: %s', (name, words) => {
    expect(refused(new DOMException('gone wrong', name), 'microphone')).toContain(words)
    expect(refused(new DOMException('gone wrong', name), 'camera')).not.toContain('microphone')
  })
  it('is said of what is no error of a browser, too', () => {
    expect(refused(new Error('NotAllowedError'), 'camera')).toBe(
      'The camera could not be opened: NotAllowedError',
    )
  })
})

/** A browser with a microphone. @param broken its worklet cannot be loaded */
function browser({ refuses = '', broken = false } = {}) {
  const track = {
    stopped: false,
    ended: () => {},
    stop: () => {},
    addEventListener: (_: string, __: () => void) => {},
  }
  track.stop = () => {
    track.stopped = true
  }
  track.addEventListener = (name, f) => {
    if (name === 'ended') track.ended = f
  }
  const asked: unknown[] = []
  const getUserMedia = async (what: unknown) => {
    asked.push(what)
    if (refuses) throw new DOMException('no', refuses)
    return { getTracks: () => [track], getAudioTracks: () => [track] }
  }
  vi.stubGlobal('navigator', { mediaDevices: { getUserMedia } })
  const port = { onmessage: null as ((e: { data: unknown }) => void) | null }
  const joined: string[] = []
  const node = {
    port,
    connect: (to: string) => joined.push(`node to ${to}`),
    disconnect: () => joined.push('node off'),
  }
  vi.stubGlobal('AudioWorkletNode', function AudioWorkletNode(_: unknown, name: string) {
    joined.push(name)
    return node
  })
  const context = {
    destination: 'device',
    audioWorklet: {
      addModule: async () => {
        if (broken) throw new Error('no module')
      },
    },
    createMediaStreamSource: () => ({ connect: () => node, disconnect: () => joined.push('source off') }),
  }
  return { track, asked, port, joined, context: context as never as AudioContext }
}

describe('a microphone', () => {
  it('is heard as it is, block by block with its time, until stopped; that it is gone is told', async () => {
    const { track, asked, port, joined, context } = browser()
    const heard: [number, number][] = []
    let lost = 0
    const stop = await listenToMicrophone(
      context,
      (block, at) => heard.push([block.length, at]),
      () => lost++,
    )
    const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false }
    expect(asked).toEqual([{ audio: expect.objectContaining(plain) }])
    port.onmessage?.({ data: { block: new Float32Array(128), at: 3.5 } })
    expect(() => port.onmessage?.({ data: { block: [1], at: 3.5 } })).toThrow()
    expect(heard).toEqual([[128, 3.5]])
    track.ended()
    expect(lost).toBe(1)
    stop()
    expect(joined).toEqual(['microphone', 'node to device', 'source off', 'node off'])
    expect([track.stopped, port.onmessage]).toEqual([true, null])
  })
  it('is let go of where nothing can listen to it, and refused in words', async () => {
    const none = () => {}
    const { track, context } = browser({ broken: true })
    await expect(listenToMicrophone(context, none)).rejects.toThrow('no module')
    expect(track.stopped).toBe(true)
    const shut = browser({ refuses: 'NotFoundError' })
    await expect(listenToMicrophone(shut.context, none)).rejects.toThrow('There is no microphone')
    vi.stubGlobal('navigator', {})
    await expect(listenToMicrophone(shut.context, none)).rejects.toThrow('localhost or https')
  })
})
