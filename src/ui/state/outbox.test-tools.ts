/* An outbox without a browser, for the tests of what is saved through it. */
import type { Entry } from './entry'
import { Outbox } from './outbox'
import type { Keeping } from './outbox-queue'
import { sendEntry } from './outbox-send'

/** Entries kept in a map, as the browser keeps them through a reload. */
export function memoryKeeping(): Keeping & { entries: Map<string, Entry> } {
  const entries = new Map<string, Entry>()
  return {
    entries,
    claim: async (window, isGone) => {
      const mine = [...entries.values()]
        .filter((e) => e.window !== window && isGone(e.window))
        .map((e) => ({ ...e, window }))
      for (const e of mine) entries.set(e.id, e)
      return mine
    },
    keep: async (e) => {
      entries.set(e.id, e)
    },
    drop: async (id) => {
      entries.delete(id)
    },
  }
}

let box = new Outbox(sendEntry, memoryKeeping(), 'test-window')

/** What stands in for the module of the window's outbox. */
export const windowOutbox = {
  outbox: () => box,
  outboxReady: async () => box,
}
/** A new window: nothing waits. */
export function newWindow(keeping = memoryKeeping()): Outbox {
  box = new Outbox(sendEntry, keeping, `window-${Math.random()}`)
  return box
}
