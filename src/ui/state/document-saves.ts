import { wordsOf } from '@/core/formats/said'
import type { Follows } from '@/core/routine'
import { mayPass } from './ask-server'
import type { Saving } from './entry'
import type { Outbox } from './outbox'
import type { Answered, Conflict } from './outbox-state'
import { SaveLine } from './save-line'
import { whenLeft } from './when-left'

/** What the page has of a document. */
export interface PageState {
  revision: number
  madeBy: { writer: string; save: number }
}

/** What came of one's own work and somebody else's. */
export interface Both<T, C> {
  made: T
  /** What both changed, each otherwise. */
  clashes: readonly C[]
  /** What one could not keep beside what the other did, in words. */
  said: readonly string[]
}

/** What is saved: one document, of a kind. */
export interface SavedDocument<T, C> {
  /** By this the outbox knows it. */
  name: string
  /** What the body of a save holds; null where it cannot be read. */
  read: (body: string) => T | null
  /** The body of a save. */
  write: (content: T) => string
  /** @param base the body of the document the save stands on; undefined where it is not known */
  put: (saving: Saving, content: T, base?: string) => Promise<unknown>
  /** What the server has that is later than a revision, as the body of a save; null where it has nothing. */
  newer: (revision: number) => Promise<{ revision: number; writer: string; body: string } | null>
  /** Does what was done here again on what was saved elsewhere; null where that cannot be. */
  merge: (base: T, mine: T, theirs: T, follow?: Follows) => Both<T, C> | null
  /** Writing it down takes a moment: it is done after the paint. */
  isLarge: boolean
}

/** What saving needs of the store of an open document. */
export interface OpenDocument<T, C> {
  content: () => T
  /** Something is done and not yet handed to the outbox. */
  pending: (is: boolean) => void
  /** Shows another state of it, made elsewhere; what the person did to the page before is done to it again. */
  show: (content: T) => void
  /**
   * Shows what came of both who worked on it; what undo knows is carried along as far as it can be.
   * @param own what undo brings back first, where the person took what somebody else did instead of it; else null
   */
  together: (made: T, said: readonly string[], carry: (before: T) => T | null, own: T | null) => void
  /** What both changed, each otherwise: the person chooses. None where nothing is to be chosen. */
  clashes: (list: readonly C[]) => void
  /** It is not changed here. */
  closed: boolean
}

/** The outbox of this window. */
export interface Through {
  box: () => Outbox
  /** Resolves when what a closed window left is known. */
  ready: () => Promise<Outbox>
}

/** Asked again after so long, in ms. */
const AGAIN_MS = 2000

/** Of two states one, whole: of what both stand on nothing is known. */
function chosen<T>(mine: T, theirs: T, follow: Follows | undefined): Both<T, never> | null {
  return follow ? { made: follow === 'mine' ? mine : theirs, clashes: [], said: [] } : null
}

/**
 * Hands each new state of a document to the outbox, as a window of its own on the revision it knows. What a window that is gone had
 * not saved is taken up first; until that is known nothing is handed on.
 */
export class DocumentSaves<T, C> {
  private readonly line: SaveLine
  private saved: T
  /** The document at the revision this one stands on; null where that is not known. */
  private base: T | null
  /** That document as the body of a save: a large one is not written down for each edit. */
  private written: { of: T; body: string } | null = null
  /** The body of this window's last save that was answered. */
  private answer = ''
  /** What was taken up stands on an older revision than the server has, as far as is known. */
  private isBehind = false
  /** What was handed to the outbox last; null where that was refused. */
  private last: T | null = null
  private settled = 0
  private due = false
  /** It is known what closed windows left. */
  isReady = false
  /** Done when what was saved after the page was made is known, and shown. */
  looked: Promise<void> = Promise.resolve()
  private quiet = false
  private ended = false
  /** What was told last of a save that came back. */
  private met: Conflict | undefined
  /** What was heard of the document before it was known what closed windows left. */
  private early: ({ of: string } & Answered) | null = null
  private readonly forget: () => void

  /** @param page the revision of what the store shows */
  constructor(
    private readonly document: SavedDocument<T, C>,
    page: { revision: number },
    private readonly store: OpenDocument<T, C>,
    private readonly through: Through,
  ) {
    this.line = new SaveLine(page.revision)
    this.saved = store.content()
    this.base = this.saved
    const box = through.box()
    const deaf = box.listen((news) => news.document === document.name && this.hear(news))
    const blind = box.state.subscribe(this.meet)
    // What cannot be handed on yet, because it is not known what closed windows left, would be lost.
    const stay = whenLeft(this.write, () => this.due)
    this.forget = () => {
      deaf()
      blind()
      stay()
    }
  }

  /** Looks at how the outbox stands: a save that came back because somebody else had saved is met. */
  private readonly meet = (): void => {
    if (!this.isReady) return
    const { conflicts, waiting } = this.through.box().state.getState()
    const now = conflicts.get(this.document.name)
    const before = this.met
    // What is done about it tells this again.
    this.met = now
    if (now && now !== before && !now.gone) {
      if (this.standsOn(now.writer)) this.bringTogether()
      else this.takeIn(now.writer)
    }
    if (!now && before) this.store.clashes([])
    // What was left had been saved before somebody else saved what the page came with.
    if (this.isBehind && waiting === 0 && !now) this.look()
  }

  get revision(): number {
    return this.line.revision
  }

  /** True where the document here stands on the saves of a window: this one, or one that is gone and was taken up. */
  standsOn(writer: string): boolean {
    return this.line.standsOn(writer)
  }

  /** True while something of it is not saved. */
  get busy(): boolean {
    return this.due || this.settled < this.line.saves
  }

  /** The document was changed: it is handed on, a large one after the paint. */
  changed(): void {
    if (this.quiet || this.due) return
    this.due = true
    this.store.pending(true)
    if (this.document.isLarge && typeof requestAnimationFrame === 'function' && !document.hidden)
      requestAnimationFrame(() => setTimeout(this.write))
    else this.write()
  }

  /** Hands on what was done last. */
  readonly write = (): void => {
    if (!this.due || !this.isReady) return
    this.due = false
    this.store.pending(false)
    const content = this.store.content()
    // Done and undone before it was written down: there is nothing to save.
    if (content === (this.last ?? this.saved)) {
      this.through.box().forgive(this.document.name)
      return
    }
    const saving = this.line.next()
    const mine = saving.save
    this.last = content
    this.document.put(saving, content, this.baseBody()).then(
      () => {
        this.saved = content
        this.base = content
        this.written = { of: content, body: this.answer }
        this.settled = Math.max(this.settled, mine)
      },
      () => {
        // Told by the outbox; the next edit sends the whole document again.
        this.settled = Math.max(this.settled, mine)
        if (this.last === content) this.last = null
      },
    )
  }

  private baseBody(): string | undefined {
    const { base } = this
    if (!base) return undefined
    if (this.written?.of !== base) this.written = { of: base, body: this.document.write(base) }
    return this.written.body
  }

  /**
   * Goes on from what a window that is gone had not saved, or from what this one saved after the page was made.
   * @param page what the store shows; null where the server could not be asked, and it shows nothing
   * @param isFresh the server was asked for the page just now
   * @returns true where there was something
   */
  async resume(page: PageState | null, isFresh = false): Promise<boolean> {
    const box = await this.through.ready()
    const first = !this.isReady
    const found = this.store.closed || this.isReady ? null : box.takeUp(this.document.name, page)
    const kept = found && this.document.read(found.body)
    if (kept) {
      // What a window that is gone had not saved stands on what the page has, or on what it kept of an older state: what was saved
      // since then is brought together with it once it is sent. On anything else, nobody knows on what.
      if (!found.after.length) this.base = kept
      else if (found.base !== undefined) {
        this.base = this.document.read(found.base)
        this.isBehind = this.base !== null
      } else if (found.revision !== page?.revision) this.base = null
      this.line.goOnFrom(found)
      this.take(kept)
    }
    this.isReady = true
    // Another window may have taken it up, and saved it, meanwhile.
    if (!kept && this.early) this.hear(this.early)
    this.early = null
    this.write()
    // What was left may have come back before this page was there.
    this.meet()
    if (first && !kept && page && !isFresh) this.looked = this.lookForNewer()
    return kept !== null
  }

  /** What another window saved after the page was made, and before this one listened to it. */
  private lookForNewer(): Promise<void> {
    return this.document.newer(this.revision).then(
      (now) => {
        if (now) this.hear({ of: 'elsewhere', ...now })
      },
      // Nothing is known then; a save of this window says so if somebody else saved.
      () => {},
    )
  }

  private take(content: T): void {
    this.saved = content
    this.last = null
    this.quiet = true
    this.store.show(content)
    this.quiet = false
    // What was done to the page before is done to this now.
    this.due = this.store.content() !== content
    this.store.pending(this.due)
  }

  /** Something of the document was saved: the next save stands on it, or a page nobody touched shows it. */
  private hear(answered: { of: string } & Answered): void {
    const { of, revision, body } = answered
    if (this.line.hear(answered)) {
      if (of === 'own') this.answer = body
      else this.base = this.document.read(body)
      return
    }
    if (!this.isReady) {
      if (revision > (this.early?.revision ?? this.revision)) this.early = answered
      return
    }
    const touched = this.busy || this.line.saves > 0
    if (of === 'own' || touched || revision <= this.revision) return
    const content = this.document.read(body)
    if (content) this.goOnFrom(revision, content)
  }

  /** Shows what the server has at a revision, and goes on from there. */
  private goOnFrom(revision: number, content: T): void {
    this.line.goOnFrom({ revision, after: [] })
    this.base = content
    this.take(content)
  }

  /** Somebody else saved, as far as this window knows: it takes that over. While something is on its way the answer says so. */
  async look(): Promise<void> {
    if (this.isReady && !this.busy) await this.bringTogether(undefined, () => this.busy)
  }

  /**
   * Does what was done here once more on what somebody else saved meanwhile, where both touched different things; where they did not
   * it is told, and waits.
   * @param follow who is followed where both touched the same
   * @param late asked once it is known what was saved: where something went on its way meanwhile, the answer to that leads here again
   * @returns why it is not known what was saved; '' where it is
   */
  async bringTogether(follow?: Follows, late = () => false): Promise<string> {
    let why = ''
    const now = await this.document.newer(this.revision).catch((error: unknown) => {
      why = wordsOf(error)
      // Asked again as long as a save waits for that.
      if (mayPass(error))
        setTimeout(() => this.met && !this.ended && this.bringTogether(follow, late), AGAIN_MS)
      return null
    })
    const theirs = now && this.document.read(now.body)
    const { base } = this
    if (late() || !now || !theirs || now.revision <= this.revision) return why
    this.isBehind = false
    const mine = this.store.content()
    const both = base ? this.document.merge(base, mine, theirs, follow) : chosen(mine, theirs, follow)
    if (!both) return why
    if (both.clashes.length && !follow) {
      this.store.clashes(both.clashes)
      return why
    }
    // Whoever chose has a way back to all they had, with what the other did beside it.
    const carry = (before: T) => (base ? this.carried(base, before, theirs, follow && 'mine') : null)
    // What another window left waits on its own.
    const own = this.line.writers
    this.line.goOnFrom({ revision: now.revision, after: [] })
    this.base = theirs
    this.saved = theirs
    this.last = null
    this.settled = this.line.saves
    this.showBoth(both, carry, follow === 'theirs' ? (base ? carry(mine) : mine) : null)
    this.store.clashes([])
    this.through.box().giveUp(this.document.name, own)
    this.due = this.store.content() !== theirs
    this.store.pending(this.due)
    this.write()
    return why
  }

  /** A state undo knows, with what somebody else did since; null where both touched the same and nobody is followed. */
  private carried(base: T, before: T, theirs: T, follow?: Follows): T | null {
    const both = this.document.merge(base, before, theirs, follow)
    return both && (follow || !both.clashes.length) ? both.made : null
  }

  private showBoth({ made, said }: Both<T, C>, carry: (before: T) => T | null, own: T | null = null): void {
    this.quiet = true
    this.store.together(made, said, carry, own)
    this.quiet = false
  }

  /** What a window that is gone had not saved, and on what; null where nothing of it is here, or nothing that is known. */
  private leftBy(writer: string): { base: T; did: T } | null {
    const left = this.through.box().newestOf(this.document.name, writer)
    const base = left?.base === undefined ? null : this.document.read(left.base)
    const did = left && this.document.read(left.body)
    return base && did ? { base, did } : null
  }

  /**
   * What is here with all that a window that is gone had not saved, as that had it where both touched the same; that alone where nobody
   * knows what it stands on. Null where it cannot be read.
   */
  withLeftBy(writer: string): T | null {
    const left = this.leftBy(writer)
    if (left) return this.carried(left.base, left.did, this.store.content(), 'mine')
    const body = this.through.box().newestOf(this.document.name, writer)?.body
    return body === undefined ? null : this.document.read(body)
  }

  /**
   * Another window that is gone had not saved something either, on a state that is known: it is done here once more, where nothing
   * clashes. Else it is told what does (as that window had it, and as it is here), and the person is asked.
   */
  private async takeIn(writer: string): Promise<void> {
    const box = this.through.box()
    const { name } = this.document
    // It is on its way until what is told here is told to all.
    await null
    if (box.state.getState().conflicts.get(name)?.writer !== writer) return
    const left = this.leftBy(writer)
    if (!this.isReady || this.store.closed || !left) return
    const { base, did } = left
    const both = this.document.merge(base, did, this.store.content())
    if (!both) return
    if (both.clashes.length) {
      this.store.clashes(both.clashes)
      return
    }
    this.showBoth(both, (before) => this.carried(base, did, before))
    // It waits as this window's own before it is let go of.
    this.due = true
    this.write()
    box.giveUp(name)
  }

  close(): void {
    this.ended = true
    this.write()
    this.forget()
  }
}
