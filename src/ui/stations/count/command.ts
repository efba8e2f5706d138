/** One thing the Count station can do, with one key; each is one undo step. */
export interface Command {
  group: 'The beat' | 'The 1' | 'Phrases' | 'Sections and dance' | 'Finding'
  name: string
  tip: string
  /** Key names as in tinykeys, the first one shown. */
  keys: readonly string[]
  shown: string
  run: () => void
}

/** A command, its keys given as one name or several. */
export const command = (
  group: Command['group'],
  name: string,
  keys: string | readonly string[],
  shown: string,
  tip: string,
  run: () => void,
): Command => ({ group, name, keys: typeof keys === 'string' ? [keys] : keys, shown, tip, run })
