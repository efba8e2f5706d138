import * as v from 'valibot'
import { type Take, TakeSchema } from '@/core/match'
import { AfarState, type AfarWork, doneAfar, leaveAfar } from './afar'
import { read, request } from './ask-server'
import type { Tell } from './task'

const Answer = v.object({ state: AfarState, takes: v.nullable(v.array(TakeSchema)) })

/** A film of a routine, by its file, whose song is looked for. */
export interface Searched {
  routine: string
  file: string
}

const search = ({ routine, file }: Searched, mayCome?: () => boolean): AfarWork<readonly Take[]> => ({
  address: `/api/routines/${routine}/takes/${file}`,
  read: (answer) => {
    const { state, takes } = read(Answer, answer)
    return { state, made: takes }
  },
  ...{ does: 'looks for the song', verb: 'look for the song' },
  ...(mayCome ? { mayCome } : {}),
})

/**
 * Has a school's server look for the song in a film.
 * @param mayCome true while the film may still come to the server as one of the routine
 * @throws NotDoneThere why the server cannot
 */
export const searchAfar = (
  film: Searched,
  mayCome: () => boolean,
  tell: Tell,
  signal: AbortSignal,
  again?: number,
): Promise<readonly Take[]> => doneAfar(search(film, mayCome), tell, signal, again)

/** True where the server was asked before, and is at it, or has found it. */
export async function isSearchedAfar(film: Searched): Promise<boolean> {
  const { address, read: take } = search(film)
  return request(address)
    .then((answer) => ['waiting', 'working', 'done'].includes(take(answer).state.kind))
    .catch(() => false)
}

/** Nobody waits for it any more. */
export const leaveSearch = (film: Searched): void => leaveAfar(search(film))
