import * as v from 'valibot'
import { HearingSchema } from '@/core/hear'
import { AfarState, type AfarWork, doneAfar, leaveAfar } from './afar'
import { read, request } from './ask-server'
import { type Heard, heardOf } from './hear'
import type { Tell } from './task'

const Kept = v.object({ heard: v.nullable(v.object({ hearing: HearingSchema, peaks: v.string() })) })
const Answer = v.object({ state: AfarState, ...Kept.entries })

/** What was heard in a song by now, on any device; null where nothing was. */
export async function fetchHeard(song: string): Promise<Heard | null> {
  const { heard } = read(Kept, await request(`/api/songs/${song}/hearing`))
  return heard && heardOf(heard)
}

const hearing = (song: string): AfarWork<Heard> => ({
  address: `/api/songs/${song}/hear`,
  read: (answer) => {
    const { state, heard } = read(Answer, answer)
    return { state, made: heard && heardOf(heard) }
  },
  ...{ does: 'listens', verb: 'listen' },
})

/** Has a school's server hear a song. @throws NotDoneThere why the server cannot */
export const hearAfar = (song: string, tell: Tell, signal: AbortSignal, again?: number): Promise<Heard> =>
  doneAfar(hearing(song), tell, signal, again)

/** Nobody waits for a song to be heard any more. */
export const leaveHearing = (song: string): void => leaveAfar(hearing(song))
