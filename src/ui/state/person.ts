import { PERSON_HEADER } from '@/core/formats/person-header'

/** Whose page this is; '' where Azalea is used on one machine. */
export const personHere = (): string =>
  typeof document === 'undefined' ? '' : (document.documentElement?.dataset.person ?? '')

/** Says whose page asks. */
export function personHeaders(): Record<string, string> {
  const person = personHere()
  return person ? { [PERSON_HEADER]: person } : {}
}
