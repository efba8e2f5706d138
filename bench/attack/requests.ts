/* npm run attack:requests -- [N]: bad requests to every route. None is answered with a fault of the program, none takes two
   seconds, and after each that was taken the shelf and the routine still open. */
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { Attacked } from './server'

const N = Number(process.argv[2] ?? 3000)
let seed = 3
const below = (n: number) => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
  return Math.floor((seed / 2_147_483_648) * n)
}
const one = <T>(list: readonly T[]): T => list[below(list.length)] as T

const NASTY: readonly unknown[] = [
  ...[
    null,
    -1,
    0,
    0.5,
    1e9,
    2 ** 53,
    -(2 ** 53),
    1e308,
    Number.MIN_VALUE,
    true,
    '',
    ' ',
    'x'.repeat(5000),
    '\u0000',
    '💃'.repeat(300),
  ],
  ...[
    '../../etc/passwd',
    '<script>alert(1)</script>',
    '__proto__',
    [],
    {},
    [[]],
    { length: -1 },
    Array(3000).fill(0),
  ],
]

/** A document with a few of its places spoiled. */
function spoiled(data: unknown, times: number): unknown {
  const copy = structuredClone(data)
  for (let t = 0; t < times; t++) {
    let at = copy as Record<string, unknown>
    for (let depth = 0; depth < 8; depth++) {
      const keys = Object.keys(at ?? {})
      if (!keys.length) break
      const key = one(keys)
      const next = at[key]
      if (next && typeof next === 'object' && Object.keys(next).length && below(5) > 0) {
        at = next as Record<string, unknown>
        continue
      }
      if (Array.isArray(next) && below(2)) next.push(...next.slice(0, 3), ...next)
      else at[key] = one(NASTY)
      break
    }
  }
  return copy
}

async function main() {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const server = new Attacked(dir).withDemo()
  await server.start()
  const get = async (url: string) => (await fetch(server.url + url)).json()
  const id = (await get('/api/shelf')).items[0].id as string
  const opened = await get(`/api/routines/${id}`)
  const { routine } = opened
  let { revision } = opened
  const { moves } = await get('/api/moves')
  const repairs = [...Array.from({ length: 20 }, () => ({ kind: 'double' }))]
  const row = {
    ...{ id: 'row-number-one', doneAt: Date.now(), kind: 'drill', from: 1, to: 5, label: 'x', pass: 'all' },
    ...{ speed: 1, sound: 'both', seconds: 4, mark: 'clean', looped: false, slips: [], corrects: null },
  }
  const hearing = {
    version: 2 ** 53,
    duration: 60,
    tempo: 100,
    steady: true,
    beats: [1, 2, 3],
    phrases: [0],
    sections: [],
    confidence: { beats: 1, one: 1 },
    alternatives: [],
  }
  let saves = 1
  const bodies: [string, string, () => unknown][] = [
    [
      'PUT',
      `/api/routines/${id}`,
      () => ({
        revision,
        writer: `writer-${saves}-x`,
        save: saves++,
        routine: spoiled(routine, 1 + below(3)),
      }),
    ],
    [
      'PUT',
      `/api/routines/${id}`,
      () => ({
        ...{ revision, writer: `writer-${saves}-y`, save: saves++ },
        routine: { ...routine, repairs },
      }),
    ],
    [
      'POST',
      `/api/routines/${id}/repetitions`,
      () => spoiled({ ...row, id: `row-${saves++}-xxxx` }, 1 + below(3)),
    ],
    ['POST', `/api/routines/${id}/lessons`, () => spoiled(row, 2)],
    ['POST', `/api/routines/${id}/timings`, () => spoiled(row, 2)],
    [
      'PUT',
      '/api/moves',
      () => ({ revision: below(4), writer: `writer-${saves}-x`, save: saves++, moves: spoiled(moves, 2) }),
    ],
    ['PUT', '/api/songs/none-such-song/hearing', () => spoiled({ hearing, peaks: '' }, below(3))],
    ['POST', '/api/presets', () => spoiled({ name: 'x', settings: {} }, 1)],
    ['PUT', '/api/voice/own', () => spoiled([{ call: '1', wav: 'AAAA' }], below(3))],
    ['PUT', '/api/voice/recordings/recording-one', () => spoiled({ wav: 'AAAA' }, below(2))],
    ['POST', '/api/routines', () => spoiled({ id: `new-routine-${saves++}`, copyOf: id }, 1)],
  ]
  const addresses = () =>
    one([
      `/api/routines/${one(['..', '%00', '%ff', '%', '%c3%28', "'; DROP TABLE songs; --", 'x'.repeat(3000), id])}`,
      `/api/shelf?from=${one(['-1', '1e9', 'x', '99999999999'])}&order=${one(['used', 'x'])}&search=${'%25'.repeat(below(50))}`,
      `/api/routines/${id}/practice?from=${one(['-9999999', '0', 'x'])}&to=${one(['1', '9999999'])}&version=${'v'.repeat(below(40))}`,
      `/api/routines/${id}/sheet?from=5&to=${one(['1', '6'])}&pass=${one(['x', 'feet'])}`,
      `/api/voice?say=${one(['', '%00', '%F0%9F%92%83', '-o%20/tmp/x', '../../x'])}`,
      `/api/songs/${one(['none-such', '..', '%2e%2e'])}/${one(['audio', 'trace'])}`,
    ])
  let [wrong, taken, slowest] = [0, 0, 0]
  const bad = (what: string) => {
    wrong++
    if (wrong < 30) console.log(what)
  }
  const timed = async (url: string, init: RequestInit) => {
    const from = performance.now()
    const answer = await fetch(server.url + url, init)
    const text = await answer.text()
    const ms = performance.now() - from
    slowest = Math.max(slowest, ms)
    if (answer.status >= 500)
      bad(`${init.method ?? 'GET'} ${url.slice(0, 90)}: ${answer.status} ${text.slice(0, 160)}`)
    if (ms > 2000) bad(`${init.method ?? 'GET'} ${url.slice(0, 90)}: ${ms.toFixed(0)} ms`)
    return { ok: answer.ok, text }
  }
  for (let n = 0; n < N; n++) {
    if (below(4) === 0) {
      await timed(addresses(), {})
      continue
    }
    const [method, url, make] = one(bodies)
    const data = JSON.stringify(make())
    const body = below(12) ? data : data.slice(0, below(data.length))
    const answer = await timed(url, { method, body, headers: { 'content-type': 'application/json' } })
    if (!answer.ok) continue
    taken++
    if (method !== 'PUT' || !url.endsWith(id)) continue
    const page = await timed(`/r/${id}/cue`, {})
    const shelf = JSON.parse((await timed('/api/shelf', {})).text)
    if (!page.ok || shelf.unreadable.length) bad(`taken, and not opened any more: ${body.slice(0, 200)}`)
    const now = await get(`/api/routines/${id}`)
    const mended = await timed(url, {
      ...{ method: 'PUT', headers: { 'content-type': 'application/json' } },
      body: JSON.stringify({ revision: now.revision, writer: `mender-${saves}-x`, save: saves++, routine }),
    })
    revision = JSON.parse(mended.text).revision
  }
  // A body without an end is not taken in.
  const piece = new Uint8Array(1024 * 1024).fill(32)
  let sent = 0
  const endless = new ReadableStream({
    pull(controller) {
      sent++
      if (sent > 2500) controller.close()
      else controller.enqueue(piece)
    },
  })
  const status = await fetch(`${server.url}/api/moves`, {
    method: 'PUT',
    body: endless,
    duplex: 'half',
  } as RequestInit).then(
    (a) => a.status,
    () => 0,
  )
  if (status !== 413 && status !== 0) bad(`2.5 GB of blanks: ${status}`)
  if (sent > 400) bad(`2.5 GB of blanks: ${sent} MB were taken in`)
  console.log(
    `${N} bad requests: ${taken} taken, slowest ${slowest.toFixed(0)} ms, ${sent} MB of an endless body read, server ${server.memory().toFixed(0)} MB; ${wrong} wrong`,
  )
  await server.kill()
  rmSync(dir, { recursive: true, force: true })
  process.exit(wrong ? 1 : 0)
}

main()
