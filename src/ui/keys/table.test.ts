import { describe, expect, it } from 'vitest'
import { bound, KEYS, type KeyEntry, type KeyId, keysOf, STATIONS } from './table'

const entries = Object.entries(KEYS) as [KeyId, KeyEntry][]
/** Keys of pedals, page-turners and of every window: each place has its own sense of "go on" and "stop". */
const PLACE = /^(Space|Enter|Escape|Arrow\w+|Page\w+)$/

describe('the keys', () => {
  it('mean one thing each, wherever they mean anything', () => {
    const meanings = new Map<string, KeyId[]>()
    for (const [id, { keys }] of entries)
      for (const key of keys)
        if (!PLACE.test(key))
          meanings.set(key.toLowerCase(), [...(meanings.get(key.toLowerCase()) ?? []), id])
    expect([...meanings].filter(([, ids]) => ids.length > 1)).toEqual([])
  })
  it('are never two on one station', () => {
    for (const station of STATIONS) {
      const seen = entries.filter(([, e]) => e.on.includes(station)).flatMap(([, e]) => e.keys)
      expect(new Set(seen.map((k) => k.toLowerCase())).size, station).toBe(seen.length)
    }
  })
  it('go to counts by digits; nothing else stands on a bare digit', () => {
    for (const [id, { keys }] of entries)
      for (const key of keys) if (/^(Digit)?\d$/.test(key)) expect(id).toBe('toCount')
  })
  it('are all shown and named, and each station’s are on its sheet', () => {
    for (const [, e] of entries) expect([e.shown, e.name, e.group].every(Boolean)).toBe(true)
    for (const station of STATIONS) {
      const listed = [...keysOf(station).values()].flat().map((e) => e.id)
      expect(listed).toEqual(
        expect.arrayContaining(entries.filter(([, e]) => e.on.includes(station)).map(([id]) => id)),
      )
      expect(listed).toContain('sheetOfKeys')
    }
  })
  it('are bound under all their names', () => {
    const act = () => {}
    expect(bound({ write: act, toCount: act })).toEqual(
      Object.fromEntries(['w', 'F2', '1', '2', '3', '4', '5', '6', '7', '8', '9'].map((k) => [k, act])),
    )
  })
})
