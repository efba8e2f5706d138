/*
 * Two windows on one routine, a server that dies and comes back, and a network that loses, holds, doubles and delays: what they
 * do is drawn, and what must hold of it is looked at. Everything but the network and the browser's storage is the program's own.
 */

import { emptyRoutine, type Routine } from '@/core/routine'
import { DocumentSaves } from './document-saves'
import type { Entry } from './entry'
import { Outbox } from './outbox'
import { memoryKeeping } from './outbox.test-tools'
import { SendFailure } from './outbox-state'
import { type RoutineSaves, routineIn, savedRoutine } from './routine-saves'
import { KeptDocument } from './save-server.test-tools'
import { routineDocument } from './saved'

const ID = 'shared'
const DOCUMENT = routineDocument(ID)
const FATES = ['well', 'lost', 'answer lost', 'doubled', 'answer held', 'late', 'failed'] as const
type Fate = (typeof FATES)[number]

/** What may happen: to one of two windows, to the server, to the network. */
export const ACTS = [
  ...['edit', 'edit', 'edit', 'open', 'close', 'kill', 'reload', 'give up'],
  ...['server dies', 'server is back', 'deliver', 'answer', 'pauses end', 'time'],
] as const
export interface Act {
  act: (typeof ACTS)[number]
  window: 0 | 1
  fate: Fate
}
export { FATES }

const turn = () => new Promise<void>((done) => setImmediate(done))
/** What was done is told by its own words, one a line. */
const wordsIn = (routine: Routine | null) => new Set((routine?.lyrics ?? '').split('\n').filter(Boolean))

class Network {
  alive = true
  fate: Fate = 'well'
  readonly document = new KeptDocument<Routine>(emptyRoutine('Shared'))
  /** Requests and answers that are on their way. */
  private requests: (() => void)[] = []
  private answers: (() => void)[] = []

  send = async (entry: Entry): Promise<unknown> => {
    const away = () => new SendFailure('away', 'later', 'offline', true)
    if (!this.alive || this.fate === 'lost') throw away()
    if (this.fate === 'failed') throw new SendFailure('failed', 'itself', 'failed')
    const { saving } = entry
    const arrive = () =>
      this.document.save(saving as NonNullable<Entry['saving']>, routineIn(entry.body) as Routine)
    if (this.fate === 'late') {
      this.requests.push(arrive)
      throw away()
    }
    const answer = arrive()
    if (this.fate === 'doubled') this.requests.push(arrive)
    if (this.fate === 'answer lost') throw away()
    if (this.fate === 'answer held') await new Promise<void>((go) => this.answers.push(go))
    const said = await answer.json()
    if (!answer.ok) throw new SendFailure(said.error.message, said.error.code)
    return said
  }

  deliver(): void {
    if (this.alive) this.requests.shift()?.()
  }

  answer(): void {
    this.answers.shift()?.()
  }

  /** Everything that is on its way comes in, in any order. */
  heal(): void {
    this.alive = true
    this.fate = 'well'
    for (const arrive of this.requests.splice(0).reverse()) arrive()
    for (const go of this.answers.splice(0)) go()
  }
}

/** A window with the routine open in it. */
class TestWindow {
  readonly box: Outbox
  readonly saves: RoutineSaves
  routine: Routine
  private early: string[] = []
  private pauses: (() => void)[] = []
  isOpen = true

  constructor(
    readonly name: string,
    world: World,
  ) {
    this.box = new Outbox(
      (entry) => {
        // What a window that is gone had asked for goes nowhere.
        if (!this.isOpen) return new Promise(() => {})
        return world.network.send(entry)
      },
      world.keepingOf(this),
      name,
      (_, then) => {
        this.pauses.push(then)
        return () => {
          this.pauses = this.pauses.filter((p) => p !== then)
        }
      },
    )
    this.routine = world.network.document.content
    const page = world.network.document.page
    const ready = this.box.adopt((w) => !world.isOpen(w)).then(() => this.box)
    this.saves = new DocumentSaves(
      {
        ...savedRoutine(ID),
        // What clashes is asked: bringing it together has a test of its own.
        merge: () => null,
        put: (saving, routine) =>
          this.box.put({
            ...{ id: `${name}-${saving.save}`, document: DOCUMENT, what: 'the routine', saving },
            ...{ method: 'PUT', url: '/', body: JSON.stringify({ routine }) },
          }),
        newer: async (after) => {
          const { page: now, content } = world.network.document
          if (now.revision <= after) return null
          return {
            revision: now.revision,
            writer: now.madeBy.writer,
            body: JSON.stringify({ routine: content }),
          }
        },
      },
      page,
      {
        content: () => this.routine,
        pending: () => {},
        show: (routine) => {
          this.routine = routine
          const again = this.early.splice(0)
          for (const words of again) this.write(words)
        },
        closed: false,
        together: () => {},
        clashes: () => {},
      },
      { box: () => this.box, ready: () => ready },
    )
    this.box.listen((news) => {
      if (news.of === 'left') world.tellOthers(this, news.document, news)
    })
    this.box.state.subscribe(({ conflicts }, before) => {
      if (this.isOpen && conflicts.has(DOCUMENT) && !before.conflicts.has(DOCUMENT)) world.asked(this)
    })
    this.saves.resume(page)
  }

  private write(words: string): void {
    this.routine = { ...this.routine, lyrics: `${this.routine.lyrics}\n${words}` }
  }

  edit(words: string): void {
    this.write(words)
    if (!this.saves.isReady) this.early.push(words)
    this.saves.changed()
  }

  endPauses(): void {
    for (const then of this.pauses.splice(0)) if (this.isOpen) then()
  }

  /** What its question is about; null where it asks nothing. */
  question(): Set<string> | null {
    const conflict = this.box.state.getState().conflicts.get(DOCUMENT)
    if (!conflict) return null
    if (this.saves.standsOn(conflict.writer)) return wordsIn(this.routine)
    return wordsIn(routineIn(this.box.newestOf(DOCUMENT, conflict.writer)?.body ?? ''))
  }
}

/** All there is. */
class World {
  readonly network = new Network()
  readonly keeping = memoryKeeping()
  readonly wrongs: string[] = []
  private windows: (TestWindow | null)[] = [null, null]
  private readonly done = new Set<string>()
  private opened = 0
  private words = 0
  /** Forgotten by a window and not yet by the disk. */
  private readonly drops = new Map<TestWindow, Entry>()

  isOpen = (name: string) => this.windows.some((w) => w?.name === name)

  keepingOf(window: TestWindow) {
    return {
      ...this.keeping,
      keep: async (e: Entry) => {
        if (window.isOpen) await this.keeping.keep(structuredClone(e))
      },
      drop: async (id: string) => {
        if (!window.isOpen) return
        const e = this.keeping.entries.get(id)
        if (e) this.drops.set(window, e)
        await this.keeping.drop(id)
      },
    }
  }

  tellOthers(from: TestWindow, document: string, answered: Parameters<Outbox['learn']>[1]): void {
    for (const w of this.windows) if (w && w !== from) w.box.learn(document, answered)
  }

  /** A window asks: what is on either side must be missing on the other. */
  asked(window: TestWindow): void {
    const mine = window.question() ?? new Set()
    const theirs = wordsIn(this.network.document.content)
    const holdsAll = (all: Set<string>, some: Set<string>) => [...some].every((words) => all.has(words))
    if (holdsAll(theirs, mine)) this.wrongs.push(`${window.name} asks although all it has is saved`)
    else if (holdsAll(mine, theirs)) this.wrongs.push(`${window.name} asks although nobody did anything else`)
  }

  private open(k: 0 | 1): void {
    if (this.windows[k] || !this.network.alive) return
    this.windows[k] = new TestWindow(`window-${this.opened++}`, this)
  }

  private close(k: 0 | 1, killed = false): void {
    const window = this.windows[k]
    if (!window) return
    // Whoever closes a window that is not ready yet is asked, and stays.
    if (!window.saves.isReady) return
    window.isOpen = false
    this.windows[k] = null
    // The disk may not know yet what was forgotten last.
    const dropped = this.drops.get(window)
    if (killed && dropped) this.keeping.entries.set(dropped.id, dropped)
  }

  async do({ act, window: k, fate }: Act): Promise<void> {
    const window = this.windows[k]
    this.network.fate = fate
    switch (act) {
      case 'edit': {
        if (!window) return this.open(k)
        const words = `w${this.words++}`
        this.done.add(words)
        return window.edit(words)
      }
      case 'open':
        return this.open(k)
      case 'close':
        return this.close(k)
      case 'kill':
        return this.close(k, true)
      case 'reload':
        this.close(k)
        return this.open(k)
      case 'give up': {
        const lost = window?.question()
        if (!window || !lost) return
        const mine = window.saves.standsOn(window.box.state.getState().conflicts.get(DOCUMENT)?.writer ?? '')
        for (const words of lost) this.done.delete(words)
        window.box.giveUp(DOCUMENT)
        // What was loaded anew is what the others did.
        if (mine) this.close(k)
        return
      }
      case 'server dies':
        this.network.alive = false
        return
      case 'server is back':
        this.network.alive = true
        return
      case 'deliver':
        return this.network.deliver()
      case 'answer':
        return this.network.answer()
      case 'pauses end':
        return window?.endPauses()
      case 'time':
        return turn()
    }
  }

  /** All is well again, every window is closed, and a last one is opened: nothing is lost. */
  async end(): Promise<string[]> {
    for (let n = 0; n < 4; n++) {
      this.network.heal()
      await turn()
    }
    for (const k of [0, 1] as const) this.close(k)
    this.open(0)
    for (let n = 0; n < 12; n++) {
      this.network.heal()
      this.windows[0]?.endPauses()
      await turn()
    }
    const there = wordsIn(this.network.document.content)
    const kept = [...this.keeping.entries.values()].map((e) => wordsIn(routineIn(e.body)))
    for (const words of this.done)
      if (!there.has(words) && !kept.some((k) => k.has(words))) this.wrongs.push(`${words} is lost`)
    const asks = this.windows[0]?.question()
    if (kept.length && !asks) this.wrongs.push('something waits, and nobody is told why')
    return this.wrongs
  }
}

/** Lives through a history. @returns what went wrong in it */
export async function liveThrough(acts: readonly Act[]): Promise<string[]> {
  const world = new World()
  for (const act of acts) {
    await world.do(act)
    if (act.act !== 'time') await Promise.resolve()
  }
  return world.end()
}
