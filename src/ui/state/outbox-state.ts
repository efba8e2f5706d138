/* What an outbox tells: of what is not saved, and of what became of documents. */

/**
 * What a failure means: try all again later; try this one again later, the others go on; hold all of this document until the
 * person chose; its own window saved something newer; never.
 */
export type Refusal = 'later' | 'itself' | 'conflict' | 'overtaken' | 'refused'

/** An answer that is none: with words for people. */
export class SendFailure extends Error {
  constructor(
    message: string,
    readonly refusal: Refusal,
    /** The server's word for it. */
    readonly code = '',
    /** True where nobody answered: it may have been done. */
    readonly unanswered = false,
  ) {
    super(message)
  }
}

/** What is not saved, and why. */
export interface Unsaved {
  id: string
  document: string
  what: string
  why: string
}

export interface OutboxState {
  /** How many entries are not saved yet. */
  waiting: number
  /** Why what waits is not saved: the server is away, say; '' while it is being sent. */
  trouble: string
  /** Nobody is signed in: what waits is sent once somebody is. */
  signedOut: boolean
  /** What fails again and again, while everything else is saved. */
  stuck: readonly Unsaved[]
  /** What was refused for good, newest last; kept until the person lets it go. */
  refused: readonly Unsaved[]
  /** Documents that were changed elsewhere: nothing of them is sent until the person chose. */
  conflicts: ReadonlyMap<string, Conflict>
}

/** Why a document waits for the person. */
export interface Conflict {
  why: string
  /** It was taken away elsewhere: there is no other state of it. */
  gone: boolean
  /** Whose save it is about: this window's, or one of a window that is gone. */
  writer: string
}

/** The newest state of a document that was saved from here. */
export interface Answered {
  writer: string
  revision: number
  body: string
}

/** What those who show a document are told: what was saved of it by this window, of what was left, or by another of what was left. */
export type News = { document: string; of: 'own' | 'left' | 'elsewhere' } & Answered

export const NOTHING_WAITS: OutboxState = {
  waiting: 0,
  trouble: '',
  signedOut: false,
  stuck: [],
  refused: [],
  conflicts: new Map(),
}

/** In words, what of some work is not saved; '' when all is. */
export function outboxWords({ waiting, trouble, stuck, refused, conflicts }: OutboxState): string {
  const conflict = [...conflicts.values()][0]
  if (conflict) return conflict.why
  const last = refused.at(-1)
  if (last) return `One change was refused (${last.what}): ${last.why}`
  if (trouble) return `${waiting} waiting: ${trouble}`
  const [first] = stuck
  if (first)
    return `${first.what.replace(/^./, (c) => c.toUpperCase())} cannot be saved; it is tried again, and everything else is saved. ${first.why}`
  return ''
}
