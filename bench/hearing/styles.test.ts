import { describe, expect, it } from 'vitest'
import { STYLED, styled } from './styles'

describe('songs made by rule', () => {
  it('have as many beats as bars times metre, and notes only within the song', () => {
    for (const one of STYLED) {
      const song = styled(one)
      expect(song.beats.length).toBe(song.downbeats.length * one.style.beats)
      expect(song.notes.every((n) => n.on >= 0 && n.on < song.end)).toBe(true)
    }
  })
})
