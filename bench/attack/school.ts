/* A school that is served by several processes, for attacks and for load. */
import { spawnSync } from 'node:child_process'
import { emptyRoutine } from '../../src/core/routine'
import type { Attacked } from './server'

const PASSWORD = 'a long one for an attack'

export const pause = (ms: number) => new Promise<void>((done) => setTimeout(done, ms))

/** Asks one process after the other until one answers; as by a proxy that asks for their health, one that was ended is left out until it serves again. */
export async function asked(
  servers: readonly Attacked[],
  first: number,
  url: string,
  init: RequestInit,
): Promise<Response> {
  for (let n = first; ; n++) {
    const serving = servers.filter((s) => s.serves)
    const server = (serving.length ? serving : servers)[n % (serving.length || servers.length)] as Attacked
    // Whole, or not at all: a process may end while it answers.
    const answer = await fetch(server.url + url, init)
      .then(async (r) => new Response(await r.text(), r))
      .catch(() => null)
    if (answer && answer.status < 500) return answer
    if (n - first >= servers.length) await pause(50)
  }
}

export const json = { 'content-type': 'application/json' }

/** A dance of a hundred cues. */
export const dance = (title: string) => ({
  ...emptyRoutine(title),
  cues: Array.from({ length: 100 }, (_, k) => ({
    ...{
      id: `cue-${k}`,
      at: 24 * k,
      length: 24,
      layer: 'feet',
      move: 'walk',
      side: k % 2 ? 'left' : 'right',
      call: '',
    },
  })),
})

/** Has so many teachers join. @returns with what each of them is signed in */
export async function joined(
  people: number,
  servers: readonly Attacked[],
  data: string,
  publicUrl: string,
): Promise<string[]> {
  // By the command, one after the other; the links are taken up through the processes.
  const env = { ...process.env, AZALEA_DATA: data, AZALEA_PUBLIC_URL: publicUrl }
  const made = spawnSync(
    'node_modules/.bin/tsx',
    ['--tsconfig', 'tsconfig.json', 'bench/attack/invite.ts', String(people)],
    {
      ...{ env, encoding: 'utf8' },
    },
  )
  if (made.status !== 0) throw new Error(made.stderr)
  const links = made.stdout.trim().split('\n')
  const cookies: string[] = []
  for (const [i, link] of links.entries()) {
    const token = link.split('/').at(-1)
    const from = { ...json, 'x-forwarded-for': `192.0.2.${i}` }
    const body = JSON.stringify({ password: PASSWORD })
    const { email } = await (
      await asked(servers, i, `/api/invited/${token}`, { method: 'POST', headers: from, body })
    ).json()
    const sent = { method: 'POST', headers: from, body: JSON.stringify({ email, password: PASSWORD }) }
    const answer = await asked(servers, i, '/api/session', sent)
    cookies.push(
      answer.headers
        .getSetCookie()
        .map((c) => c.split(';')[0])
        .join('; '),
    )
  }
  return cookies
}

/** Begins a dance without a song. */
export async function begun(
  servers: readonly Attacked[],
  cookie: string,
  id: string,
  title: string,
): Promise<void> {
  const body = JSON.stringify({ id, title, tempo: 120, eights: 8 })
  const headers = { ...json, cookie }
  const made = await asked(servers, 0, '/api/combinations', { method: 'POST', headers, body })
  if (!made.ok) throw new Error(`${made.status} ${await made.text()}`)
}
