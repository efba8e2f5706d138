/* npm run attack:monday -- [SECONDS] [TIMES]: a school of 500 teachers and 20,000 learners on Monday at 18:00 (docs/school.md), TIMES as
   busy as it is on paper. What comes does not wait for what came before; how long something took is counted from when it was due. */
import { mkdtempSync, rmSync, statSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { silence } from '../../e2e/sounds'
import { asked, begun, dance, joined, json, pause } from './school'
import { Attacked, percentile } from './server'

const SECONDS = Number(process.argv[2] ?? 120)
const TIMES = Number(process.argv[3] ?? 1)
const PROCESSES = Number(process.env.PROCESSES ?? 1)
/** A class's link counts a thousand devices at most: the learners are of so many classes, of so many accounts. */
const [PEOPLE, CLASSES, LEARNERS] = [40, 100, 20_000]
/** Of a song that is loaded. */
const SONG_SECONDS = 57
/** One in so many learners has no page yet, or an old one. */
const ANEW = 10

/** Something that is asked for: how often a second, and its requests, one after the other. */
interface Kind {
  name: string
  second: number
  ask: (n: number) => Promise<Response>
}
interface Class {
  cookie: string
  routine: string
  link: string
  etag: string
  revision: number
}

const device = (n: number) => `device-of-learner-${n}`
const at = <T>(list: readonly T[], n: number) => list[n % list.length] as T

async function classes(servers: readonly Attacked[], cookies: readonly string[]): Promise<Class[]> {
  const made: Class[] = []
  for (let n = 0; n < CLASSES; n++) {
    const [cookie, routine] = [at(cookies, n), `dance-of-class-${n}`]
    const headers = { ...json, cookie }
    await begun(servers, cookie, routine, `Dance ${n}`)
    const saved = JSON.stringify({
      ...{ revision: 0, writer: `window-of-${n}`, save: 1, routine: dance(`Dance ${n}`) },
    })
    await asked(servers, 0, `/api/routines/${routine}`, { method: 'PUT', headers, body: saved })
    const out = JSON.stringify({ group: `Class ${n}`, films: false, voice: null, stills: null })
    const handed = await asked(servers, n, `/api/routines/${routine}/classes`, {
      ...{ method: 'PUT', headers, body: out },
    })
    if (!handed.ok) throw new Error(`${handed.status} ${await handed.text()}`)
    const [row] = (await handed.json()) as { link: string }[]
    const link = new URL(row?.link ?? '').pathname
    const page = await asked(servers, n, link, {})
    made.push({ cookie, routine, link, etag: page.headers.get('etag') ?? '', revision: 1 })
  }
  return made
}

async function songs(servers: readonly Attacked[], cookies: readonly string[]): Promise<string[]> {
  const made: string[] = []
  for (const [n, cookie] of cookies.slice(0, 5).entries()) {
    const put = await asked(servers, n, '/api/songs', {
      method: 'PUT',
      headers: { cookie, 'x-file-name': `Song ${n}.wav` },
      body: new Uint8Array(silence(SONG_SECONDS + n / 10)),
    })
    const { songId } = (await put.json()) as { songId: string }
    made.push(songId)
  }
  return made
}

function kinds(
  servers: readonly Attacked[],
  cookies: readonly string[],
  there: readonly Class[],
  songIds: readonly string[],
): Kind[] {
  const now = new Date().toISOString()
  const to = (n: number, url: string, init: RequestInit) =>
    fetch(at(servers, n).url + url, init).then(async (r) => {
      await r.arrayBuffer()
      return r
    })
  const as = (c: Class, method: string, body: object): RequestInit => ({
    ...{ method, headers: { ...json, cookie: c.cookie }, body: JSON.stringify(body) },
  })
  const of = (n: number) => at(there, n)
  const told = (n: number): RequestInit => ({
    ...{ method: 'POST', headers: json, body: JSON.stringify({ device: device(n % LEARNERS), made: now }) },
  })
  const marks = (n: number) => ({
    device: device(n % LEARNERS),
    sent: {
      ...{ azalea: 'marks', version: 1, made: now, id: of(n).routine, learner: `Learner ${n}` },
      marks: Array.from({ length: 8 }, (_, k) => ({ from: 4 * k, to: 4 * k + 4, sits: k % 3 > 0, at: now })),
    },
  })
  const token = (n: number) => of(n).link.split('/').at(-1)
  return [
    {
      name: 'page of a class',
      second: 33,
      ask: (n) => to(n, of(n).link, n % ANEW ? { headers: { 'if-none-match': of(n).etag } } : {}),
    },
    { name: 'that it was opened', second: 33, ask: (n) => to(n, `/api/classes/${token(n)}`, told(n)) },
    {
      name: 'what sits',
      second: 11,
      ask: (n) =>
        to(n, `/api/classes/${token(n)}/marks`, {
          ...{ method: 'PUT', headers: json, body: JSON.stringify(marks(n)) },
        }),
    },
    {
      name: 'repetitions',
      second: 8,
      ask: (n) =>
        to(
          n,
          `/api/routines/${of(n).routine}/repetitions`,
          as(of(n), 'POST', {
            ...{ id: `row-of-monday-${n}`, doneAt: Date.now(), kind: 'drill', from: 1, to: 5, label: 'x' },
            ...{ pass: 'all', speed: 1, sound: 'both', seconds: 4, mark: 'clean', looped: false, slips: [] },
            corrects: null,
          }),
        ),
    },
    {
      name: 'edits',
      second: 10,
      ask: (n) => {
        const c = of(n)
        const save = { revision: c.revision++, writer: `window-of-${n % there.length}`, save: c.revision }
        return to(
          n,
          `/api/routines/${c.routine}`,
          as(c, 'PUT', { ...save, routine: dance(`Dance ${n} of ${save.save}`) }),
        )
      },
    },
    {
      name: 'who is here',
      second: 33,
      ask: (n) =>
        to(n, `/api/routines/${of(n).routine}/here`, as(of(n), 'POST', { window: `window-${n % 500}` })),
    },
    {
      name: 'songs of 5 MB',
      second: 1,
      ask: (n) =>
        to(n, `/api/songs/${at(songIds, n)}/audio`, { headers: { cookie: at(cookies, n % songIds.length) } }),
    },
  ]
}

interface Tally {
  times: number[]
  wrong: Map<string, number>
  under: number
}

/** Asks as often as it is due, whatever became of what was asked before. */
async function run({ second, ask }: Kind, tally: Tally): Promise<void> {
  const [every, begin] = [1000 / (second * TIMES), performance.now() + Math.random() * 1000]
  const all: Promise<void>[] = []
  for (let n = 0; n * every < SECONDS * 1000; n++) {
    const due = begin + n * every
    await pause(Math.max(0, due - performance.now()))
    tally.under++
    const fault = (what: string) => void tally.wrong.set(what, (tally.wrong.get(what) ?? 0) + 1)
    const one = ask(n).then(
      (r) => {
        tally.times.push(performance.now() - due)
        if (r.status >= 400) fault(String(r.status))
      },
      (e: unknown) => fault(String(e)),
    )
    all.push(one.finally(() => void tally.under--))
  }
  await Promise.all(all)
}

const said = (name: string, { times, wrong }: Tally) =>
  [
    ...[name.padEnd(20), String(times.length).padStart(6)],
    ...[0.5, 0.95, 1].map((share) => percentile(times, share).toFixed(0).padStart(7)),
    [...wrong].map(([what, n]) => `${n} × ${what}`).join(', '),
  ].join(' ')

async function main() {
  const data = mkdtempSync(path.join(os.tmpdir(), 'azalea-monday-'))
  const publicUrl = 'http://localhost:9'
  const more = { AZALEA_PUBLIC_URL: publicUrl, AZALEA_LOG: 'silent' }
  const servers = Array.from({ length: PROCESSES }, () => new Attacked(data, more))
  for (const server of servers) await server.start()
  const cookies = await joined(PEOPLE, servers, data, publicUrl)
  const there = await classes(servers, cookies)
  const asking = kinds(servers, cookies, there, await songs(servers, cookies))
  const tallies = asking.map((): Tally => ({ times: [], wrong: new Map(), under: 0 }))
  const watched = setInterval(() => {
    const waiting = tallies.reduce((sum, t) => sum + t.under, 0)
    const journal = statSync(path.join(data, 'azalea.db-wal'), { throwIfNoEntry: false })?.size ?? 0
    console.log(`${waiting} wait for an answer, journal ${(journal / 1e6).toFixed(1)} MB`)
  }, 10_000)
  const [begin, used] = [performance.now(), servers.map((s) => s.processor())]
  await Promise.all(asking.map((kind, i) => run(kind, tallies[i] as Tally)))
  clearInterval(watched)
  console.log(
    `\n${PROCESSES} processes, ${SECONDS} s, ${TIMES} times as busy as on paper; ms from when it was due`,
  )
  console.log('                      asked  median    95 %    most')
  for (const [i, { name }] of asking.entries()) console.log(said(name, tallies[i] as Tally))
  const seconds = (performance.now() - begin) / 1000
  for (const [i, s] of servers.entries())
    console.log(
      `process ${i + 1}: ${((s.processor() - (used[i] ?? 0)) / seconds).toFixed(2)} of a core, ${s.memory().toFixed(0)} MB`,
    )
  for (const server of servers) await server.kill('SIGTERM')
  rmSync(data, { recursive: true, force: true })
  process.exit(tallies.some((t) => t.wrong.size) ? 1 : 0)
}

main()
