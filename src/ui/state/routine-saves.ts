import * as v from 'valibot'
import { type Clash, type Follows, type Merged, type Routine, readRoutine } from '@/core/routine'
import { mayPass } from './api'
import type { Saving } from './entry'
import type { Outbox } from './outbox'
import type { Answered, Conflict } from './outbox-state'
import { SaveLine } from './save-line'
import { routineDocument } from './saved'

/** What saving needs of the store of an open routine. */
interface Saved {
  routine: () => Routine
  /** Something is done and not yet handed to the outbox. */
  pending: (is: boolean) => void
  /** Shows another state of the document, made elsewhere; what the person did to the page before is done to it again. */
  show: (routine: Routine) => void
  /** Shows what came of both who worked on it; what undo knows is carried along as far as it can be. */
  together: (
    made: { routine: Routine; said: readonly string[] },
    carry: (before: Routine) => Routine | null,
  ) => void
  /** What both changed, each otherwise: the person chooses. None where nothing is to be chosen. */
  clashes: (list: readonly Clash[]) => void
  /** It is not changed here. */
  closed: boolean
}

/** What the page has of a document. */
export interface PageState {
  revision: number
  madeBy: { writer: string; save: number }
}

/** What is asked of the outbox. */
export interface SavesThrough {
  box: () => Outbox
  /** Resolves when what a closed window left is known. */
  ready: () => Promise<Outbox>
  /** @param base the body of the document the save stands on; undefined where it is not known */
  put: (id: string, saving: Saving, routine: Routine, base?: string) => Promise<unknown>
  /** What the server has that is later than a revision; null where it has nothing. */
  newer: (
    id: string,
    revision: number,
  ) => Promise<{ revision: number; writer: string; routine?: unknown } | null>
  /** Does what was done here again on what was saved elsewhere. */
  merge?: (base: Routine, mine: Routine, theirs: Routine, follow?: Follows) => Merged
}

/** Asked again after so long, in ms. */
const AGAIN_MS = 2000

const Body = v.pipe(v.string(), v.parseJson(), v.object({ routine: v.unknown() }))

/** The routine in the body of a save; null where it cannot be read. */
export function routineIn(body: string): Routine | null {
  try {
    return readRoutine(v.parse(Body, body).routine).routine
  } catch {
    return null
  }
}

function readable(data: unknown): Routine | null {
  try {
    return readRoutine(data).routine
  } catch {
    return null
  }
}

/**
 * Hands each new document to the outbox, as a window of its own on the revision it knows. What a window that is gone had not
 * saved is taken up first; until that is known nothing is handed on.
 */
export class RoutineSaves {
  private readonly line: SaveLine
  private saved: Routine
  /** The document at the revision this one stands on; null where that is not known. */
  private base: Routine | null
  /** That document as the body of a save: a large one is not written down for each edit. */
  private written: { of: Routine; body: string } | null = null
  /** The body of this window's last save that was answered. */
  private answer = ''
  /** The revision the page came with, while what was taken up stands on an older one; 0 otherwise. */
  private came = 0
  /** What was handed to the outbox last; null where that was refused. */
  private last: Routine | null = null
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
  private readonly document: string
  private readonly forget: () => void

  constructor(
    private readonly id: string,
    page: PageState,
    private readonly store: Saved,
    private readonly through: SavesThrough,
  ) {
    this.line = new SaveLine(page.revision)
    this.saved = store.routine()
    this.base = this.saved
    this.document = routineDocument(id)
    const box = through.box()
    const deaf = box.listen((news) => news.document === this.document && this.hear(news))
    const blind = box.state.subscribe(this.meet)
    this.forget = () => {
      deaf()
      blind()
    }
    // A page out of sight is not painted any more.
    if (typeof document !== 'undefined') document.addEventListener('visibilitychange', this.hidden)
    if (typeof window !== 'undefined') window.addEventListener('beforeunload', this.leaving)
  }

  /** Looks at how the outbox stands: a save that came back because somebody else had saved is met. */
  private readonly meet = (): void => {
    if (!this.isReady) return
    const { conflicts, waiting } = this.through.box().state.getState()
    const now = conflicts.get(this.document)
    const before = this.met
    // What is done about it tells this again.
    this.met = now
    if (now && now !== before && !now.gone) {
      if (this.standsOn(now.writer)) this.bringTogether()
      else this.takeIn(now.writer)
    }
    if (!now && before) this.store.clashes([])
    if (this.came && waiting === 0 && !now) this.look()
  }

  private readonly hidden = () => {
    if (document.hidden) this.write()
  }

  /** What cannot be handed on yet, because it is not known what closed windows left, would be lost: whoever leaves is asked. */
  private readonly leaving = (event: Event) => {
    this.write()
    if (this.due) event.preventDefault()
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

  /** The document was changed: it is handed on after the paint, because writing a large one down takes a moment. */
  changed(): void {
    if (this.quiet || this.due) return
    this.due = true
    this.store.pending(true)
    if (typeof requestAnimationFrame === 'function' && !document.hidden)
      requestAnimationFrame(() => setTimeout(this.write))
    else this.write()
  }

  /** Hands on what was done last. */
  readonly write = (): void => {
    if (!this.due || !this.isReady) return
    this.due = false
    this.store.pending(false)
    const routine = this.store.routine()
    // Done and undone before it was written down: there is nothing to save.
    if (routine === (this.last ?? this.saved)) {
      this.through.box().forgive(this.document)
      return
    }
    const saving = this.line.next()
    const mine = saving.save
    this.last = routine
    this.through.put(this.id, saving, routine, this.baseBody()).then(
      () => {
        this.saved = routine
        this.base = routine
        this.written = { of: routine, body: this.answer }
        this.settled = Math.max(this.settled, mine)
      },
      () => {
        // Told by the outbox; the next edit sends the whole document again.
        this.settled = Math.max(this.settled, mine)
        if (this.last === routine) this.last = null
      },
    )
  }

  private baseBody(): string | undefined {
    const { base } = this
    if (!base) return undefined
    if (this.written?.of !== base) this.written = { of: base, body: JSON.stringify({ routine: base }) }
    return this.written.body
  }

  /**
   * Goes on from what a window that is gone had not saved, or from what this one saved after the page was made.
   * @returns true where there was something
   */
  async resume(page: PageState): Promise<boolean> {
    const box = await this.through.ready()
    const first = !this.isReady
    const found = this.store.closed || this.isReady ? null : box.takeUp(this.document, page)
    const kept = found && routineIn(found.body)
    if (kept) {
      // What a window that is gone had not saved stands on what the page has, or on what it kept of an older state: what was saved
      // since then is brought together with it once it is sent. On anything else, nobody knows on what.
      if (!found.after.length) this.base = kept
      else if (found.base !== undefined) {
        this.base = routineIn(found.base)
        this.came = this.base ? page.revision : 0
      } else if (found.revision !== page.revision) this.base = null
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
    if (first && !kept) this.looked = this.lookForNewer()
    return kept !== null
  }

  /** What another window saved after the page was made, and before this one listened to it. */
  private lookForNewer(): Promise<void> {
    return this.through.newer(this.id, this.revision).then(
      (now) => {
        if (!now) return
        this.hear({
          of: 'elsewhere',
          writer: now.writer,
          revision: now.revision,
          body: JSON.stringify({ routine: now.routine }),
        })
      },
      // Nothing is known then; a save of this window says so if somebody else saved.
      () => {},
    )
  }

  private take(routine: Routine): void {
    this.saved = routine
    this.last = null
    this.quiet = true
    this.store.show(routine)
    this.quiet = false
    // What was done to the page before is done to this now.
    this.due = this.store.routine() !== routine
    this.store.pending(this.due)
  }

  /** Something of the document was saved: the next save stands on it, or a page nobody touched shows it. */
  private hear(answered: { of: string } & Answered): void {
    const { of, revision, body } = answered
    if (this.line.hear(answered)) {
      if (of === 'own') this.answer = body
      else this.base = routineIn(body)
      // It had been saved before somebody else saved what the page came with.
      if (this.came && of !== 'own') this.look()
      return
    }
    if (!this.isReady) {
      if (revision > (this.early?.revision ?? this.revision)) this.early = answered
      return
    }
    const touched = this.busy || this.line.saves > 0
    if (of === 'own' || touched || revision <= this.revision) return
    const routine = routineIn(body)
    if (!routine) return
    this.line.goOnFrom({ revision, after: [] })
    this.base = routine
    this.take(routine)
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
   */
  async bringTogether(follow?: Follows, late = () => false): Promise<void> {
    const now = await this.through.newer(this.id, this.revision).catch((error: unknown) => {
      // Asked again as long as a save waits for that.
      if (mayPass(error))
        setTimeout(() => this.met && !this.ended && this.bringTogether(follow, late), AGAIN_MS)
      return null
    })
    const theirs = now?.routine === undefined ? null : readable(now.routine)
    const { base } = this
    if (late() || !now || !theirs || !base || !this.through.merge || now.revision <= this.revision) return
    this.came = 0
    const { merge } = this.through
    const merged = merge(base, this.store.routine(), theirs, follow)
    if (!merged.done) return
    if (merged.clashes.length && !follow) {
      this.store.clashes(merged.clashes)
      return
    }
    // What another window left waits on its own.
    const own = this.line.writers
    this.line.goOnFrom({ revision: now.revision, after: [] })
    this.base = theirs
    this.saved = theirs
    this.last = null
    this.settled = this.line.saves
    this.quiet = true
    this.store.together(merged, (before) => {
      const carried = merge(base, before, theirs)
      return carried.done && !carried.clashes.length ? carried.routine : null
    })
    this.quiet = false
    this.store.clashes([])
    this.through.box().giveUp(this.document, own)
    this.due = this.store.routine() !== theirs
    this.store.pending(this.due)
    this.write()
  }

  /**
   * Another window that is gone had not saved something either, on a state that is known: it is done here once more, where nothing
   * clashes. Else the person is asked what becomes of it.
   */
  private async takeIn(writer: string): Promise<void> {
    const box = this.through.box()
    // It is on its way until what is told here is told to all.
    await null
    if (box.state.getState().conflicts.get(this.document)?.writer !== writer) return
    const { merge } = this.through
    const left = box.newestOf(this.document, writer)
    const base = left?.base === undefined ? null : routineIn(left.base)
    const did = left && routineIn(left.body)
    if (!this.isReady || this.store.closed || !merge || !base || !did) return
    const merged = merge(base, did, this.store.routine())
    if (!merged.done || merged.clashes.length) return
    this.quiet = true
    this.store.together(merged, (before) => {
      const carried = merge(base, did, before)
      return carried.done && !carried.clashes.length ? carried.routine : null
    })
    this.quiet = false
    // It waits as this window's own before it is let go of.
    this.due = true
    this.write()
    box.giveUp(this.document)
  }

  close(): void {
    this.ended = true
    this.write()
    this.forget()
    if (typeof document !== 'undefined') document.removeEventListener('visibilitychange', this.hidden)
    if (typeof window !== 'undefined') window.removeEventListener('beforeunload', this.leaving)
  }
}
