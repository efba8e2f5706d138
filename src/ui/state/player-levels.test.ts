import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { USUAL_STEP_BACK, USUAL_VOLUMES } from '@/core/loudness'
import {
  heardVolumes,
  keepAppVoice,
  keepOwnVoice,
  keepStepBack,
  keepVolumes,
  keptAppVoice,
  keptOwnVoice,
  keptStepBack,
  keptVolumes,
} from './player-levels'

/** What a browser keeps for a page. */
const kept = new Map<string, string>()

beforeEach(() => {
  kept.clear()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  })
})
afterEach(() => vi.unstubAllGlobals())

describe('the volumes of a device', () => {
  it('are what they were last, each for itself; the usual ones at first', () => {
    expect(keptVolumes()).toEqual(USUAL_VOLUMES)
    const mine = { music: 0, clicks: 1, voice: 0.25 }
    keepVolumes(mine)
    expect(keptVolumes()).toEqual(mine)
  })
  it.each([
    ['nothing that can be read', '{'],
    ['no volumes', '[]'],
    ['words', '{"music":"loud","clicks":null,"voice":true}'],
    ['too much and too little', '{"music":1.01,"clicks":-0.01}'],
  ])('are the usual ones where %s is kept', (_, text) => {
    kept.set('azalea-levels', text)
    expect(keptVolumes()).toEqual(USUAL_VOLUMES)
  })
  it('and which voice of the app counts', () => {
    expect(keptAppVoice()).toBe('clear')
    keepAppVoice('warm')
    expect(keptAppVoice()).toBe('warm')
    kept.set('azalea-app-voice', 'shrill')
    expect(keptAppVoice()).toBe('clear')
  })
  it('and how far the song steps back under what is said', () => {
    expect(keptStepBack()).toBe(USUAL_STEP_BACK)
    for (const d of [0, 3, 12]) {
      keepStepBack(d)
      expect(keptStepBack()).toBe(d)
    }
    for (const other of ['', '4', '-3', 'much']) {
      kept.set('azalea-step-back', other)
      expect([other, keptStepBack()]).toEqual([other, other === '' ? 0 : USUAL_STEP_BACK])
    }
  })
  it('are the usual ones in a browser that keeps nothing, and nobody is troubled', () => {
    const refuses = () => {
      throw new DOMException('no', 'SecurityError')
    }
    vi.stubGlobal('localStorage', { getItem: refuses, setItem: refuses })
    expect(() => keepVolumes({ music: 0, clicks: 0, voice: 0 })).not.toThrow()
    expect(() => keepOwnVoice(true)).not.toThrow()
    expect(() => keepStepBack(3)).not.toThrow()
    expect(() => keepAppVoice('warm')).not.toThrow()
    expect(keptAppVoice()).toBe('clear')
    expect(keptStepBack()).toBe(USUAL_STEP_BACK)
    expect(keptVolumes()).toEqual(USUAL_VOLUMES)
    expect(keptOwnVoice()).toBe(false)
  })
  it('are heard as far as they are asked for: calls go with the counts', () => {
    const all = { music: 0.5, clicks: 0.4, voice: 0.3 }
    expect(heardVolumes(all, 'both')).toEqual(all)
    expect(heardVolumes(all, 'counts')).toEqual({ ...all, music: 0 })
    expect(heardVolumes(all, 'music')).toEqual({ music: 0.5, clicks: 0, voice: 0 })
  })
  it('go with whose voice counts', () => {
    expect(keptOwnVoice()).toBe(false)
    keepOwnVoice(true)
    expect(keptOwnVoice()).toBe(true)
    keepOwnVoice(false)
    expect(keptOwnVoice()).toBe(false)
    expect(keptVolumes()).toEqual(USUAL_VOLUMES)
  })
})
