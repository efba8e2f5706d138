import * as v from 'valibot'
import { HearingSchema } from '@/core/hear'
import { ApiError, read, request } from './api'
import { type Heard, heardOf } from './hear'
import type { Tell } from './task'

const Answer = v.object({
  state: v.variant('kind', [
    v.object({ kind: v.literal('none') }),
    v.object({ kind: v.literal('waiting'), before: v.number() }),
    v.object({ kind: v.literal('working'), share: v.number() }),
    v.object({ kind: v.literal('failed'), why: v.string() }),
    v.object({ kind: v.literal('done') }),
  ]),
  heard: v.nullable(v.object({ hearing: HearingSchema, peaks: v.string() })),
})
type Answer = v.InferOutput<typeof Answer>

const Kept = v.object({ heard: Answer.entries.heard })

/** What was heard in a song by now, on any device; null where nothing was. */
export async function fetchHeard(song: string): Promise<Heard | null> {
  const { heard } = read(Kept, await request(`/api/songs/${song}/hearing`))
  return heard && heardOf(heard)
}

/** It cannot be heard there: the device itself may. */
export class NotHeardThere extends Error {}

/** Asked again after so long, in ms. */
const ASKED_AGAIN = 1000

const address = (song: string) => `/api/songs/${song}/hear`

const pause = (ms: number, signal: AbortSignal) =>
  new Promise<void>((go) => {
    const timer = setTimeout(go, ms)
    signal.addEventListener('abort', () => {
      clearTimeout(timer)
      go()
    })
  })

function tellState({ state }: Answer, tell: Tell): void {
  if (state.kind === 'working') tell(state.share, 'The server listens')
  if (state.kind === 'waiting')
    tell(
      null,
      state.before ? `The server listens soon: ${state.before} before this one` : 'The server listens soon',
    )
}

/** One answer; null where none came, as on a phone whose network is away: the server goes on meanwhile. */
async function asked(song: string, method: string, signal: AbortSignal): Promise<Answer | null> {
  try {
    // What is asked for arrives, also where the page is left meanwhile.
    const asking = request(address(song), method === 'POST' ? { method } : { method, signal })
    return read(Answer, await asking)
  } catch (error) {
    signal.throwIfAborted()
    if (!(error instanceof ApiError)) throw error
    if (['offline', 'unanswered', 'away', 'busy'].includes(error.code)) return null
    // Whatever else it is, also a server of the version before: what the device can, it does.
    throw error.code === 'signed-out' ? error : new NotHeardThere(error.message)
  }
}

/**
 * Has a school's server hear a song; asked until it is done, also over a network that comes and goes. The page may be left meanwhile.
 * @throws NotHeardThere why the server cannot
 */
export async function hearAfar(
  song: string,
  tell: Tell,
  signal: AbortSignal,
  again = ASKED_AGAIN,
): Promise<Heard> {
  tell(null, 'Asking the server to listen')
  for (let method = 'POST'; ; ) {
    const answer = await asked(song, method, signal)
    if (!answer) tell(null, 'The server does not answer; it is asked again')
    else {
      const { state, heard } = answer
      if (state.kind === 'done' && heard) return heardOf(heard)
      if (state.kind === 'failed') throw new NotHeardThere(state.why)
      // Another window of the same person may have taken it back.
      method = state.kind === 'none' ? 'POST' : 'GET'
      tellState(answer, tell)
    }
    signal.throwIfAborted()
    await pause(again, signal)
    signal.throwIfAborted()
  }
}

/** Nobody waits for it any more. Where that does not arrive, it is heard all the same. */
export const leaveAfar = (song: string): void =>
  void request(address(song), { method: 'DELETE' }).catch(() => {})
