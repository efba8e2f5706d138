import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { countsAlone } from './counts-alone'
import { HearingSchema } from './hearing'
import { packPeaks, unpackPeaks } from './pictures'
import { songDoubt } from './sure'

describe('counts without a song', () => {
  it.each([
    [60, 8],
    [117.5, 20],
    [240, 512],
  ])('at %f BPM, %i of them, are exact and sure', (tempo, counts) => {
    const { hearing, peaks } = countsAlone(tempo, counts)
    expect(v.parse(HearingSchema, hearing)).toEqual(hearing)
    expect(hearing.beats).toHaveLength(counts)
    for (const [i, t] of hearing.beats.entries())
      expect(t - (hearing.beats[0] as number)).toBeCloseTo((i * 60) / tempo, 9)
    // The last count is whole.
    expect(hearing.duration).toBeGreaterThanOrEqual((hearing.beats.at(-1) as number) + 60 / tempo)
    expect(hearing.phrases).toEqual(Array.from({ length: Math.ceil(counts / 8) }, (_, i) => 8 * i))
    expect(songDoubt(hearing)).toBeNull()
    expect(unpackPeaks(packPeaks(peaks), hearing.version)).toEqual(peaks)
  })
})
