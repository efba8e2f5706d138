import { describe, expect, it } from 'vitest'
import { outputsDiffer } from './devices'

const one = (deviceId: string, groupId = 'g') => ({ deviceId, groupId })

describe('outputs of sound', () => {
  it('differ where one came or went, or the usual one is another', () => {
    expect(outputsDiffer([one('a'), one('b')], [one('a')])).toBe(true)
    expect(outputsDiffer([one('a')], [one('a'), one('b')])).toBe(true)
    expect(outputsDiffer([one('default', 'g')], [one('default', 'h')])).toBe(true)
  })
  it('are the same when only a camera or a microphone came, in any order', () => {
    expect(outputsDiffer([one('a'), one('b')], [one('b'), one('a')])).toBe(false)
  })
  it('are taken to differ where the browser tells nothing', () => {
    expect(outputsDiffer([one('')], [one('')])).toBe(true)
    expect(outputsDiffer([], [])).toBe(true)
  })
})
