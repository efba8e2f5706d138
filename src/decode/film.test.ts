import { BufferSource } from 'mediabunny'
import { describe, expect, it } from 'vitest'
import { filmFaultSaid, lookAtFilm } from './film'
import { madeFilm } from './film.test-tools'

const look = (bytes: Uint8Array<ArrayBuffer>) => lookAtFilm(new BufferSource(bytes))

describe('a film', () => {
  it('says how long and how large it is, in either format', async () => {
    for (const format of ['webm', 'mp4'] as const) {
      const seen = await look(await madeFilm({ format, seconds: 3 }))
      expect(seen).toMatchObject({
        width: 320,
        height: 180,
        mime: `video/${format}`,
        video: 'vp8',
        audio: 'opus',
      })
      expect((seen as { seconds: number }).seconds).toBeCloseTo(3, 1)
    }
  })

  it('is none without a picture, without a sound, or of another kind', async () => {
    expect(await look(await madeFilm({ sound: false }))).toBe('no sound')
    expect(await look(await madeFilm({ picture: false }))).toBe('no picture')
    const silent = new BufferSource(await madeFilm({ sound: false }))
    expect(await lookAtFilm(silent, true)).toMatchObject({ video: 'vp8', audio: null })
    expect(await look(new TextEncoder().encode('a letter to a friend'))).toBe('no film')
    expect(await look(new Uint8Array(0))).toBe('no film')
    expect(filmFaultSaid('a.mov', 'no sound')).toContain('“a.mov”')
  })

  it('is broken, or read as far as it goes, wherever it is cut; it never hangs and never throws', async () => {
    for (const format of ['webm', 'mp4'] as const) {
      const whole = await madeFilm({ format })
      for (let share = 0.02; share < 1; share += 0.07) {
        const seen = await look(whole.slice(0, Math.floor(whole.length * share)))
        if (typeof seen !== 'string') expect(seen.seconds).toBeGreaterThan(0)
      }
      // Any byte of its head changed.
      for (let i = 0; i < 300; i += 7) {
        const other = whole.slice()
        other[i] = (other[i] as number) ^ 0xff
        const seen = await look(other)
        if (typeof seen !== 'string') expect(seen.seconds).toBeGreaterThan(0)
      }
    }
  }, 60_000)
})
