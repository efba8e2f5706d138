/** Sent with what a page asks, so that what one person did is never done as another who signed in meanwhile. */
const PERSON_HEADER = 'x-person'

/** Whose page this is; '' where Azalea is used on one machine. */
export const personHere = (): string =>
  typeof document === 'undefined' ? '' : (document.documentElement?.dataset.person ?? '')

/** Says whose page asks. */
export function personHeaders(): Record<string, string> {
  const person = personHere()
  return person ? { [PERSON_HEADER]: person } : {}
}
