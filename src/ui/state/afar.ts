import * as v from 'valibot'
import { ApiError, request } from './ask-server'
import type { Tell } from './task'

/** How it is with work a school's server was asked for. */
export const AfarState = v.variant('kind', [
  v.object({ kind: v.literal('none') }),
  v.object({ kind: v.literal('waiting'), before: v.number() }),
  v.object({ kind: v.literal('working'), share: v.number() }),
  v.object({ kind: v.literal('failed'), why: v.string() }),
  v.object({ kind: v.literal('done') }),
])
type State = v.InferOutput<typeof AfarState>

/** Work that a school's server does where it is asked to. */
export interface AfarWork<T> {
  address: string
  /** @returns how it is with it, and what was made; null before it is done */
  read: (answer: unknown) => { state: State; made: T | null }
  /** In words, after "The server" and after "Asking the server to". */
  does: string
  verb: string
  /** True while what it is about may still come to the server: nothing there is no refusal then. */
  mayCome?: () => boolean
}

/** It cannot be done there: the device itself may. */
export class NotDoneThere extends Error {}

/** Asked again after so long, in ms. */
const ASKED_AGAIN = 1000

const pause = (ms: number, signal: AbortSignal) =>
  new Promise<void>((go) => {
    const timer = setTimeout(go, ms)
    signal.addEventListener('abort', () => {
      clearTimeout(timer)
      go()
    })
  })

function tellState(state: State, does: string, tell: Tell): void {
  // What says nothing of how far it is has a share of 0 to its end.
  if (state.kind === 'working') tell(state.share || null, `The server ${does}`)
  if (state.kind === 'waiting')
    tell(null, `The server ${does} soon${state.before ? `: ${state.before} before this one` : ''}`)
}

/** No answer of the server's own: it goes on meanwhile. */
const SILENT = ['offline', 'unanswered', 'away', 'busy']

/** One answer; null where none came, as on a phone whose network is away. */
async function asked<T>({ address, read, mayCome }: AfarWork<T>, method: string, signal: AbortSignal) {
  try {
    // What is asked for arrives, also where the page is left meanwhile.
    return read(await request(address, method === 'POST' ? { method } : { method, signal }))
  } catch (error) {
    signal.throwIfAborted()
    if (!(error instanceof ApiError)) throw error
    if (SILENT.includes(error.code) || (error.code === 'missing' && mayCome?.())) return null
    // Whatever else it is, also a server of the version before: what the device can, it does.
    throw error.code === 'signed-out' ? error : new NotDoneThere(error.message)
  }
}

/**
 * Has a school's server do something; asked until it is done, also over a network that comes and goes. The page may be left meanwhile.
 * @throws NotDoneThere why the server cannot
 */
export async function doneAfar<T>(
  work: AfarWork<T>,
  tell: Tell,
  signal: AbortSignal,
  again = ASKED_AGAIN,
): Promise<T> {
  tell(null, `Asking the server to ${work.verb}`)
  for (let method = 'POST'; ; ) {
    const answer = await asked(work, method, signal)
    if (!answer) tell(null, 'The server does not answer; it is asked again')
    else {
      const { state, made } = answer
      if (state.kind === 'done' && made !== null) return made
      if (state.kind === 'failed') throw new NotDoneThere(state.why)
      // Another window of the same person may have taken it back.
      method = state.kind === 'none' ? 'POST' : 'GET'
      tellState(state, work.does, tell)
    }
    signal.throwIfAborted()
    await pause(again, signal)
    signal.throwIfAborted()
  }
}

/** Nobody waits for it any more. Where that does not arrive, it is done all the same. */
export const leaveAfar = ({ address }: Pick<AfarWork<unknown>, 'address'>): void =>
  void request(address, { method: 'DELETE' }).catch(() => {})
