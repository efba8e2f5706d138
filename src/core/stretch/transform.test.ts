import fc from 'fast-check'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { FAST } from './fast.test-tools'
import { type Complex, fastTransform, plainTransform } from './transform'
import { FRAME, HOP, stretchFaster, transformOfAll, Vocoder } from './vocoder'

const plain = plainTransform(FRAME)
const fast = fastTransform(FAST, FRAME)
if (!fast) throw new Error('This machine does not run the faster transform.')

/** Numbers without order, the same each time. */
function noise(seed: number, size: number): Float32Array<ArrayBuffer> {
  let x = seed
  return Float32Array.from({ length: size }, () => {
    x = (x * 16_807) % 2_147_483_647
    return x / 1_073_741_823.5 - 1
  })
}
const furthest = (a: Complex, b: Complex) =>
  Math.max(...Array.from(a, (x, i) => Math.abs(x - (b[i] ?? Number.NaN))))

describe.each([
  ['everywhere', plain],
  ['fast', fast],
])('the transform that runs %s', (_, transform) => {
  const spectrum = () =>
    transform.frame instanceof Float32Array ? new Float32Array(2 * FRAME) : new Float64Array(2 * FRAME)
  it('says of a few frequencies what their sums say', () => {
    const sound = noise(7, 2 * FRAME)
    transform.frame.set(sound)
    const found = spectrum()
    transform.forward(found)
    for (const k of [0, 1, 2, 1000, FRAME / 2, FRAME - 3]) {
      let [re, im] = [0, 0]
      for (let i = 0; i < FRAME; i++) {
        const turn = (-2 * Math.PI * ((k * i) % FRAME)) / FRAME
        const [x, y] = [sound[2 * i] as number, sound[2 * i + 1] as number]
        re += x * Math.cos(turn) - y * Math.sin(turn)
        im += x * Math.sin(turn) + y * Math.cos(turn)
      }
      expect(found[2 * k]).toBeCloseTo(re, 3)
      expect(found[2 * k + 1]).toBeCloseTo(im, 3)
    }
  })
  it('gives back what it was given', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2 ** 31 - 2 }), (seed) => {
        const sound = noise(seed, 2 * FRAME)
        transform.frame.set(sound)
        const found = spectrum()
        transform.forward(found)
        transform.frame.fill(0)
        transform.inverse(found)
        expect(
          furthest(
            transform.frame.map((x) => x * transform.level),
            sound,
          ),
        ).toBeLessThan(2e-6)
      }),
      { numRuns: 20 },
    )
  })
})

describe('the faster transform', () => {
  it('stretches two sides to the same sound', () => {
    const sound = [noise(3, 6 * FRAME), noise(5, 6 * FRAME)]
    const heard = [fast, plain].map((transform) => {
      const vocoder = new Vocoder(sound, transform)
      const out = [new Float32Array(20 * HOP), new Float32Array(20 * HOP)]
      for (let i = 0; i < 20; i++) {
        vocoder.add(Math.round(i * HOP * 0.6), i % 5 === 0)
        vocoder.pass(out, i * HOP)
      }
      return out as [Float32Array, Float32Array]
    }) as [[Float32Array, Float32Array], [Float32Array, Float32Array]]
    for (const side of [0, 1] as const) expect(furthest(heard[0][side], heard[1][side])).toBeLessThan(1e-3)
  })
})

describe('which transform is used', () => {
  afterEach(() => vi.unstubAllGlobals())
  it('is the faster one where it runs', () => {
    expect(stretchFaster(FAST)).toBe(true)
    expect(transformOfAll().frame).toBeInstanceOf(Float32Array)
  })
  it.each<[string, () => BufferSource]>([
    ['is no program', () => new Uint8Array([1, 2, 3])],
    ['is another program', () => new Uint8Array([0, 0x61, 0x73, 0x6d, 1, 0, 0, 0])],
    ['is cut off', () => FAST.subarray(0, 20_000)],
  ])('stays as it was where what comes %s', (_, program) => {
    const before = transformOfAll()
    expect(stretchFaster(program())).toBe(false)
    expect(transformOfAll()).toBe(before)
  })
  it.each<[string, boolean, (exports: Record<string, unknown>) => Record<string, unknown>]>([
    ['does what it should', true, (e) => e],
    ['works with one number at a time', false, (e) => ({ ...e, j: () => 1 })],
    ['gives what comes in another order', false, (e) => ({ ...e, p: e.o })],
    ['does nothing', false, (e) => ({ ...e, p: () => {} })],
    ['lacks something', false, ({ k: _, ...e }) => e],
  ])('is taken where it is a program that %s: %s', (_, taken, changed) => {
    const { Instance, Module } = WebAssembly
    function Changed(module: WebAssembly.Module, imports: WebAssembly.Imports) {
      return { exports: changed({ ...new Instance(module, imports).exports }) }
    }
    vi.stubGlobal('WebAssembly', { Module, Instance: Changed })
    expect(fastTransform(FAST, FRAME) !== null).toBe(taken)
  })
  it('is the one that runs everywhere where there is no such thing', () => {
    vi.stubGlobal('WebAssembly', undefined)
    expect(fastTransform(FAST, FRAME)).toBeNull()
  })
})
