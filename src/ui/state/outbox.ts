import { createStore } from 'zustand/vanilla'

/** One thing to be saved. It carries its own id and time, so that sending it again changes nothing. */
export interface Entry {
  id: string
  /** Entries of one document: a newer one that waits takes the place of the older. Empty for what is only ever added. */
  document: string
  /** What it is, in words: "the routine", "a repetition". */
  what: string
  method: 'PUT' | 'POST' | 'DELETE'
  url: string
  /** The body as it is sent. */
  body: string
  /** The window that put it in, and its place in the order of that window. */
  window: string
  order: number
}

/** What a refusal means: try again later, hold all of this document until the person chose, or pass on. */
export type Refusal = 'later' | 'conflict' | 'refused'

/** An answer that is none: with words for people. */
export class SendFailure extends Error {
  constructor(
    message: string,
    readonly refusal: Refusal,
    /** The server's word for it. */
    readonly code = '',
  ) {
    super(message)
  }
}

/** Where entries wait through a reload of the page. */
export interface Keeping {
  all: () => Promise<Entry[]>
  keep: (entry: Entry) => Promise<void>
  drop: (id: string) => Promise<void>
}

export interface OutboxState {
  /** How many entries are not saved yet. */
  waiting: number
  /** Why what waits is not saved: the server is away, say; '' while it is being sent. */
  trouble: string
  /** What was refused for good, newest last. */
  refused: readonly { id: string; document: string; what: string; why: string }[]
  /** Documents that were changed elsewhere: nothing of them is sent until the person chose. */
  conflicts: ReadonlyMap<string, Conflict>
}

/** Why a document waits for the person. */
export interface Conflict {
  why: string
  /** It was taken away elsewhere: there is no other state of it. */
  gone: boolean
}

const NOTHING: OutboxState = { waiting: 0, trouble: '', refused: [], conflicts: new Map() }
/** Pauses between tries, growing; the last one stays. */
const PAUSES_MS = [1000, 2000, 4000, 8000, 15_000] as const

const inTime = (ms: number, then: () => void) => {
  const timer = setTimeout(then, ms)
  return () => clearTimeout(timer)
}

interface Waiting extends Entry {
  settled: { resolve: (answer: unknown) => void; reject: (why: unknown) => void }[]
}

/**
 * Everything that is saved goes through here, one after the other in the order it was done. What the server does not answer
 * is sent again, with growing pauses and one timer however much waits; what it refuses is told and passed over; what
 * waits survives a reload of the page.
 */
export class Outbox {
  readonly state = createStore<OutboxState>(() => NOTHING)
  private queue: Waiting[] = []
  private sending: Waiting | null = null
  /** Calls a pause off; null while there is none. */
  private timer: (() => void) | null = null
  private tries = 0
  private order = 0

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
  async adopt(isGone: (window: string) => boolean): Promise<Entry[]> {
    const left = await this.keeping.all().catch(() => [])
    const mine = left
      .filter((e) => e.window !== this.window && isGone(e.window))
      .sort((a, b) => a.order - b.order)
    const known = new Set(this.queue.map((e) => e.id))
    const taken = mine.filter((e) => !known.has(e.id)).map((e) => ({ ...e, settled: [] }))
    this.queue = [...taken, ...this.queue]
    this.tell()
    this.work()
    return mine
  }

  /** Puts something in. @returns the answer when it is saved; rejects when it is refused for good */
  put(entry: Omit<Entry, 'window' | 'order'>): Promise<unknown> {
    const full: Waiting = {
      ...entry,
      window: this.window,
      order: Date.now() * 1000 + (this.order++ % 1000),
      settled: [],
    }
    const done = new Promise<unknown>((resolve, reject) => {
      full.settled.push({ resolve, reject })
    })
    // Whoever does not ask for the answer is told by the state.
    done.catch(() => {})
    const older = this.queue.findIndex(
      (e) => full.document !== '' && e.document === full.document && e !== this.sending,
    )
    if (older >= 0) {
      const gone = this.queue[older] as Waiting
      full.order = gone.order
      full.settled.unshift(...gone.settled)
      this.queue[older] = full
      this.keeping.drop(gone.id).catch(() => {})
    } else this.queue.push(full)
    const { settled: _, ...kept } = full
    this.keeping.keep(kept).catch(() => {})
    this.tell()
    this.work()
    return done
  }

  /** What waits of a document, the newest; null for nothing. */
  waitingOf(document: string): Entry | null {
    return this.queue.findLast((e) => e.document === document) ?? null
  }

  /** The person chose: what waits of this document is given up. */
  giveUp(document: string): void {
    for (const e of this.queue.filter((x) => x.document === document && x !== this.sending)) this.take(e)
    const conflicts = new Map(this.state.getState().conflicts)
    conflicts.delete(document)
    this.state.setState({ conflicts })
    this.tell()
    this.work()
  }

  /** What was refused of a document was taken back: there is nothing to tell any more. */
  forgive(document: string): void {
    this.state.setState((s) => ({ refused: s.refused.filter((r) => r.document !== document) }))
  }

  /** A refusal was read. */
  dismiss(id: string): void {
    this.state.setState((s) => ({ refused: s.refused.filter((r) => r.id !== id) }))
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
    this.timer?.()
    this.timer = null
    this.work()
  }

  private take(entry: Waiting): void {
    this.queue = this.queue.filter((e) => e !== entry)
    this.keeping.drop(entry.id).catch(() => {})
  }

  private tell(): void {
    this.state.setState({ waiting: this.queue.length })
  }

  private async work(): Promise<void> {
    if (this.sending || this.timer) return
    const { conflicts } = this.state.getState()
    const next = this.queue.find((e) => !e.document || !conflicts.has(e.document))
    if (!next) return
    this.sending = next
    try {
      const answer = await this.send(next)
      this.take(next)
      this.tries = 0
      this.state.setState((s) => ({
        trouble: '',
        // What was refused of a document does not matter any more once a newer state of it is saved.
        refused: next.document ? s.refused.filter((r) => r.document !== next.document) : s.refused,
      }))
      for (const { resolve } of next.settled) resolve(answer)
    } catch (error) {
      this.failed(next, error)
    }
    this.sending = null
    this.tell()
    if (!this.timer) this.work()
  }

  private failed(entry: Waiting, error: unknown): void {
    const why = error instanceof Error ? error.message : String(error)
    const refusal = error instanceof SendFailure ? error.refusal : 'later'
    if (refusal === 'later') {
      const pause = PAUSES_MS[Math.min(this.tries++, PAUSES_MS.length - 1)] as number
      this.state.setState({ trouble: why })
      this.timer = this.later(pause, () => {
        this.timer = null
        this.work()
      })
      return
    }
    this.tries = 0
    if (refusal === 'conflict') {
      const conflict = { why, gone: error instanceof SendFailure && error.code === 'missing' }
      this.state.setState((s) => ({
        trouble: '',
        conflicts: new Map(s.conflicts).set(entry.document, conflict),
      }))
      return
    }
    this.take(entry)
    const { id, document, what } = entry
    this.state.setState((s) => ({
      trouble: '',
      refused: [
        ...s.refused.filter((r) => !document || r.document !== document),
        { id, document, what, why },
      ].slice(-20),
    }))
    for (const { reject } of entry.settled) reject(error)
  }
}

/** In words, what of some work is not saved; '' when all is. */
export function outboxWords({ waiting, trouble, refused, conflicts }: OutboxState): string {
  const conflict = [...conflicts.values()][0]
  if (conflict) return conflict.why
  const last = refused.at(-1)
  if (last) return `One change was refused (${last.what}): ${last.why}`
  if (trouble) return `${waiting} waiting: ${trouble}`
  return ''
}
