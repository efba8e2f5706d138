import { beforeEach, describe, expect, it, vi } from 'vitest'
import { didFirst, type FirstStep, loadFirstSteps, nextFirstStep, useFirstSteps } from './first-steps'

const next = (station: 'count' | 'cue', cues: number, ...done: FirstStep[]) =>
  nextFirstStep({ station, counted: true, cues }, new Set(done))

describe('what a newcomer does next', () => {
  it('is to listen, to write an eight, to drill it, each where it is done', () => {
    expect(next('count', 0)).toBe('listen')
    expect(next('count', 0, 'listen')).toBe('write')
    expect(next('cue', 0)).toBe('write')
    expect(next('cue', 4)).toBe('drill')
    expect(next('count', 4, 'listen', 'write')).toBe('drill')
  })
  it('is nothing before anything is counted, and once it was done', () => {
    expect(nextFirstStep({ station: 'cue', counted: false, cues: 0 }, new Set())).toBe(null)
    expect(next('count', 0, 'drill')).toBe(null)
    expect(next('cue', 4, 'drill')).toBe(null)
    expect(next('cue', 0, 'write')).toBe(null)
  })
})

describe('what was done', () => {
  const kept = new Map<string, string>()
  beforeEach(() => {
    kept.clear()
    useFirstSteps.setState({ done: null })
    vi.stubGlobal('localStorage', {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, v: string) => kept.set(k, v),
    })
  })
  const again = () => {
    useFirstSteps.setState({ done: null })
    loadFirstSteps()
    return [...(useFirstSteps.getState().done ?? [])]
  }
  it('is kept on the device', () => {
    didFirst('listen')
    didFirst('drill', 'write')
    expect(again().sort()).toEqual(['drill', 'listen', 'write'])
  })
  it('is nothing where what is kept cannot be read', () => {
    for (const odd of ['{', '7', '["dance"]', 'null']) {
      kept.set('azalea.first-steps', odd)
      expect(again()).toEqual([])
    }
  })
  it('a browser that keeps nothing does not break it', () => {
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('refused')
      },
      setItem: () => {
        throw new Error('refused')
      },
    })
    didFirst('write')
    expect([...(useFirstSteps.getState().done ?? [])]).toEqual(['write'])
  })
})
