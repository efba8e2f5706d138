import * as v from 'valibot'
import { read, request } from './ask-server'
import { ROLES } from './school'

const [id, detail, by, at] = [v.string(), v.string(), v.string(), v.pipe(v.string(), v.isoTimestamp())]
const Notice = v.variant('what', [
  v.object({
    what: v.picklist(['device', 'link', 'reset', 'password']),
    id,
    detail,
    by,
    at,
    here: v.boolean(),
  }),
  v.object({ what: v.literal('role'), id, detail: v.picklist(ROLES), by, at, here: v.boolean() }),
])
export type Notice = v.InferOutput<typeof Notice>

/** What happened with one's account, the newest first. */
export const fetchNotices = async (): Promise<Notice[]> =>
  read(v.array(Notice), await request('/api/account/notices'))

const AS = { owner: 'an owner', teacher: 'a teacher', assistant: 'an assistant' } as const

/** What happened, in words. */
export function noticeWords(notice: Notice): string {
  switch (notice.what) {
    case 'device':
      return `Signed in on ${notice.detail}, for the first time.`
    case 'link':
      return `${notice.by} made a link by which another password can be set.`
    case 'reset':
      return 'Another password was set by a link.'
    case 'password':
      return 'The password was changed.'
    case 'role':
      return `${notice.by} made you ${AS[notice.detail]} of the school.`
  }
}

const WHEN = { weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' } as const
export const whenNoticed = ({ at }: Notice): string => new Date(at).toLocaleString('en-GB', WHEN)

/** In a browser somebody is new in, so much of what happened with their account is told, in ms; other devices are none of it. */
const TOLD_ANEW_MS = 14 * 24 * 3600 * 1000

/**
 * What is to be told in this browser: what it was not told yet, and was not done here.
 * @param upTo what happened until then is known here; null where nothing was told here yet
 */
export const noticesToTell = (
  notices: readonly Notice[],
  upTo: string | null,
  now = Date.now(),
): readonly Notice[] =>
  notices.filter((n) => {
    if (n.here) return false
    if (upTo !== null) return Date.parse(n.at) > Date.parse(upTo)
    return n.what !== 'device' && Date.parse(n.at) > now - TOLD_ANEW_MS
  })

const keyOf = (person: string) => `azalea-account-told ${person}`

/** Until when somebody knows in this browser what happened with their account; null where it cannot be said. */
export function toldUpTo(person: string): string | null {
  try {
    const at = localStorage.getItem(keyOf(person))
    return at !== null && !Number.isNaN(Date.parse(at)) ? at : null
  } catch {
    return null
  }
}

/** Somebody knows in this browser what happened with their account until then. */
export function keepTold(person: string, at: string): void {
  try {
    localStorage.setItem(keyOf(person), at)
  } catch {
    // A browser that keeps nothing tells it again.
  }
}
