import { describe, expect, it } from 'vitest'
import { type Found, found } from './find'
import { SETTINGS } from './settings-list'
import { KEYS, STATIONS } from './table'

const action = (name: string, tip = ''): Found => ({
  kind: 'action',
  id: name,
  name,
  tip,
  key: 'X',
  keys: ['x'],
})
const names = (text: string, all: readonly Found[]) => found(text, all).map((f) => f.name)

describe('what some words find', () => {
  const all = [
    action('Split here', 'A new phrase'),
    action('Join with next'),
    action('4 more counts', 'A phrase of 4'),
    action('To the other side'),
  ]
  it('is what holds all of them, by name before explanation', () => {
    expect(names('phrase', all)).toEqual(['Split here', '4 more counts'])
    expect(names('SPL', all)).toEqual(['Split here'])
    expect(names('other side', all)).toEqual(['To the other side'])
    expect(names('side join', all)).toEqual([])
    expect(names('  ', all)).toEqual([])
    expect(names('more (', all)).toEqual([])
  })
  it('puts what begins so first, and knows letters with marks', () => {
    expect(names('to', [action('Go to'), action('Together'), action('x', 'to be')])).toEqual([
      'Together',
      'Go to',
      'x',
    ])
    expect(names('chasse', [action('chassé')])).toEqual(['chassé'])
  })
  it('is every key and every setting by its own name', () => {
    const list = Object.values(KEYS).map((k) => action(k.name, k.tip))
    for (const { name } of list) expect(names(name, list)).toContain(name)
    for (const { name, station } of SETTINGS) {
      expect(STATIONS).toContain(station)
      expect(
        names(
          name.split(/[,:]/)[0] ?? '',
          SETTINGS.map((s): Found => ({ kind: 'setting', id: s.name, ...s })),
        ),
      ).toContain(name)
    }
  })
})
