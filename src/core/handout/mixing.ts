/**
 * Sounds that overlap, added up as they come: what nothing more will be added to is taken out, so that a long sound is
 * never held as a whole. Places are samples from the start of the whole.
 */
export class Mixing {
  private pending: Float32Array<ArrayBuffer>[]
  /** Where what was not taken out yet begins. */
  from = 0

  constructor(readonly channels: number) {
    this.pending = Array.from({ length: channels }, () => new Float32Array(0))
  }

  /**
   * Adds a sound; one channel is added to all.
   * @param at its first sample's place
   * @throws Error when that lies before what was taken out already
   */
  add(at: number, sound: readonly Float32Array[]): void {
    if (at < this.from) throw new Error('a sound begins before what was taken out')
    const begin = at - this.from
    this.pending = this.pending.map((held, c) => {
      const added = (sound[c] ?? sound[0]) as Float32Array
      const end = begin + added.length
      let out = held
      if (end > held.length) {
        out = new Float32Array(end)
        out.set(held)
      }
      for (let i = 0; i < added.length; i++)
        out[begin + i] = (out[begin + i] as number) + (added[i] as number)
      return out
    })
  }

  /** Takes out all up to a place; silence where nothing was added. One array a channel. */
  take(until: number): Float32Array<ArrayBuffer>[] {
    const length = Math.max(0, until - this.from)
    const out = this.pending.map((held) => {
      const taken = new Float32Array(length)
      taken.set(held.subarray(0, length))
      return taken
    })
    this.pending = this.pending.map((held) => held.subarray(length))
    this.from += length
    return out
  }
}
