'use client'

import { openDB } from 'idb'
import { nanoid } from 'nanoid'
import { useStore } from 'zustand'
import { type Entry, type Keeping, Outbox, type OutboxState } from './outbox'
import { sendEntry } from './outbox-send'

const [DATABASE, STORE] = ['azalea-outbox', 'entries']

/** The browser's own database; where it is refused, entries wait in the window alone. */
function browserKeeping(): Keeping {
  // Asked for inside of a promise: some browsers throw at the mere name of what they refuse.
  const db = Promise.resolve().then(() =>
    openDB(DATABASE, 1, {
      upgrade: (d) => {
        d.createObjectStore(STORE, { keyPath: 'id' })
      },
    }),
  )
  db.catch(() => {})
  return {
    all: async () => (await (await db).getAll(STORE)) as Entry[],
    keep: async (entry) => {
      await (await db).put(STORE, entry)
    },
    drop: async (id) => {
      await (await db).delete(STORE, id)
    },
  }
}

/** While a page is drawn on the server nothing is saved. */
const nothingKept: Keeping = { all: async () => [], keep: async () => {}, drop: async () => {} }

const LOCK = 'azalea-window-'
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

/** A window holds a lock as long as it is there: what others left behind is whose lock nobody holds. */
async function adopt(box: Outbox): Promise<void> {
  const { locks } = navigator
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
  const { held = [] } = await locks.query()
  const alive = new Set(held.map((l) => l.name))
  await box.adopt((w) => !alive.has(`${LOCK}${w}`))
}

/** Reads from the outbox of this window. */
export function useOutbox<T>(pick: (state: OutboxState) => T): T {
  return useStore(outbox().state, pick)
}
