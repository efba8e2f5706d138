/** What an error says. */
export const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))

/** An error in words, as a whole sentence. */
export function said(error: unknown): string {
  const text = wordsOf(error)
  return /[.!?]$/.test(text) ? text : `${text}.`
}
