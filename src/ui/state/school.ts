import * as v from 'valibot'
import { type Contents, type HandedOut, MarksFileSchema } from '@/core/handout'
import { read, request } from './ask-server'
import { askedIn } from './fetch-made'

/* What a page of a school asks its server. */

export const ROLES = ['owner', 'teacher', 'assistant'] as const
export const RIGHTS = ['look', 'teach', 'edit'] as const

const role = v.picklist(ROLES)
const PersonRow = v.object({ id: v.string(), name: v.string(), role, email: v.optional(v.string(), '') })
export type PersonRow = v.InferOutput<typeof PersonRow>
const InvitationRow = v.object({
  id: v.string(),
  name: v.string(),
  email: v.string(),
  role,
  expiresAt: v.string(),
})
export type InvitationRow = v.InferOutput<typeof InvitationRow>
const ShareRow = v.object({ person: v.string(), name: v.string(), right: v.picklist(RIGHTS) })
export type ShareRow = v.InferOutput<typeof ShareRow>
const BinRow = v.object({ id: v.string(), title: v.string(), binnedAt: v.number() })
export type BinRow = v.InferOutput<typeof BinRow>

async function ask<S extends v.GenericSchema>(
  schema: S,
  method: string,
  url: string,
  body?: object,
): Promise<v.InferOutput<S>> {
  return read(schema, await request(url, { method, ...(body ? { body: JSON.stringify(body) } : {}) }))
}

const Done = v.unknown()
const Link = v.object({ link: v.string() })

export const signIn = (email: string, password: string) =>
  ask(Done, 'POST', '/api/session', { email, password })
export const signOut = (everywhere: boolean) =>
  ask(Done, 'DELETE', `/api/session${everywhere ? '?everywhere' : ''}`)
export const acceptInvitation = (token: string, password: string) =>
  ask(v.object({ email: v.string() }), 'POST', `/api/invited/${token}`, { password })
export const changePassword = (now: string, next: string) => ask(Done, 'PUT', '/api/account', { now, next })
export const eraseAccount = (now: string) => ask(Done, 'DELETE', '/api/account', { now })
export const fetchPeople = () => ask(v.array(PersonRow), 'GET', '/api/people')
export const fetchInvitations = () => ask(v.array(InvitationRow), 'GET', '/api/invitations')
export const invite = (who: { name: string; email: string; role: string }) =>
  ask(Link, 'POST', '/api/invitations', who)
export const withdrawInvitation = (id: string) => ask(Done, 'DELETE', `/api/invitations/${id}`)
export const linkForPerson = (id: string) => ask(Link, 'POST', `/api/people/${id}`)
export const setRoleOf = (id: string, as: string) => ask(Done, 'PATCH', `/api/people/${id}`, { role: as })
export const erasePerson = (id: string) => ask(Done, 'DELETE', `/api/people/${id}`)
export const fetchShares = (routine: string) =>
  ask(v.array(ShareRow), 'GET', `/api/routines/${routine}/shares`)
export const shareRoutine = (routine: string, person: string, right: string | null) =>
  ask(v.array(ShareRow), 'PUT', `/api/routines/${routine}/shares`, { person, right })
const Others = v.object({ revision: v.number(), others: v.array(v.string()) })
export const tellHere = (routine: string, window: string) =>
  ask(Others, 'POST', `/api/routines/${routine}/here`, { window })
export const fetchBin = () => ask(v.array(BinRow), 'GET', '/api/bin')
export const takeFromBin = (id: string) => ask(Done, 'PUT', `/api/bin/${id}`)
export const removeForGood = (id: string) => ask(Done, 'DELETE', `/api/bin/${id}`)

const ClassRow = v.object({
  id: v.string(),
  group: v.string(),
  link: v.string(),
  made: v.string(),
  films: v.boolean(),
  closed: v.boolean(),
  devices: v.number(),
  newest: v.number(),
})
export type ClassRow = v.InferOutput<typeof ClassRow>
export const fetchClasses = (routine: string) =>
  ask(v.array(ClassRow), 'GET', `/api/routines/${routine}/classes`)
/** Hands the practice page out to a class. */
export const handOutTo = (routine: string, contents: Contents, sent: HandedOut) =>
  ask(v.array(ClassRow), 'PUT', `/api/routines/${routine}/classes?${askedIn(contents)}`, sent)
export const setLink = (id: string, be: 'closed' | 'open' | 'new') =>
  ask(Done, 'PATCH', `/api/class-links/${id}`, { be })
export const removeLink = (id: string) => ask(Done, 'DELETE', `/api/class-links/${id}`)

const SentRow = v.object({
  id: v.string(),
  group: v.string(),
  kind: v.picklist(['marks', 'film']),
  learner: v.string(),
  receivedAt: v.string(),
  sent: v.nullable(MarksFileSchema),
})
export type SentRow = v.InferOutput<typeof SentRow>
export const fetchSent = (routine: string) => ask(v.array(SentRow), 'GET', `/api/routines/${routine}/sent`)
export const takeOff = (routine: string, { id, receivedAt }: SentRow) =>
  ask(Done, 'POST', `/api/routines/${routine}/sent`, { id, receivedAt })
