'use client'

import { openDB } from 'idb'
import { nanoid } from 'nanoid'
import * as v from 'valibot'
import { useStore } from 'zustand'
import { entryOf } from './entry'
import { Outbox } from './outbox'
import type { Keeping } from './outbox-queue'
import { sendEntry } from './outbox-send'
import type { OutboxState } from './outbox-state'
import { personHere } from './person'

const STORE = 'entries'
/** What waits is of one person: who signs in after them finds none of it. */
const databaseOf = (person: string) => (person ? `azalea-outbox ${person}` : 'azalea-outbox')

/** The browser's own database; where it is refused, entries wait in the window alone. */
function browserKeeping(): Keeping {
  // Asked for inside of a promise: some browsers throw at the mere name of what they refuse.
  const db = Promise.resolve().then(() =>
    openDB(databaseOf(personHere()), 1, {
      upgrade: (d) => {
        d.createObjectStore(STORE, { keyPath: 'id' })
      },
    }),
  )
  db.catch(() => {})
  return {
    // Looked at and named in one transaction: what one window claims no other gets.
    claim: async (name, isGone) => {
      const tx = (await db).transaction(STORE, 'readwrite')
      const left = (await tx.store.getAll()).flatMap((kept) => entryOf(kept) ?? [])
      const mine = left
        .filter((e) => e.window !== name && isGone(e.window))
        .map((e) => ({ ...e, window: name }))
      for (const e of mine) tx.store.put(e)
      await tx.done
      return mine
    },
    keep: async (entry) => {
      await (await db).put(STORE, entry)
    },
    drop: async (id) => {
      await (await db).delete(STORE, id)
    },
  }
}

/** While a page is drawn on the server nothing is saved. */
const nothingKept: Keeping = { claim: async () => [], keep: async () => {}, drop: async () => {} }

const LOCK = 'azalea-window-'
/** Held while what is left is claimed: who is alive must be known at that moment. */
const CLAIMING = 'azalea-claiming'
/** What the page before this one in the same window was called: it is gone, though its lock may not be free yet. */
const BEFORE = 'azalea-window-before'
/** Windows tell one another what became of what was left. */
const CHANNEL = 'azalea-left'
const Told = v.object({ document: v.string(), writer: v.string(), revision: v.number(), body: v.string() })
let opened: Outbox | null = null
let adopted: Promise<unknown> = Promise.resolve()

/** The outbox of this window. */
export function outbox(): Outbox {
  if (opened) return opened
  if (typeof window === 'undefined') {
    opened = new Outbox(sendEntry, nothingKept, 'server')
    return opened
  }
  const box = new Outbox(sendEntry, browserKeeping(), nanoid(12))
  opened = box
  adopted = adopt(box).catch(() => {})
  tellOthers(box)
  window.addEventListener('pagehide', () => inSession((kept) => kept.setItem(BEFORE, box.window)))
  window.addEventListener('online', () => box.now())
  // What waits would be sent by another window at best: whoever closes this one is asked.
  window.addEventListener('beforeunload', (e) => {
    if (box.state.getState().waiting > 0) e.preventDefault()
  })
  return box
}

/** Resolves when what a closed window left behind was taken over. */
export async function outboxReady(): Promise<Outbox> {
  const box = outbox()
  await adopted
  return box
}

/** Reads or writes what is kept for this window's next page; null where the browser refuses. */
function inSession<T>(work: (kept: Storage) => T): T | null {
  try {
    return work(sessionStorage)
  } catch {
    return null
  }
}

/** A window holds a lock as long as it is there: what others left behind is whose lock nobody holds. */
async function adopt(box: Outbox): Promise<void> {
  const { locks } = navigator
  const before = inSession((kept) => kept.getItem(BEFORE))
  inSession((kept) => kept.removeItem(BEFORE))
  if (!locks) {
    await box.adopt(() => true)
    return
  }
  await new Promise<void>((held) => {
    locks.request(`${LOCK}${box.window}`, () => {
      held()
      return new Promise(() => {})
    })
  })
  await locks.request(CLAIMING, async () => {
    const { held = [] } = await locks.query()
    const alive = new Set(held.map((l) => l.name))
    await box.adopt((w) => w === before || !alive.has(`${LOCK}${w}`))
  })
}

/** What was left of a document and is saved now is told to other windows, and heard from them. */
function tellOthers(box: Outbox): void {
  if (typeof BroadcastChannel === 'undefined') return
  const channel = new BroadcastChannel(CHANNEL)
  channel.onmessage = ({ data }) => {
    const heard = v.safeParse(Told, data)
    if (!heard.success) return
    const { document, ...answered } = heard.output
    box.learn(document, answered)
  }
  box.listen((news) => news.of === 'left' && channel.postMessage(news))
}

/** Reads from the outbox of this window. */
export function useOutbox<T>(pick: (state: OutboxState) => T): T {
  return useStore(outbox().state, pick)
}
