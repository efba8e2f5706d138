import { type Entry, isNext, isOlder, lineOf, newestIn } from './entry'
import type { Answered, Conflict } from './outbox-state'

/** Where entries wait through a reload of the page. */
export interface Keeping {
  /** Takes what windows that are gone left behind, under this window's name: of two that claim at once, one gets it. */
  claim: (window: string, isGone: (window: string) => boolean) => Promise<Entry[]>
  keep: (entry: Entry) => Promise<void>
  drop: (id: string) => Promise<void>
}

/** What a page goes on from. */
export interface TakenUp extends Omit<Answered, 'writer'> {
  after: string[]
  /** The body of the document at that revision, where the page has another one, or none. */
  base?: string
}

export interface Waiting extends Entry {
  settled: { resolve: (answer: unknown) => void; reject: (why: unknown) => void }[]
  /** It was left by a window that is gone. */
  left: boolean
  /** It was sent, and nobody answered: it may have been done, and is sent again before anything that came after. */
  unsure: boolean
  /** How often it failed by itself, and why. */
  tries: number
  why: string
  /** It waits for the next round. */
  aside: boolean
  /** The person let go of it while it was on its way. */
  letGo: boolean
}

/** An entry as it is kept. */
function plain({
  settled: _,
  left: _l,
  unsure: _u,
  tries: _t,
  why: _w,
  aside: _a,
  letGo: _g,
  ...e
}: Waiting): Entry {
  return e
}

/** What waits to be saved, in the order it was done, as it is kept through a reload; and what is known of the documents it is of. */
export class OutboxQueue {
  waiting: Waiting[] = []
  /** Refused for good. */
  held: Waiting[] = []
  /** What is on its way. */
  sending: Waiting | null = null
  private order = 0
  private readonly answered = new Map<string, Answered>()

  /**
   * @param keeping where entries survive a reload
   * @param window names this window
   */
  constructor(
    private readonly keeping: Keeping,
    readonly window: string,
  ) {}

  /** Takes over what windows that are gone left behind, before anything of this one. */
  async claim(isGone: (window: string) => boolean): Promise<void> {
    const left = await this.keeping.claim(this.window, isGone).catch(() => [])
    const known = new Set(this.waiting.map((e) => e.id))
    const taken = left
      .filter((e) => !known.has(e.id))
      // One that took the place of another has its place in the order; both are there where a window ended in between.
      .sort((a, b) => a.order - b.order || (a.saving?.save ?? 0) - (b.saving?.save ?? 0))
      .map((e) => waitingOf(e, true))
    this.waiting = [...taken, ...this.waiting]
    // What is done from now on comes after it, whatever the clock says.
    this.order = Math.max(this.order, ...taken.map((e) => e.order))
  }

  /** @returns the answer when it is saved; rejects when it is refused for good */
  add(entry: Omit<Entry, 'window' | 'order'>): Promise<unknown> {
    this.order = Math.max(Date.now() * 1000, this.order + 1)
    const full = waitingOf({ ...entry, window: this.window, order: this.order }, false)
    const done = new Promise<unknown>((resolve, reject) => {
      full.settled.push({ resolve, reject })
    })
    // Whoever does not ask for the answer is told by the state.
    done.catch(() => {})
    // One that was on its way when the next came, and came back unsaved, waits beside that: the newest goes in the place of all.
    const older = this.waiting.filter((e) => isOlder(e, full) && e !== this.sending && !e.unsure)
    const [first, ...others] = older
    if (first) {
      full.order = first.order
      full.settled.unshift(...others.flatMap((e) => e.settled))
      this.waiting = this.waiting.filter((e) => !others.includes(e))
      this.replace(first, full)
    } else this.waiting.push(full)
    this.keeping.keep(plain(full)).catch(() => {})
    const gone = [...older, ...this.held.filter((e) => isOlder(e, full))]
    this.held = this.held.filter((e) => !gone.includes(e))
    for (const { id } of gone) this.keeping.drop(id).catch(() => {})
    return done
  }

  /** A newer state takes the place of an older one: who waited for that waits for this. */
  private replace(older: Waiting, newer: Waiting): void {
    newer.settled.unshift(...older.settled)
    this.waiting = this.waiting.filter((e) => e !== newer).map((e) => (e === older ? newer : e))
  }

  /** What waits or was refused, the newest of a document as it stands on one window's saves; null for nothing. */
  newestOf(document: string, writer: string): Entry | null {
    return newestIn(lineOf([...this.held, ...this.waiting], document, writer))
  }

  /** Something by its id; null where it is not here any more. */
  entry(id: string): Entry | null {
    return [...this.waiting, ...this.held].find((e) => e.id === id) ?? null
  }

  /**
   * A page shows a document: takes up what windows that are gone left of it, where that stands on what the page has, or on
   * something older that is known.
   * @param page what the page has: its revision, and the save that made it; null where the server could not be asked
   * @returns what to go on from, the windows it is of, and what it stands on where the page has something else than that; null
   *   where the page is as new as anything known here
   */
  takeUp(
    document: string,
    page: { revision: number; madeBy: { writer: string; save: number } } | null,
  ): TakenUp | null {
    let left = this.waiting.filter((e) => e.document === document && e.left && e.saving)
    const known = page ?? { revision: left[0]?.saving?.revision ?? 0, madeBy: { writer: '', save: 0 } }
    const mine = this.answered.get(document)
    const newer = mine && mine.revision > known.revision ? mine : null
    const revision = newer?.revision ?? known.revision
    let older: TakenUp | null = null
    while (left.length) {
      const line = lineOf(left, document, left[0]?.saving?.writer ?? '')
      const rest = newer ? line : this.notIn(line, known)
      const [first, newest] = [rest[0], newestIn(rest)]
      if (first?.saving && newest) {
        const after = [...new Set(rest.map((e) => e.saving?.writer ?? ''))]
        const { base } = first
        const found = { revision: first.saving.revision, body: newest.body, after }
        if (found.revision === revision) {
          // The page has what it stands on, unless it is older than that or the server never gave it.
          const on = newer?.body ?? (page ? undefined : base)
          return on === undefined ? found : { ...found, base: on }
        }
        if (base !== undefined) older ??= { ...found, base }
      }
      left = left.filter((e) => !line.includes(e))
    }
    return newer ? { revision, body: newer.body, after: [] } : older
  }

  /** Of a line of saves those a page does not have yet. What it has is not sent again; what came after stands on it. */
  private notIn(
    line: readonly Waiting[],
    page: { revision: number; madeBy: { writer: string; save: number } },
  ): Waiting[] {
    const { writer, save } = page.madeBy
    const done = line.findLastIndex((e) => e.saving?.writer === writer && e.saving.save <= save)
    const rest = line.slice(done + 1)
    for (const e of line.slice(0, done + 1)) if (e !== this.sending) this.take(e)
    const last = line[done]
    if (last)
      this.bind(
        rest.filter((e) => isNext(e, writer)),
        page.revision,
        last.saving?.save === save ? last.body : undefined,
      )
    return rest
  }

  /** Some saves stand on this revision. @param base the document there, where it is known */
  private bind(entries: readonly Waiting[], revision: number, base: string | undefined): void {
    for (const e of entries) {
      // Sent once more, what was taken long ago is answered with its own revision: what stands on later ones stays there.
      if (!e.saving || e.saving.revision >= revision) continue
      e.saving = { ...e.saving, revision }
      e.base = base
      this.keeping.keep(plain(e)).catch(() => {})
    }
  }

  /** It is done, or given up. */
  take(entry: Waiting): void {
    this.waiting = this.waiting.filter((e) => e !== entry)
    this.held = this.held.filter((e) => e !== entry)
    this.keeping.drop(entry.id).catch(() => {})
  }

  /** A save was taken: what waits on it stands on its revision. It is written down before the save is forgotten: a window may end in between. */
  answer(entry: Waiting, answered: Answered): void {
    const { document } = entry
    const on = this.waiting.filter(
      (e) => e !== entry && e.document === document && isNext(e, answered.writer),
    )
    this.bind(on, answered.revision, answered.body)
    this.answered.set(document, answered)
    this.take(entry)
  }

  /** @returns whether that is newer than what was known of the document */
  learn(document: string, answered: Answered): boolean {
    if ((this.answered.get(document)?.revision ?? -1) >= answered.revision) return false
    this.answered.set(document, answered)
    return true
  }

  /** A newer state of the same document goes in the place of this one, where there is one. */
  giveWay(entry: Waiting): void {
    const newer = this.waiting.find((e) => e !== entry && isOlder(entry, e))
    if (!newer) return
    this.replace(entry, newer)
    this.keeping.drop(entry.id).catch(() => {})
  }

  /** Nothing is sent of it any more; it is kept until the person lets go of it. */
  hold(entry: Waiting): void {
    this.waiting = this.waiting.filter((e) => e !== entry)
    this.held.push(entry)
  }

  /** What is sent next: of what may be sent, what failed least, in order; of a document one after the other. */
  next(conflicts: ReadonlyMap<string, Conflict>): Waiting | null {
    const before = new Set<string>()
    let best: Waiting | null = null
    for (const e of this.waiting) {
      const first = !e.document || !before.has(e.document)
      before.add(e.document)
      if (!first || e.aside || (e.document && conflicts.has(e.document))) continue
      if (!best || e.tries < best.tries) best = e
    }
    return best
  }
}

const waitingOf = (e: Entry, left: boolean): Waiting => ({
  ...e,
  ...{ settled: [], left, unsure: left, tries: 0, why: '', aside: false, letGo: false },
})
