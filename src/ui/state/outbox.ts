import { createStore } from 'zustand/vanilla'
import { wordsOf } from '@/core/formats/said'
import { type Entry, lineOf } from './entry'
import { type Keeping, OutboxQueue, type TakenUp, type Waiting } from './outbox-queue'
import { type Answered, type News, NOTHING_WAITS, type OutboxState, SendFailure } from './outbox-state'

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

/**
 * Everything that is saved goes through here, one after the other in the order it was done. What the server does not answer
 * is sent again, with growing pauses and one timer however much waits; what fails by itself lets the others pass; what is
 * refused is told and kept; what waits survives a reload of the page. A save of a document says the very revision it stands on.
 */
export class Outbox {
  readonly state = createStore<OutboxState>(() => NOTHING_WAITS)
  private readonly queue: OutboxQueue
  /** The pause that is on, and whether nothing is sent in it. */
  private timer: { callOff: () => void; all: boolean } | null = null
  private pauses = 0
  private inARow = 0
  private readonly listeners = new Set<(news: News) => void>()

  /**
   * @param send resolves to the answer; rejects with a SendFailure
   * @param keeping where entries survive a reload
   * @param window names this window
   * @param later does something after some milliseconds; gives back what calls it off
   */
  constructor(
    private readonly send: (entry: Entry) => Promise<unknown>,
    keeping: Keeping,
    readonly window: string,
    private readonly later: (ms: number, then: () => void) => () => void = inTime,
  ) {
    this.queue = new OutboxQueue(keeping, window)
  }

  /** Takes over what windows that are gone left behind, before anything of this one. */
  async adopt(isGone: (window: string) => boolean): Promise<void> {
    await this.queue.claim(isGone)
    this.tell()
    this.work()
  }

  /** Puts something in. @returns the answer when it is saved; rejects when it is refused for good */
  put(entry: Omit<Entry, 'window' | 'order'>): Promise<unknown> {
    const done = this.queue.add(entry)
    this.tell()
    this.work()
    return done
  }

  /** What waits or was refused, the newest of a document as it stands on one window's saves; null for nothing. */
  newestOf(document: string, writer: string): Entry | null {
    return this.queue.newestOf(document, writer)
  }

  /** Something by its id; null where it is not here any more. */
  entry(id: string): Entry | null {
    return this.queue.entry(id)
  }

  /** What a page that shows a document goes on from (OutboxQueue.takeUp). */
  takeUp(...of: Parameters<OutboxQueue['takeUp']>): TakenUp | null {
    const taken = this.queue.takeUp(...of)
    this.tell()
    return taken
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
    if (this.queue.learn(document, answered)) this.tellNews({ document, of: 'elsewhere', ...answered })
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
      ? writers.flatMap((writer) => lineOf(this.queue.waiting, document, writer))
      : this.queue.waiting.filter((e) => e.document === document)
    for (const e of new Set(given)) if (e !== this.queue.sending) this.queue.take(e)
    conflicts.delete(document)
    this.state.setState({ conflicts })
    this.tell()
    this.work()
  }

  /** What was refused of a document was taken back: there is nothing to tell any more. */
  forgive(document: string): void {
    for (const e of this.queue.held.filter((x) => x.document === document)) this.leaveOut(e.id)
    this.state.setState((s) => ({ refused: s.refused.filter((r) => r.document !== document) }))
  }

  /** The person lets go of something that is refused or fails again and again. */
  leaveOut(id: string): void {
    const e = [...this.queue.held, ...this.queue.waiting].find((x) => x.id === id)
    if (e && e === this.queue.sending) e.letGo = true
    else if (e) this.queue.take(e)
    for (const { reject } of e?.settled.splice(0) ?? []) reject(new SendFailure(e?.why ?? '', 'refused'))
    this.state.setState((s) => ({ refused: s.refused.filter((r) => r.id !== id) }))
    this.tell()
    this.work()
  }

  /** Resolves when nothing waits any more, or after some milliseconds. */
  whenSaved(ms: number): Promise<void> {
    if (this.queue.waiting.length === 0) return Promise.resolve()
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

  private tell(): void {
    const stuck = this.queue.waiting
      .filter((e) => e.tries > 1)
      .map(({ id, document, what, why }) => ({ id, document, what, why }))
    this.state.setState({ waiting: this.queue.waiting.length, stuck })
  }

  private async work(): Promise<void> {
    if (this.queue.sending || this.timer?.all) return
    const next = this.queue.next(this.state.getState().conflicts)
    if (!next) {
      if (!this.timer && this.queue.waiting.some((e) => e.aside)) this.pause(false)
      return
    }
    this.queue.sending = next
    try {
      this.succeeded(next, await this.send(next))
    } catch (error) {
      this.failed(next, error)
    }
    this.queue.sending = null
    this.tell()
    this.work()
  }

  private succeeded(entry: Waiting, answer: unknown): void {
    this.pauses = 0
    this.inARow = 0
    const revision = (answer as { revision?: unknown } | null)?.revision
    const { document, saving, body, left } = entry
    if (saving && typeof revision === 'number') {
      const answered = { writer: saving.writer, revision, body }
      this.queue.answer(entry, answered)
      this.tellNews({ document, of: left ? 'left' : 'own', ...answered })
    } else this.queue.take(entry)
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
      this.queue.take(entry)
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
    if (!entry.unsure || entry.tries > TRIED) this.queue.giveWay(entry)
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
      this.queue.take(entry)
      return
    }
    const conflict = { why: message, gone: code === 'missing', writer }
    this.state.setState((s) => ({ conflicts: new Map(s.conflicts).set(document, conflict) }))
  }

  private refuse(entry: Waiting, error: SendFailure): void {
    this.pauses = 0
    this.queue.hold(entry)
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
    for (const e of this.queue.waiting) e.aside = false
    this.work()
  }
}
