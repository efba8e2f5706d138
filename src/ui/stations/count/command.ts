import { KEYS, type KeyId } from '../../keys/table'

/** One thing the Count station can do, with one key; each is one undo step. */
export interface Command {
  id: KeyId
  name: string
  tip: string
  /** Its key, as people read it. */
  shown: string
  run: () => void
}

/** A command: what the table of keys says of it, and what it does. */
export const command = (id: KeyId, run: () => void): Command => {
  const { name, tip, shown } = KEYS[id]
  return { id, name, tip, shown, run }
}
