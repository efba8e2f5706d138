import { AsyncLocalStorage } from 'node:async_hooks'
import { Problem } from './problem'
import type { ROLES } from './school-schema'
import { publicUrl } from './settings'

export type Role = (typeof ROLES)[number]

/** Who asks. */
export interface Who {
  id: string
  name: string
  role: Role
}

/** Whoever sits before this machine, where Azalea is used on it alone: everything is theirs, and what they make is nobody else's. */
export const HERE: Who = { id: '', name: '', role: 'owner' }

export const isHere = (who: Who): boolean => who.id === ''

/** True where Azalea is served to a school: one signs in. */
export const isSchool = (): boolean => publicUrl() !== null

// On globalThis: pages and routes are bundled apart.
const shared = globalThis as { azaleaAsking?: AsyncLocalStorage<Who> }
shared.azaleaAsking ??= new AsyncLocalStorage<Who>()
const asking = shared.azaleaAsking

export const signedOut = () =>
  new Problem(401, 'You are signed out. Sign in again, then go on.', 'signed-out')

/**
 * Who asks for what is being done.
 * @throws Problem 401 in a school where nobody is known to ask
 */
export function me(): Who {
  const who = asking.getStore()
  if (who) return who
  if (isSchool()) throw signedOut()
  return HERE
}

/** Does something as somebody: what is made on the way is theirs. */
export const doneBy = <T>(who: Who, work: () => T): T => asking.run(who, work)
