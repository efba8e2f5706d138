import FFT from 'fft.js'

/** Complex numbers: real and imaginary parts in turn. */
export type Complex = Float32Array | Float64Array

/** Fourier transforms of frames of one size there and back. */
export interface Transform {
  /** What is transformed, and what comes back; whoever uses it does so at once: there is one for all. */
  readonly frame: Complex
  /** What comes back is to be multiplied by this. */
  readonly level: number
  /** The spectrum of the frame. */
  forward(into: Complex): void
  /** The frame of a spectrum. */
  inverse(from: Complex): void
}

/** The one that runs everywhere. @param size complex numbers of a frame, a power of two */
export function plainTransform(size: number): Transform {
  const fft = new FFT(size)
  const frame = new Float64Array(2 * size)
  return {
    frame,
    level: 1,
    forward: (into) => fft.transform(into as unknown as number[], frame as unknown as number[]),
    inverse: (from) => fft.inverseTransform(frame as unknown as number[], from as unknown as number[]),
  }
}

/** Numbers are taken four at a time; fewer at once than this is a build that does not, which would be slower here. */
const AT_ONCE = 4
const COMPLEX = 1
const [FORWARD, INVERSE] = [0, 1]

/** What of the program is used, by the names its build gives it (@echogarden/pffft-wasm 0.4.2, dist/simd). */
interface Exports {
  d: WebAssembly.Memory
  /** Has to be called once, before all others. */
  e: () => void
  /** Memory of so many bytes, where it may be for numbers taken four at a time. */
  f: (bytes: number) => number
  /** How many numbers are taken at once. */
  j: () => number
  /** A plan for so many numbers, complex or real. */
  k: (size: number, kind: number) => number
  /** Transforms; what comes is in its order. */
  p: (plan: number, from: number, into: number, work: number, direction: number) => void
}

/**
 * PFFFT (Pommier 2013, after FFTPACK), compiled to WebAssembly, about four times as fast.
 * @param program its bytes
 * @param size complex numbers of a frame, a power of two from 16 on
 * @returns null where this machine cannot run it, or where it does not what it should
 */
export function fastTransform(program: BufferSource, size: number): Transform | null {
  try {
    const refuse = () => {
      throw new Error('The Fourier transform asks for what it was not given.')
    }
    const { exports } = new WebAssembly.Instance(new WebAssembly.Module(program), {
      a: { a: refuse, b: refuse, c: refuse },
    })
    const fast = transformBy(exports as unknown as Exports, size)
    return fast && isRight(fast, size) ? fast : null
  } catch {
    return null
  }
}

function transformBy(
  { d: memory, e: begin, f: space, j: atOnce, k: plan, p: run }: Exports,
  size: number,
): Transform | null {
  begin()
  if (atOnce() !== AT_ONCE) return null
  const bytes = 2 * size * Float32Array.BYTES_PER_ELEMENT
  const [time, spectrum, work] = [space(bytes), space(bytes), space(bytes)]
  const made = plan(size, COMPLEX)
  // Nothing is asked of its memory any more: it stays where it is.
  const at = (place: number) => new Float32Array(memory.buffer, place, 2 * size)
  const [frame, heard] = [at(time), at(spectrum)]
  return {
    frame,
    level: 1 / size,
    forward: (into) => {
      run(made, time, spectrum, work, FORWARD as number)
      into.set(heard)
    },
    inverse: (from) => {
      heard.set(from)
      run(made, spectrum, time, work, INVERSE as number)
    },
  }
}

/** A tone has one line in its spectrum, and comes back as it was. */
function isRight({ frame, level, forward, inverse }: Transform, size: number): boolean {
  const line = 3 * (size >> 3) + 1
  const spectrum = new Float32Array(2 * size)
  const tone = (i: number) => Math.cos((2 * Math.PI * line * (i >> 1)) / size - (i % 2) * (Math.PI / 2))
  for (let i = 0; i < 2 * size; i++) frame[i] = tone(i)
  forward(spectrum)
  const near = (x: number | undefined, y: number) => Math.abs((x ?? Number.NaN) - y) < 1e-3
  if (!spectrum.every((x, i) => near(x / size, i === 2 * line ? 1 : 0))) return false
  inverse(spectrum)
  return frame.every((x, i) => near(x * level, tone(i)))
}
