/* Short-time objective intelligibility (Taal, Hendriks, Heusdens & Jensen, "An algorithm for intelligibility prediction of time-frequency
   weighted noisy speech", IEEE Transactions on Audio, Speech, and Language Processing 19, 2011). */
import FFT from 'fft.js'

/** Both sounds are looked at at this rate, in frames half over one another. */
const RATE = 10_000
const FRAME = 256
const SIZE = 512
/** Third-octave bands from this centre on. */
const [BANDS, LOWEST] = [15, 150]
/** So many frames, 384 ms, are compared at a time; frames this far below the loudest are silent; and what is worse than this is as bad. */
const [SEGMENT, RANGE, WORST] = [30, 40, -15]

const WINDOW = Float64Array.from(
  { length: FRAME },
  (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 1)) / (FRAME + 1)),
)

/** A sound at another rate: a sinc under a Hann window. */
function at10k(sound: Float32Array, rate: number): Float64Array {
  const ratio = rate / RATE
  const around = Math.ceil(16 * ratio)
  return Float64Array.from({ length: Math.floor(sound.length / ratio) }, (_, k) => {
    const center = k * ratio
    const first = Math.ceil(center - around)
    let sum = 0
    for (let i = first; i <= center + around; i++) {
      const x = (i - center) / ratio
      const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)
      sum += (sound[i] ?? 0) * sinc * (0.5 + 0.5 * Math.cos((Math.PI * x) / 16))
    }
    return sum / ratio
  })
}

/** Both sounds without the frames in which the first is silent. */
function withoutSilence(clean: Float64Array, mixed: Float64Array): [Float64Array, Float64Array] {
  const hop = FRAME / 2
  const starts = Array.from({ length: Math.floor((clean.length - FRAME) / hop) + 1 }, (_, k) => k * hop)
  const levels = starts.map((s) => {
    let sum = 0
    for (let i = 0; i < FRAME; i++) sum += ((clean[s + i] as number) * (WINDOW[i] as number)) ** 2
    return 10 * Math.log10(sum + 1e-20)
  })
  const most = Math.max(...levels)
  const kept = starts.filter((_, k) => (levels[k] as number) > most - RANGE)
  const joined = (x: Float64Array) => {
    const out = new Float64Array((kept.length - 1) * hop + FRAME)
    kept.forEach((s, k) => {
      for (let i = 0; i < FRAME; i++)
        out[k * hop + i] = (out[k * hop + i] as number) + (x[s + i] as number) * (WINDOW[i] as number)
    })
    return out
  }
  return [joined(clean), joined(mixed)]
}

/** Which bins each band has: between the nearest bins to its edges. */
function bandBins(): [number, number][] {
  const nearest = (hz: number) => Math.round((hz * SIZE) / RATE)
  return Array.from({ length: BANDS }, (_, k) => [
    nearest(LOWEST * 2 ** ((2 * k - 1) / 6)),
    nearest(LOWEST * 2 ** ((2 * k + 1) / 6)),
  ])
}

/** Levels of the bands in each frame. */
function bandsOf(sound: Float64Array): Float64Array[] {
  const fft = new FFT(SIZE)
  const spectrum = fft.createComplexArray()
  const edges = bandBins()
  const frames = Math.floor((sound.length - FRAME) / (FRAME / 2)) + 1
  return Array.from({ length: frames }, (_, k) => {
    const frame = new Float64Array(SIZE)
    for (let i = 0; i < FRAME; i++) frame[i] = (sound[(k * FRAME) / 2 + i] as number) * (WINDOW[i] as number)
    fft.realTransform(spectrum, frame)
    return Float64Array.from(edges, ([a, b]) => {
      let sum = 0
      for (let i = a; i < b; i++)
        sum += (spectrum[2 * i] as number) ** 2 + (spectrum[2 * i + 1] as number) ** 2
      return Math.sqrt(sum)
    })
  })
}

/** How alike two lines of levels are. */
function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (x: readonly number[]) => x.reduce((s, y) => s + y, 0) / x.length
  const [ma, mb] = [mean(a), mean(b)]
  let [ab, aa, bb] = [0, 0, 0]
  for (let i = 0; i < a.length; i++) {
    const [x, y] = [(a[i] as number) - ma, (b[i] as number) - mb]
    ab += x * y
    aa += x * x
    bb += y * y
  }
  return ab / (Math.sqrt(aa * bb) + 1e-20)
}

/**
 * How much of speech can be understood in a mix, 0 to 1.
 * @param clean what is said, alone @param mixed the same in the mix, of equal length
 */
export function stoi(clean: Float32Array, mixed: Float32Array, rate: number): number {
  const [x, y] = withoutSilence(at10k(clean, rate), at10k(mixed, rate))
  const [X, Y] = [bandsOf(x), bandsOf(y)]
  const clip = 1 + 10 ** (-WORST / 20)
  let [sum, count] = [0, 0]
  for (let m = SEGMENT; m <= X.length; m++)
    for (let band = 0; band < BANDS; band++) {
      const line = (all: Float64Array[]) => all.slice(m - SEGMENT, m).map((f) => f[band] as number)
      const [a, b] = [line(X), line(Y)]
      const norm = (l: readonly number[]) => Math.sqrt(l.reduce((s, v) => s + v * v, 0))
      const scale = norm(a) / (norm(b) + 1e-20)
      sum += correlation(
        a,
        b.map((v, i) => Math.min(v * scale, (a[i] as number) * clip)),
      )
      count++
    }
  return sum / count
}
