import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isLongFloat, readWav, toMono, writeWav } from './wav'

/** Puts a RIFF file together by hand, chunk by chunk (IBM & Microsoft 1991). */
function riff(...chunks: [string, number[]][]): Uint8Array {
  const body = chunks.flatMap(([name, bytes]) => [
    ...ascii(name),
    ...u32(bytes.length),
    ...bytes,
    ...(bytes.length % 2 ? [0] : []),
  ])
  return Uint8Array.from([...ascii('RIFF'), ...u32(body.length + 4), ...ascii('WAVE'), ...body])
}
const ascii = (s: string) => [...s].map((c) => c.charCodeAt(0))
const u16 = (n: number) => [n & 255, (n >> 8) & 255]
const u32 = (n: number) => [...u16(n & 0xffff), ...u16(n >>> 16)]
const fmt = (kind: number, channels: number, rate: number, bits: number): [string, number[]] => [
  'fmt ',
  [
    ...u16(kind),
    ...u16(channels),
    ...u32(rate),
    ...u32((rate * channels * bits) / 8),
    ...u16((channels * bits) / 8),
    ...u16(bits),
  ],
]
const f32 = (x: number) => [...new Uint8Array(Float32Array.of(x).buffer)]
const f64 = (x: number) => [...new Uint8Array(Float64Array.of(x).buffer)]

describe('reading WAV', () => {
  it.each([
    ['8 bit, unsigned', fmt(1, 1, 8000, 8), [128, 0, 192], [0, -1, 0.5]],
    ['16 bit', fmt(1, 1, 8000, 16), [...u16(0), ...u16(0x8000), ...u16(0x4000)], [0, -1, 0.5]],
    ['24 bit', fmt(1, 1, 8000, 24), [0, 0, 0, 0, 0, 0x80, 0, 0, 0x40], [0, -1, 0.5]],
    ['32 bit', fmt(1, 1, 8000, 32), [...u32(0), ...u32(0x80000000), ...u32(0x40000000)], [0, -1, 0.5]],
    ['32 bit float', fmt(3, 1, 8000, 32), [...f32(0), ...f32(-1), ...f32(0.5)], [0, -1, 0.5]],
    ['64 bit float', fmt(3, 1, 8000, 64), [...f64(0), ...f64(-1), ...f64(0.5)], [0, -1, 0.5]],
  ] as [string, [string, number[]], number[], number[]][])('%s', (_, format, data, values) => {
    const { sampleRate, channels } = readWav(riff(format, ['data', data]))
    expect(sampleRate).toBe(8000)
    expect([...(channels[0] ?? [])]).toEqual(values)
  })

  it('keeps channels apart, and skips chunks it does not know, odd ones with their pad byte', () => {
    const bytes = riff(['LIST', [1, 2, 3]], fmt(1, 2, 44_100, 16), ['data', [...u16(0x4000), ...u16(0x8000)]])
    expect(readWav(bytes).channels.map((c) => c[0])).toEqual([0.5, -1])
  })

  it('knows 64-bit samples, which browsers do not read', () => {
    const odd: [string, number[]] = ['LIST', [1, 2, 3]]
    expect(isLongFloat(riff(odd, fmt(3, 1, 8000, 64), ['data', f64(0)]))).toBe(true)
    expect(isLongFloat(riff(fmt(3, 1, 8000, 32), ['data', f32(0)]))).toBe(false)
    expect(isLongFloat(Uint8Array.from(ascii('hello, this is text')))).toBe(false)
  })

  it('takes the real format out of an extensible one', () => {
    const [, plain] = fmt(0xfffe, 1, 8000, 32)
    const bytes = riff(
      ['fmt ', [...plain, ...u16(22), ...u16(32), ...u32(4), ...u16(3), ...Array(14).fill(0)]],
      ['data', f32(0.25)],
    )
    expect(readWav(bytes).channels[0]?.[0]).toBe(0.25)
  })

  it('reads a data chunk cut short as far as it goes', () => {
    const whole = riff(fmt(1, 1, 8000, 16), ['data', [...u16(1), ...u16(2), ...u16(3), ...u16(4)]])
    expect(readWav(whole.subarray(0, whole.length - 3)).channels[0]).toHaveLength(2)
  })

  it('says what is wrong', () => {
    const cases: [Uint8Array, RegExp][] = [
      [new Uint8Array(0), /not a WAV/],
      [Uint8Array.from(ascii('hello, this is text')), /not a WAV/],
      [riff(fmt(1, 1, 8000, 16)), /no sound/],
      [riff(fmt(1, 1, 8000, 16), ['data', []]), /no sound/],
      [riff(['data', [1, 2]], fmt(1, 1, 8000, 16)), /no format chunk/],
      [riff(fmt(85, 1, 8000, 16), ['data', [1, 2]]), /format 85/],
      [riff(fmt(1, 1, 8000, 12), ['data', [1, 2]]), /12 bits/],
      [riff(fmt(1, 1, 1, 16), ['data', [1, 2]]), /1 samples a second/],
      [riff(fmt(1, 1, 0xffffffff, 16), ['data', [1, 2]]), /4294967295 samples/],
      [riff(fmt(1, 65, 8000, 16), ['data', [1, 2]]), /does not read/],
    ]
    for (const [bytes, says] of cases) expect(() => readWav(bytes)).toThrow(says)
  })

  it('never fails in any other way, whatever bytes follow the header', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 80 }), (rest) => {
        const bytes = Uint8Array.from([...riff(), ...rest])
        try {
          readWav(bytes)
        } catch (error) {
          expect(String(error)).toMatch(/This WAV file/)
        }
      }),
    )
  })
})

describe('writing WAV', () => {
  it('reads back what it wrote, to half a step of 16 bits', () => {
    const sound = fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 50 })
    fc.assert(
      fc.property(sound, fc.integer({ min: 1, max: 3 }), (samples, n) => {
        const channels = Array.from({ length: n }, (_, c) => Float32Array.from(samples, (s) => s / (c + 1)))
        const back = readWav(writeWav({ sampleRate: 22_050, channels }))
        expect(back.channels).toHaveLength(n)
        for (const [c, channel] of channels.entries())
          for (const [i, s] of channel.entries())
            expect(Math.abs((back.channels[c]?.[i] ?? 9) - s)).toBeLessThan(1.5 / 32_768)
      }),
    )
  })
  it('clips instead of wrapping round', () => {
    const back = readWav(writeWav({ sampleRate: 8000, channels: [Float32Array.of(3, -3)] }))
    expect([...(back.channels[0] ?? [])]).toEqual([32_767 / 32_768, -1])
  })
})

it('one channel is the mean of all', () => {
  expect([...toMono({ sampleRate: 1, channels: [Float32Array.of(1, 0), Float32Array.of(0, -1)] })]).toEqual([
    0.5, -0.5,
  ])
  expect(toMono({ sampleRate: 1, channels: [] })).toHaveLength(0)
})
