import * as v from 'valibot'
import type { Contents, PageStills } from '@/core/handout'
import { AfarState, type AfarWork, doneAfar, leaveAfar } from './afar'
import { read } from './ask-server'
import { askedIn, fetchMade } from './fetch-made'
import type { Tell } from './task'

/** What is asked for of a cue sheet. */
export interface SheetWanted {
  contents: Contents
  paper: { size: 'A4' | 'LETTER'; across: boolean; wall: boolean }
  stills?: PageStills | null
}

const Begun = v.object({ sheet: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/)) })

const setting = (address: string): AfarWork<true> => ({
  address,
  read: (answer) => {
    const { state } = read(v.object({ state: AfarState }), answer)
    return { state, made: state.kind === 'done' || null }
  },
  ...{ does: 'sets the sheet', verb: 'set the sheet' },
})

/**
 * The cue sheet as a PDF. A school's server sets it as work, and is asked until it is done.
 * @returns also letters no font has; '' for none
 * @throws Error in words for people
 */
export async function fetchSheet(
  id: string,
  { contents, paper, stills }: SheetWanted,
  tell: Tell,
  signal: AbortSignal,
  again?: number,
): Promise<{ pdf: Blob; missing: string }> {
  const url = `/api/routines/${id}/sheet?${askedIn(contents, paper)}`
  const begun = await fetchMade(url, signal, stills ?? undefined, { prefer: 'respond-async' })
  const response = begun.status === 202 ? await fetchSet(id, begun, tell, signal, again) : begun
  return {
    pdf: await response.blob(),
    missing: decodeURIComponent(response.headers.get('x-missing-letters') ?? ''),
  }
}

/** Waits for the sheet that is set, and gets it. */
async function fetchSet(
  id: string,
  begun: Response,
  tell: Tell,
  signal: AbortSignal,
  again?: number,
): Promise<Response> {
  const { sheet } = read(Begun, await begun.json().catch(() => null))
  const work = setting(`/api/routines/${id}/sheets/${sheet}`)
  const leave = () => leaveAfar(work)
  signal.addEventListener('abort', leave, { once: true })
  try {
    await doneAfar(work, tell, signal, again)
  } finally {
    signal.removeEventListener('abort', leave)
  }
  return fetchMade(`${work.address}/file`, signal)
}
