import FFT from 'fft.js'

/** A picture of a sound: `wide` values a frame, frame by frame. */
interface Rows {
  frames: number
  data: Float32Array
}

/**
 * Correlates short windows with a long picture of a sound, over all its bands at once. The picture is cut into blocks, each as
 * much longer than a window as pays, so that a transform is of a block and not of a whole song (overlap-save; T. G. Stockham,
 * "High-speed convolution and correlation", 1966). Two bands are the real and the imaginary part of one signal, so that half as
 * many transforms do: the real part of their correlation is the sum of both.
 */
export class Correlator {
  /** How alike a window is at each place, not divided by anything: from the one `lead` frames before the picture on. */
  readonly answer: Float64Array
  private readonly fft: FFT
  private readonly size: number
  /** Places that a block answers for. */
  private readonly step: number
  /** Of each block each pair of bands, transformed. */
  private readonly blocks: number[][][]
  private readonly input: number[]
  private readonly parts: number[][]
  private readonly sum: number[]
  private readonly back: number[]

  /**
   * @param rows what is looked in: silence is before and after it
   * @param wide its bands, an even number
   * @param lead frames before it at which a window may begin
   * @param longest frames of a window at most
   */
  constructor(
    rows: Rows,
    private readonly wide: number,
    lead: number,
    longest: number,
  ) {
    this.size = 2 ** Math.ceil(Math.log2(4 * longest))
    this.step = this.size - longest + 1
    this.fft = new FFT(this.size)
    const places = rows.frames + lead
    this.answer = new Float64Array(places)
    this.input = this.zeros()
    this.sum = this.zeros()
    this.back = this.zeros()
    this.parts = Array.from({ length: wide / 2 }, () => this.zeros())
    this.blocks = Array.from({ length: Math.ceil(places / this.step) }, (_, k) =>
      this.parts.map((_part, pair) =>
        this.transformed(rows.data, pair, k * this.step - lead, this.size, this.zeros()),
      ),
    )
  }

  /** Looks a window up; how alike it is stands in `answer` until the next. @param first of the frames of a window, n of them */
  look(window: Float32Array, first: number, n: number): void {
    const { fft, parts, sum, back, answer, step } = this
    parts.forEach((part, pair) => {
      this.transformed(window, pair, first, n, part)
    })
    this.blocks.forEach((block, k) => {
      sum.fill(0)
      block.forEach((song, pair) => {
        addConjugate(sum, song, parts[pair] as number[])
      })
      fft.inverseTransform(back, sum)
      const begin = k * step
      const end = Math.min(answer.length, begin + step)
      for (let i = begin; i < end; i++) answer[i] = back[2 * (i - begin)] as number
    })
  }

  /** Numbers with a point from the first on: a list of whole ones would be made anew for the first of them. */
  private zeros(): number[] {
    return new Array<number>(2 * this.size).fill(0.5).fill(0)
  }

  /** Two bands of some frames as one complex signal, transformed; beyond the data is silence. */
  private transformed(data: Float32Array, pair: number, from: number, n: number, into: number[]): number[] {
    const { input, wide } = this
    for (let f = 0; f < n; f++) {
      const i = (from + f) * wide + 2 * pair
      input[2 * f] = data[i] ?? 0
      input[2 * f + 1] = data[i + 1] ?? 0
    }
    input.fill(0, 2 * n)
    this.fft.transform(into, input)
    return into
  }
}

/** Adds one signal times another's conjugate to a sum, all transformed. */
function addConjugate(sum: number[], song: readonly number[], part: readonly number[]): void {
  for (let i = 0; i < sum.length; i += 2) {
    const a = song[i] as number
    const b = song[i + 1] as number
    const c = part[i] as number
    const d = part[i + 1] as number
    sum[i] = (sum[i] as number) + a * c + b * d
    sum[i + 1] = (sum[i + 1] as number) + b * c - a * d
  }
}
