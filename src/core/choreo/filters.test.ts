import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Cue } from '../routine'
import { asDanced, asSeen, optionsIn, rolesIn } from './filters'

const cue = (id: string, what: Partial<Cue> = {}): Cue => ({
  ...{ id, at: 0, length: 24, layer: 'feet', move: id, side: 'none', call: '' },
  ...what,
})
const danced = (cues: Cue[], role: string, option: 'base' | 'easier' | 'harder') =>
  asDanced(cues, role, option).map((c) => c.id)

describe('who dances what', () => {
  const all = cue('all')
  const lead = cue('lead', { role: 'leader' })
  const low = cue('easier', { option: 'easier' })
  const leadLow = cue('lead low', { role: 'leader', option: 'easier' })
  const arms = cue('arms', { layer: 'arms' })
  const later = cue('later', { at: 24 })

  it('names roles and options in order, each once; the base is no option', () => {
    const cues = [lead, low, leadLow, cue('f', { role: 'follower' }), cue('b', { option: 'base' }), all]
    expect(rolesIn(cues)).toEqual(['leader', 'follower'])
    expect(optionsIn(cues)).toEqual(['easier'])
  })
  it('is the base for everybody', () => {
    expect(danced([all, lead, low, arms], '', 'base')).toEqual(['all', 'arms'])
    expect(danced([all, cue('b', { option: 'base' })], '', 'base')).toEqual(['all', 'b'])
  })
  it('is what is written for a role in place of the base there, in that layer alone', () => {
    expect(danced([all, lead, arms, later], 'leader', 'base')).toEqual(['lead', 'arms', 'later'])
    expect(danced([all, lead, arms, later], 'follower', 'base')).toEqual(['all', 'arms', 'later'])
  })
  it('is what is written for an option, a role before an option, and both before each', () => {
    expect(danced([all, low], '', 'easier')).toEqual(['easier'])
    expect(danced([all, low, lead], 'leader', 'easier')).toEqual(['lead'])
    expect(danced([all, low, lead, leadLow], 'leader', 'easier')).toEqual(['lead low'])
    expect(danced([all, low, lead, leadLow], 'leader', 'harder')).toEqual(['lead'])
  })
  it('gives way where they overlap, not where one ends as the other begins', () => {
    const long = cue('long', { length: 48 })
    expect(danced([long, cue('own', { at: 24, role: 'leader' })], 'leader', 'base')).toEqual(['own'])
    expect(danced([all, cue('own', { at: 24, role: 'leader' })], 'leader', 'base')).toEqual(['all', 'own'])
  })
  it('has what is free and what is held in every version', () => {
    const free = cue('free', { option: 'open', at: 24 })
    const held = cue('held', { option: 'hold', at: 48 })
    expect(danced([all, free, held], '', 'base')).toEqual(['all', 'free', 'held'])
    expect(danced([all, low, free, held], 'leader', 'easier')).toEqual(['easier', 'free', 'held'])
  })
  it('is found as by looking at each two cues, wherever they lie and however long they are', () => {
    const any = fc.record({
      ...{ at: fc.integer({ min: -60, max: 200 }), length: fc.integer({ min: 1, max: 200 }) },
      layer: fc.constantFrom('feet' as const, 'arms' as const),
      role: fc.constantFrom(undefined, 'leader', 'follower'),
      option: fc.constantFrom(undefined, 'base' as const, 'easier' as const),
    })
    const weight = (c: Cue) => (c.role ? 2 : 0) + (c.option === 'easier' ? 1 : 0)
    const over = (a: Cue, b: Cue) => a.layer === b.layer && a.at < b.at + b.length && b.at < a.at + a.length
    fc.assert(
      fc.property(fc.array(any, { maxLength: 30 }), (list) => {
        const cues = list.map((c, i) => cue(`${i}`, c as Partial<Cue>))
        const able = cues.filter((c) => c.role !== 'follower')
        const own = able.filter((c) => !able.some((o) => weight(o) > weight(c) && over(o, c)))
        expect(asDanced(cues, 'leader', 'easier')).toEqual(own)
        const same = (a: Cue, b: Cue) => a.role === b.role && a.option === 'easier' && over(a, b)
        const seen = cues.filter((c) => c.option === 'easier' || !cues.some((o) => same(o, c)))
        expect(asSeen(cues, '', 'easier')).toEqual(seen)
      }),
    )
  })

  it('shown for everybody is what all roles do, each role’s base giving way to its own version alone', () => {
    const seen = (cues: Cue[], role: string, option: 'base' | 'easier' | 'harder') =>
      asSeen(cues, role, option).map((c) => c.id)
    const follow = cue('follow', { role: 'follower' })
    expect(seen([all, lead, follow, low, leadLow], '', 'base')).toEqual(['all', 'lead', 'follow'])
    expect(seen([all, lead, follow, leadLow], '', 'easier')).toEqual(['all', 'follow', 'lead low'])
    expect(seen([all, lead, low], '', 'easier')).toEqual(['lead', 'easier'])
    expect(seen([all, lead, follow, low], 'leader', 'base')).toEqual(['lead'])
    expect(seen([all, cue('late', { option: 'easier', at: 24 })], '', 'easier')).toEqual(['all', 'late'])
  })
})
