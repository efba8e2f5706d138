import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  cut,
  FRAME,
  findStrokes,
  HOP,
  monoOf,
  SongVoices,
  Stretcher,
  soundAt,
  stretched,
  stretchFaster,
  strokeBefore,
} from '.'
import { FAST } from './fast.test-tools'
import { beat, chord, farthest, hat, RATE, riseOf, sharpness, strikesIn } from './sounds.test-tools'

// As it is heard wherever this can be run.
stretchFaster(FAST)

const speeds = [0.4, 0.5, 0.6, 0.75, 0.9, 1.1]

describe('which moment is heard', () => {
  const strokes = fc
    .array(fc.double({ min: 0.02, max: 1.5, noNaN: true }), { maxLength: 12 })
    .map((gaps) => gaps.map((_, i) => gaps.slice(0, i + 1).reduce((a, b) => a + b)))
  const speed = fc.double({ min: 0.4, max: 1.1, noNaN: true })
  it('goes forward all the time, each stroke in its place', () => {
    fc.assert(
      fc.property(strokes, speed, (s, v) => {
        for (const t of s) expect(soundAt(s, t, v)).toBeCloseTo(t, 9)
        const wrong: number[] = []
        let last = Number.NEGATIVE_INFINITY
        for (let t = -1; t < (s.at(-1) ?? 0) + 1; t += 0.003) {
          const now = soundAt(s, t, v)
          // Never far from the even place.
          if (!(now >= last && Math.abs(now - t) < 0.05)) wrong.push(t)
          last = now
        }
        expect(wrong).toEqual([])
      }),
    )
  })
  it('around a stroke runs as the song does', () => {
    for (const v of speeds)
      for (const d of [-0.02, -0.01, 0.01, 0.02]) expect(soundAt([1, 2], 2 + d * v, v)).toBeCloseTo(2 + d, 9)
    // Two strokes close to each other share the time between them.
    for (const d of [0.01, 0.019]) expect(soundAt([1, 1.05], 1 + d * 0.5, 0.5)).toBeCloseTo(1 + d, 9)
    expect(soundAt([1, 1.05], 1.025, 0.5)).toBeCloseTo(1.025, 9)
  })
  it('is the even one where no stroke is near', () => {
    expect([soundAt([], 3, 0.5), soundAt([10], 3, 0.5), soundAt([1], 3, 0.5)]).toEqual([3, 3, 3])
    expect(soundAt([1], 1.24, 0.5)).toBeCloseTo(1.24, 1)
  })
  it('looks for the stroke before', () => {
    expect([0.5, 1, 1.5, 2, 9].map((t) => strokeBefore([1, 2], t))).toEqual([-1, 0, 0, 1, 1])
    expect(strokeBefore([], 1)).toBe(-1)
  })
})

describe('strokes', () => {
  it('are found where they begin, and nothing else is', () => {
    const { sound, hats, kicks } = beat(6)
    const found = findStrokes(sound, RATE)
    const all = [...hats, ...kicks].sort((a, b) => a - b)
    // The chord begins, too.
    expect([...found].filter((t) => t > 0.02)).toHaveLength(all.length)
    for (const t of hats) expect(Math.min(...found.map((f) => Math.abs(f - t)))).toBeLessThan(0.001)
    for (const t of kicks) expect(Math.min(...found.map((f) => Math.abs(f - t)))).toBeLessThan(0.008)
  })
  it('are not in a tone, in silence, or in nothing', () => {
    expect([...findStrokes(chord(2), RATE)].filter((t) => t > 0.02)).toEqual([])
    expect([...findStrokes(new Float32Array(RATE), RATE)]).toEqual([])
    expect([...findStrokes(new Float32Array(0), RATE)]).toEqual([])
  })
  it('are the same however loud the song is, and tell how far looking is', () => {
    const { sound } = beat(3)
    const told: number[] = []
    const loud = findStrokes(sound, RATE, (share) => told.push(share))
    expect(told).toEqual([0, 0.25, 0.5, 0.75])
    expect([
      ...findStrokes(
        sound.map((x) => x / 8),
        RATE,
      ),
    ]).toEqual([...loud])
  })
  it('of both sides are looked for in their sum', () => {
    const [left, right] = [Float32Array.of(1, 0), Float32Array.of(0, 0.5)]
    expect([...monoOf([left, right])]).toEqual([0.5, 0.25])
    expect(monoOf([left])).toBe(left)
    expect(monoOf([])).toHaveLength(0)
  })
})

describe('a stretched song', () => {
  const { sound, hats } = beat(6)
  const song = { channels: [sound], rate: RATE, strokes: findStrokes(sound, RATE) }
  const whole = (speed: number) => {
    const [out] = stretched(song, { from: 0, speed, samples: Math.floor(sound.length / speed) })
    return out as Float32Array
  }

  it.each(speeds)('at %f times the speed has its hats as sharp as they were, in their places', (speed) => {
    const out = whole(speed)
    const inside = hats.slice(1, -1)
    const was = riseOf(sound, inside)
    const is = riseOf(
      out,
      inside.map((t) => t / speed),
    )
    expect(is.ms).toBeLessThan(was.ms + 0.6)
    // Nothing is heard of them before.
    expect(is.before).toBeLessThan(Math.max(-30, was.before + 3))
  })

  it.each(speeds)(
    'at %f times the speed every stroke lies where it belongs, within half a millisecond',
    (speed) => {
      const out = whole(speed)
      /** Where a hat is half as loud as it becomes. */
      const half = (x: Float32Array, t: number) => {
        const from = Math.round(t * RATE) - 1000
        const loud = sharpness(x, from, 2000)
        const most = loud.reduce((m, y) => Math.max(m, y))
        return (from + loud.findIndex((y) => y >= most / 2)) / RATE - t
      }
      for (const t of hats.slice(1, -1))
        expect(Math.abs(half(out, t / speed) - half(sound, t))).toBeLessThan(0.0005)
    },
  )

  it.each([
    ['a roll', 0.06, 12],
    ['a fast roll', 0.042, 16],
    ['a flam', 0.022, 2],
  ])('has each stroke of %s once, however slowly', (_, apart, count) => {
    const struck = new Float32Array(2 * RATE)
    for (let k = 0; k < count; k++)
      hat().forEach((x, i) => {
        const at = Math.round((0.8 + k * apart) * RATE) + i
        struck[at] = (struck[at] as number) + x * Math.exp(-i / (0.006 * RATE))
      })
    const roll = { channels: [struck], rate: RATE, strokes: findStrokes(struck, RATE) }
    for (const speed of [0.5, 0.75]) {
      const [out] = stretched(roll, { from: 0, speed, samples: Math.floor(struck.length / speed) })
      expect([speed, strikesIn(out as Float32Array)]).toEqual([speed, strikesIn(struck)])
      expect(strikesIn(struck)).toBe(count)
    }
  })

  it('keeps its pitch, its level, and nothing beside its partials', () => {
    const tone = Float32Array.from(
      { length: 4 * RATE },
      (_, i) => 0.5 * Math.sin((2 * Math.PI * 440 * i) / RATE),
    )
    for (const speed of speeds) {
      const part = { from: 1, speed, samples: RATE }
      const [out] = stretched({ channels: [tone], rate: RATE, strokes: [] }, part)
      // What is left when the tone of that pitch is taken away.
      let [a, b] = [0, 0]
      out?.forEach((x, i) => {
        a += (2 / RATE) * x * Math.sin((2 * Math.PI * 440 * i) / RATE)
        b += (2 / RATE) * x * Math.cos((2 * Math.PI * 440 * i) / RATE)
      })
      const rest = out?.reduce((sum, x, i) => {
        const w = (2 * Math.PI * 440 * i) / RATE
        return sum + (x - a * Math.sin(w) - b * Math.cos(w)) ** 2 / RATE
      }, 0)
      expect(Math.hypot(a, b)).toBeCloseTo(0.5, 2)
      expect(10 * Math.log10((rest as number) / 0.125)).toBeLessThan(-80)
    }
  })

  it('keeps its picture: what is on one side stays there, in its measure', () => {
    const quiet = sound.map((x) => 0.3 * x)
    const part = { from: 0.5, speed: 0.6, samples: 2 * RATE }
    const [left, right] = stretched({ ...song, channels: [sound, quiet] }, part)
    expect(
      farthest(
        right as Float32Array,
        (left as Float32Array).map((x) => 0.3 * x),
      ),
    ).toBeLessThan(1e-6)
    const [alone, silent] = stretched({ ...song, channels: [sound, new Float32Array(sound.length)] }, part)
    expect(silent?.every((x) => Math.abs(x) < 1e-6)).toBe(true)
    expect(alone?.some((x) => Math.abs(x) > 0.1)).toBe(true)
  })

  it('is the song itself at full speed, to the bit', () => {
    const part = { from: 0.25, speed: 1, samples: 1000 }
    const [out] = stretched(song, part)
    expect(out).toEqual(sound.subarray(11_025, 12_025))
    expect([...cut(Float32Array.of(1, 2, 3), -2, 4)]).toEqual([0, 0, 1, 2])
    expect([...cut(Float32Array.of(1, 2, 3), 2, 3)]).toEqual([3, 0, 0])
    expect([...cut(Float32Array.of(1), 5, 2)]).toEqual([0, 0])
    expect([...cut(Float32Array.of(1), -5, 2)]).toEqual([0, 0])
  })

  it('is silent before and after the sound, and tells how far it is', () => {
    const told: number[] = []
    const part = { from: -2, speed: 0.8, samples: 4 * RATE }
    const [out] = stretched(song, part, (share) => told.push(share))
    const loud = (a: number, b: number) =>
      Math.max(...(out as Float32Array).subarray(a * RATE, b * RATE).map(Math.abs))
    expect(loud(0, 2.4)).toBeLessThan(1e-3)
    expect(loud(2.6, 3)).toBeGreaterThan(0.1)
    expect(told[0]).toBe(0)
    expect(told).toEqual([...told].sort((a, b) => a - b))
  })

  it('takes another speed while it is heard, without a gap', () => {
    const stretcher = new Stretcher(song, 1, 0.5)
    const out = new Float32Array(80 * HOP)
    for (let k = 0; k < 80; k++) {
      if (k === 40) stretcher.speed = 1.1
      stretcher.next([out], k * HOP)
    }
    // The frame after those that have a part in what was heard is the first at the new speed.
    const change = 42 * HOP
    const moment = 1 + (change * 0.5) / RATE
    const place = (t: number) => change / RATE + (t - moment) / 1.1
    const later = hats.map(place).filter((t) => t > (change + FRAME) / RATE && t < (78 * HOP) / RATE - 0.06)
    expect(later.length).toBeGreaterThan(1)
    expect(riseOf(out, later).ms).toBeLessThan(2)
    for (let k = 2; k < 80; k++)
      expect(Math.max(...out.subarray(k * HOP, (k + 1) * HOP))).toBeGreaterThan(0.02)
  })
})

describe('parts of a song on a clock', () => {
  const { sound } = beat(6)
  const strokes = findStrokes(sound, RATE)
  const song = { channels: [sound], rate: RATE, strokes }
  /** Renders in pieces of 128 samples, as a device asks for them. */
  function rendered(voices: SongVoices, samples: number, now = 0): [Float32Array, Float32Array] {
    const out = [new Float32Array(samples), new Float32Array(samples)] as [Float32Array, Float32Array]
    for (let t = 0; t < samples; t += 128)
      voices.render(
        out.map((c) => c.subarray(t, t + 128)),
        now + t,
      )
    return out
  }
  const playing = () => {
    const voices = new SongVoices(RATE)
    voices.load(song)
    return voices
  }
  const JOIN = Math.round(0.004 * RATE)

  it('are the song to the bit at full speed, faded at their ends, on both sides', () => {
    const voices = playing()
    voices.play({ at: 1000, samples: 5000, from: 0.5, speed: 1 })
    const [left, right] = rendered(voices, 8192)
    const from = 0.5 * RATE
    expect(left.subarray(1000, 6000 - JOIN)).toEqual(sound.subarray(from, from + 5000 - JOIN))
    expect(right).toEqual(left)
    expect(left.subarray(0, 1000 - JOIN).every((x) => x === 0)).toBe(true)
    expect(left.subarray(6000).every((x) => x === 0)).toBe(true)
    const middle = left[1000 - JOIN / 2] as number
    expect(middle).toBeCloseTo((sound[from - JOIN / 2] as number) / 2, 2)
  })

  it('are what is stretched at once, at another speed', () => {
    const voices = playing()
    voices.play({ at: 2000, samples: 30_000, from: 1, speed: 0.75 })
    const [left] = rendered(voices, 40_960)
    const from = 1 - (JOIN / RATE) * 0.75
    const [whole] = stretched(song, { from, speed: 0.75, samples: 30_000 + JOIN })
    const made = whole?.subarray(JOIN, JOIN + 29_000) as Float32Array
    expect(farthest(left.subarray(2000, 31_000), made)).toBeLessThan(1e-6)
  })

  it('join without a hole: a loop sounds as it did at first', () => {
    for (const speed of [1, 0.6]) {
      const voices = playing()
      const samples = 44_032
      for (const k of [0, 1, 2]) voices.play({ at: 1024 + k * samples, samples, from: 0.5, speed })
      const [left] = rendered(voices, 1024 + 3 * samples)
      const [first, second] = [1024, 1024 + samples].map((at) => left.subarray(at, at + samples - JOIN))
      expect(farthest(first as Float32Array, second as Float32Array)).toBeLessThan(1e-6)
      // Across the join it is as loud as elsewhere.
      const join = 1024 + samples
      const level = (a: number, b: number) =>
        Math.sqrt(left.subarray(a, b).reduce((s, x) => s + x * x, 0) / (b - a))
      expect(level(join - JOIN, join) / level(join - 10 * JOIN, join - JOIN)).toBeGreaterThan(0.3)
    }
  })

  it('begin late where they are told of late, in their place', () => {
    for (const speed of [1, 0.5]) {
      const late = playing()
      rendered(late, 5120)
      late.play({ at: 0, samples: 60_000, from: 0.5, speed })
      const [out] = rendered(late, 40_960, 5120)
      const part = { from: 0.5 + (5120 / RATE) * speed, speed, samples: 40_960 }
      const [there] = stretched(song, part)
      expect(farthest(out.subarray(0, 40_000), there?.subarray(0, 40_000) as Float32Array)).toBeLessThan(1e-6)
    }
  })

  it('stop within a few milliseconds, without a click; what has not begun does not begin', () => {
    const voices = playing()
    voices.play({ at: 0, samples: 80_000, from: 0.5, speed: 0.5 })
    voices.play({ at: 80_000, samples: 80_000, from: 0.5, speed: 1 })
    rendered(voices, 12_800)
    voices.stop()
    const [left] = rendered(voices, 80_000, 12_800)
    expect(left.subarray(0, JOIN / 2).some((x) => Math.abs(x) > 1e-3)).toBe(true)
    expect(left.subarray(JOIN).every((x) => x === 0)).toBe(true)
  })

  it('give way at a sample to the same place at another speed, without a hole', () => {
    const voices = playing()
    voices.play({ at: 0, samples: 100_000, from: 0.5, speed: 0.5 })
    const [before] = rendered(voices, 12_800)
    const at = 12_800 + 2646
    voices.cut(at)
    voices.play({ at, samples: 20_000, from: 0.5 + (at / RATE) * 0.5, speed: 0.9 })
    const [after] = rendered(voices, 25_600, 12_800)
    const level = (x: Float32Array, a: number, b: number) =>
      Math.sqrt(x.subarray(a, b).reduce((sum, y) => sum + y * y, 0) / (b - a))
    expect(level(after, 2646 - JOIN, 2646)).toBeGreaterThan(0.03)
    expect(level(before, 8000, 12_800)).toBeGreaterThan(0.03)
    const part = { from: 0.5 + (at / RATE) * 0.5 - (JOIN / RATE) * 0.9, speed: 0.9, samples: 15_000 }
    const [alone] = stretched(song, part)
    const made = alone?.subarray(JOIN, JOIN + 10_000) as Float32Array
    expect(farthest(after.subarray(2646, 12_646), made)).toBeLessThan(1e-6)
  })

  it('leave nothing of a part that is cut where it would begin', () => {
    const [cutOff, plain] = [playing(), playing()]
    cutOff.play({ at: 1000, samples: 5000, from: 0.2, speed: 1 })
    cutOff.cut(1000)
    for (const v of [cutOff, plain]) v.play({ at: 1000, samples: 5000, from: 0.5, speed: 1 })
    expect(rendered(cutOff, 3000)).toEqual(rendered(plain, 3000))
  })

  it('are silent without a song', () => {
    const voices = new SongVoices(RATE)
    voices.play({ at: 0, samples: 100, from: 0, speed: 1 })
    expect(rendered(voices, 256)[0].every((x) => x === 0)).toBe(true)
    const other = playing()
    other.play({ at: 0, samples: 1000, from: 0.5, speed: 1 })
    other.load(null)
    expect(rendered(other, 256)[0].every((x) => x === 0)).toBe(true)
    expect(FRAME).toBe(4 * HOP)
  })
})
