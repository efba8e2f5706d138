/*
 * Drawing a page keeps the only thread of the server busy for a tenth of a second. Where many are asked for at once they
 * are drawn one after another, and what pages ask for meanwhile (a save, a list) comes between: somebody waits for that
 * with a hand on the key.
 */

/** A request that takes longer is an upload or a download: no page waits for it. */
const QUICK_MS = 300
/** Pages wait so long for quick requests, no longer. */
const PATIENCE_MS = 300
/** A page whose reader is slow gives its turn away. */
const DRAWN_MS = 500

/** Whose turn it is. */
export class Turns {
  private quick = 0
  private readonly whenQuiet = new Set<() => void>()
  private last: Promise<void> = Promise.resolve()

  /** Counts a quick request. @returns says that it is answered */
  began(): () => void {
    this.quick++
    let counted = true
    const ended = () => {
      if (!counted) return
      counted = false
      clearTimeout(late)
      if (--this.quick) return
      for (const go of this.whenQuiet) go()
      this.whenQuiet.clear()
    }
    const late = setTimeout(ended, QUICK_MS)
    late.unref()
    return ended
  }

  private quiet(): Promise<void> {
    if (!this.quick) return Promise.resolve()
    return new Promise((go) => {
      const on = () => {
        clearTimeout(enough)
        this.whenQuiet.delete(on)
        go()
      }
      const enough = setTimeout(on, PATIENCE_MS)
      this.whenQuiet.add(on)
    })
  }

  /** Waits for this page's turn. @returns says that it is drawn */
  async turn(): Promise<() => void> {
    const before = this.last
    let drawn = () => {}
    this.last = new Promise((done) => {
      drawn = done
    })
    await before
    // What came meanwhile is looked at first.
    await new Promise<void>((next) => setImmediate(next))
    await this.quiet()
    setTimeout(drawn, DRAWN_MS).unref()
    return drawn
  }
}

// One for the whole process: pages and routes are bundled apart.
const shared = globalThis as { azaleaTurns?: Turns }
const turns = () => {
  shared.azaleaTurns ??= new Turns()
  return shared.azaleaTurns
}

/** Counts a request that is answered quickly, as most are. @returns says that it is answered */
export const quickRequest = (): (() => void) => turns().began()

/** To be awaited by a page before it is drawn. @returns to be called when its answer is sent */
export const pageTurn = (): Promise<() => void> => turns().turn()
