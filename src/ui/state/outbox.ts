import { createStore } from 'zustand/vanilla'
import { wordsOf } from '@/core/formats/said'
import { type Entry, isNext, isOlder, lineOf, newestIn } from './entry'
import { type Answered, type News, NOTHING_WAITS, type OutboxState, SendFailure } from './outbox-state'

/** Where entries wait through a reload of the page. */
export interface Keeping {
  /** Takes what windows that are gone left behind, under this window's name: of two that claim at once, one gets it. */
  claim: (window: string, isGone: (window: string) => boolean) => Promise<Entry[]>
  keep: (entry: Entry) => Promise<void>
  drop: (id: string) => Promise<void>
}

/** Pauses between tries, growing; the last one stays. */
const PAUSES_MS = [1000, 2000, 4000, 8000, 15_000] as const
/** Where so many fail one after the other, it is the server that fails. */
const IN_A_ROW = 5

/** So often what may have been done is tried again before a newer state goes in its place. */
const TRIED = 3

const inTime = (ms: number, then: () => void) => {
  const timer = setTimeout(then, ms)
  return () => clearTimeout(timer)
}

/** What a page goes on from. */
export interface TakenUp extends Omit<Answered, 'writer'> {
  after: string[]
  /** The body of the document at that revision, where the page has another one, or none. */
  base?: string
}

interface Waiting extends Entry {
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

/**
 * Everything that is saved goes through here, one after the other in the order it was done. What the server does not answer
 * is sent again, with growing pauses and one timer however much waits; what fails by itself lets the others pass; what is
 * refused is told and kept; what waits survives a reload of the page. A save of a document says the very revision it stands on.
 */
export class Outbox {
  readonly state = createStore<OutboxState>(() => NOTHING_WAITS)
  private queue: Waiting[] = []
  /** Refused for good. */
  private held: Waiting[] = []
  private sending: Waiting | null = null
  /** The pause that is on, and whether nothing is sent in it. */
  private timer: { callOff: () => void; all: boolean } | null = null
  private pauses = 0
  private inARow = 0
  private order = 0
  private readonly answered = new Map<string, Answered>()
  private readonly listeners = new Set<(news: News) => void>()

  /**
   * @param send resolves to the answer; rejects with a SendFailure
   * @param keeping where entries survive a reload
   * @param window names this window
   * @param later does something after some milliseconds; gives back what calls it off
   */
  constructor(
    private readonly send: (entry: Entry) => Promise<unknown>,
    private readonly keeping: Keeping,
    readonly window: string,
    private readonly later: (ms: number, then: () => void) => () => void = inTime,
  ) {}

  /** Takes over what windows that are gone left behind, before anything of this one. */
  async adopt(isGone: (window: string) => boolean): Promise<void> {
    const left = await this.keeping.claim(this.window, isGone).catch(() => [])
    const known = new Set(this.queue.map((e) => e.id))
    const taken = left
      .filter((e) => !known.has(e.id))
      // One that took the place of another has its place in the order; both are there where a window ended in between.
      .sort((a, b) => a.order - b.order || (a.saving?.save ?? 0) - (b.saving?.save ?? 0))
      .map((e) => this.waiting(e, true))
    this.queue = [...taken, ...this.queue]
    // What is done from now on comes after it, whatever the clock says.
    this.order = Math.max(this.order, ...taken.map((e) => e.order))
    this.tell()
    this.work()
  }

  private waiting = (e: Entry, left: boolean): Waiting => ({
    ...e,
    ...{ settled: [], left, unsure: left, tries: 0, why: '', aside: false, letGo: false },
  })

  /** Puts something in. @returns the answer when it is saved; rejects when it is refused for good */
  put(entry: Omit<Entry, 'window' | 'order'>): Promise<unknown> {
    this.order = Math.max(Date.now() * 1000, this.order + 1)
    const full = this.waiting({ ...entry, window: this.window, order: this.order }, false)
    const done = new Promise<unknown>((resolve, reject) => {
      full.settled.push({ resolve, reject })
    })
    // Whoever does not ask for the answer is told by the state.
    done.catch(() => {})
    // One that was on its way when the next came, and came back unsaved, waits beside that: the newest goes in the place of all.
    const older = this.queue.filter((e) => isOlder(e, full) && e !== this.sending && !e.unsure)
    const [first, ...others] = older
    if (first) {
      full.order = first.order
      full.settled.unshift(...others.flatMap((e) => e.settled))
      this.queue = this.queue.filter((e) => !others.includes(e))
      this.replace(first, full)
    } else this.queue.push(full)
    this.keeping.keep(plain(full)).catch(() => {})
    const gone = [...older, ...this.held.filter((e) => isOlder(e, full))]
    this.held = this.held.filter((e) => !gone.includes(e))
    for (const { id } of gone) this.keeping.drop(id).catch(() => {})
    this.tell()
    this.work()
    return done
  }

  /** A newer state takes the place of an older one: who waited for that waits for this. */
  private replace(older: Waiting, newer: Waiting): void {
    newer.settled.unshift(...older.settled)
    this.queue = this.queue.filter((e) => e !== newer).map((e) => (e === older ? newer : e))
  }

  /** What waits or was refused, the newest of a document as it stands on one window's saves; null for nothing. */
  newestOf(document: string, writer: string): Entry | null {
    return newestIn(lineOf([...this.held, ...this.queue], document, writer))
  }

  /** Something by its id; null where it is not here any more. */
  entry(id: string): Entry | null {
    return [...this.queue, ...this.held].find((e) => e.id === id) ?? null
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
    let left = this.queue.filter((e) => e.document === document && e.left && e.saving)
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
    this.tell()
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

  /** Tells who shows documents what became of them. @returns what ends it */
  listen(listener: (news: News) => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  private tellNews(news: News): void {
    for (const listener of this.listeners) listener(news)
  }

  /** Another window took up what was left of a document, and saved it. */
  learn(document: string, answered: Answered): void {
    if ((this.answered.get(document)?.revision ?? -1) >= answered.revision) return
    this.answered.set(document, answered)
    this.tellNews({ document, of: 'elsewhere', ...answered })
  }

  /**
   * What waits of this document is given up: of the line the conflict is about, as the person chose, or of these windows.
   * Where there is neither, all of it.
   */
  giveUp(document: string, of?: readonly string[]): void {
    const conflicts = new Map(this.state.getState().conflicts)
    const about = conflicts.get(document)?.writer
    const writers = of ?? (about === undefined ? null : [about])
    const given = writers
      ? writers.flatMap((writer) => lineOf(this.queue, document, writer))
      : this.queue.filter((e) => e.document === document)
    for (const e of new Set(given)) if (e !== this.sending) this.take(e)
    conflicts.delete(document)
    this.state.setState({ conflicts })
    this.tell()
    this.work()
  }

  /** What was refused of a document was taken back: there is nothing to tell any more. */
  forgive(document: string): void {
    for (const e of this.held.filter((x) => x.document === document)) this.leaveOut(e.id)
    this.state.setState((s) => ({ refused: s.refused.filter((r) => r.document !== document) }))
  }

  /** The person lets go of something that is refused or fails again and again. */
  leaveOut(id: string): void {
    const e = [...this.held, ...this.queue].find((x) => x.id === id)
    if (e && e === this.sending) e.letGo = true
    else if (e) this.take(e)
    for (const { reject } of e?.settled.splice(0) ?? []) reject(new SendFailure(e?.why ?? '', 'refused'))
    this.state.setState((s) => ({ refused: s.refused.filter((r) => r.id !== id) }))
    this.tell()
    this.work()
  }

  /** Resolves when nothing waits any more, or after some milliseconds. */
  whenSaved(ms: number): Promise<void> {
    if (this.queue.length === 0) return Promise.resolve()
    return new Promise((resolve) => {
      const callOff = this.later(ms, end)
      const forget = this.state.subscribe(({ waiting }) => waiting === 0 && end())
      function end() {
        callOff()
        forget()
        resolve()
      }
    })
  }

  /** Tries at once, whatever the pause. */
  now(): void {
    this.timer?.callOff()
    this.over()
  }

  private take(entry: Waiting): void {
    this.queue = this.queue.filter((e) => e !== entry)
    this.held = this.held.filter((e) => e !== entry)
    this.keeping.drop(entry.id).catch(() => {})
  }

  private tell(): void {
    const stuck = this.queue
      .filter((e) => e.tries > 1)
      .map(({ id, document, what, why }) => ({ id, document, what, why }))
    this.state.setState({ waiting: this.queue.length, stuck })
  }

  /** What is sent next: of what may be sent, what failed least, in order; of a document one after the other. */
  private next(): Waiting | null {
    const { conflicts } = this.state.getState()
    const before = new Set<string>()
    let best: Waiting | null = null
    for (const e of this.queue) {
      const first = !e.document || !before.has(e.document)
      before.add(e.document)
      if (!first || e.aside || (e.document && conflicts.has(e.document))) continue
      if (!best || e.tries < best.tries) best = e
    }
    return best
  }

  private async work(): Promise<void> {
    if (this.sending || this.timer?.all) return
    const next = this.next()
    if (!next) {
      if (!this.timer && this.queue.some((e) => e.aside)) this.pause(false)
      return
    }
    this.sending = next
    try {
      this.succeeded(next, await this.send(next))
    } catch (error) {
      this.failed(next, error)
    }
    this.sending = null
    this.tell()
    this.work()
  }

  private succeeded(entry: Waiting, answer: unknown): void {
    this.pauses = 0
    this.inARow = 0
    const revision = (answer as { revision?: unknown } | null)?.revision
    const { document, saving, body, left } = entry
    if (saving && typeof revision === 'number') {
      const { writer } = saving
      // What stands on it is written down before it is forgotten: a window may end in between.
      const onIt = this.queue.filter((e) => e !== entry && e.document === document && isNext(e, writer))
      this.bind(onIt, revision, body)
      this.answered.set(document, { writer, revision, body })
      this.take(entry)
      this.tellNews({ document, of: left ? 'left' : 'own', writer, revision, body })
    } else this.take(entry)
    this.state.setState((s) => ({
      trouble: '',
      signedOut: false,
      // What was refused of a document does not matter any more once a newer state of it is saved.
      refused: document ? s.refused.filter((r) => r.document !== document) : s.refused,
    }))
    for (const { resolve } of entry.settled) resolve(answer)
  }

  private failed(entry: Waiting, error: unknown): void {
    entry.why = wordsOf(error)
    const failure = error instanceof SendFailure ? error : new SendFailure(entry.why, 'later', '', true)
    entry.unsure ||= failure.unanswered
    if (entry.letGo) {
      this.take(entry)
      return
    }
    switch (failure.refusal) {
      case 'later':
        this.state.setState({ trouble: entry.why, signedOut: failure.code === 'signed-out' })
        this.pause(true)
        break
      case 'itself':
        this.setAside(entry)
        break
      case 'overtaken':
      case 'conflict':
        this.inConflict(entry, failure)
        break
      case 'refused':
        this.refuse(entry, failure)
    }
  }

  /** What fails by itself is tried again in the next round; a newer state of its document goes in its place. */
  private setAside(entry: Waiting): void {
    entry.tries++
    entry.aside = true
    const newer = this.queue.find((e) => e !== entry && isOlder(entry, e))
    if (newer && (!entry.unsure || entry.tries > TRIED)) {
      this.replace(entry, newer)
      this.keeping.drop(entry.id).catch(() => {})
    }
    this.state.setState({ trouble: '', signedOut: false })
    if (++this.inARow % IN_A_ROW === 0) this.pause(true)
  }

  private inConflict(entry: Waiting, { message, code, refusal }: SendFailure): void {
    this.pauses = 0
    const { document, saving, left } = entry
    const writer = saving?.writer ?? ''
    this.state.setState({ trouble: '', signedOut: false })
    if (refusal === 'overtaken' && left) {
      // It was saved, and its window went on: what is there stands on it.
      this.take(entry)
      return
    }
    const conflict = { why: message, gone: code === 'missing', writer }
    this.state.setState((s) => ({ conflicts: new Map(s.conflicts).set(document, conflict) }))
  }

  private refuse(entry: Waiting, error: SendFailure): void {
    this.pauses = 0
    this.queue = this.queue.filter((e) => e !== entry)
    this.held.push(entry)
    const { id, document, what, why } = entry
    this.state.setState((s) => ({
      trouble: '',
      signedOut: false,
      refused: [
        ...s.refused.filter((r) => !document || r.document !== document),
        { id, document, what, why },
      ],
    }))
    for (const { reject } of entry.settled.splice(0)) reject(error)
  }

  /** @param all nothing is sent in it; else only what was set aside waits for its end */
  private pause(all: boolean): void {
    this.timer?.callOff()
    const ms = PAUSES_MS[Math.min(this.pauses++, PAUSES_MS.length - 1)] as number
    this.timer = { callOff: this.later(ms, () => this.over()), all }
  }

  private over(): void {
    this.timer = null
    for (const e of this.queue) e.aside = false
    this.work()
  }
}
