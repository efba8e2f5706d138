/*
 * A small stand-in for a libSQL server: Hrana over HTTP, version 2 in JSON (github.com/tursodatabase/libsql,
 * docs/HRANA_2_SPEC.md), over a local file. It answers late and now and then loses a stream, as networks do.
 */
import { randomUUID } from 'node:crypto'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { setTimeout as pause } from 'node:timers/promises'
import Database from 'libsql'

type Value = { type: string; value?: string | number; base64?: string }
interface Stmt {
  sql?: string
  sql_id?: number
  args?: Value[]
  named_args?: { name: string; value: Value }[]
}
type Condition =
  | { type: 'ok' | 'error'; step: number }
  | { type: 'not'; cond: Condition }
  | { type: 'and' | 'or'; conds: Condition[] }
  | { type: 'is_autocommit' }
interface Asked {
  type: string
  stmt?: Stmt
  batch?: { steps: { condition?: Condition; stmt: Stmt }[] }
  sql?: string
  sql_id?: number
}

/** One connection of a client, as long as its baton is passed on. */
interface Stream {
  db: Database.Database
  stored: Map<number, string>
}

const fromWire = (v: Value): unknown =>
  v.type === 'null'
    ? null
    : v.type === 'integer'
      ? BigInt(v.value as string)
      : v.type === 'blob'
        ? Buffer.from(v.base64 ?? '', 'base64')
        : (v.value as string | number)

const toWire = (v: unknown): Value =>
  v === null
    ? { type: 'null' }
    : typeof v === 'bigint'
      ? { type: 'integer', value: String(v) }
      : typeof v === 'number'
        ? { type: 'float', value: v }
        : typeof v === 'string'
          ? { type: 'text', value: v }
          : { type: 'blob', base64: Buffer.from(v as ArrayBuffer).toString('base64') }

function execute({ db, stored }: Stream, stmt: Stmt) {
  const sql = stmt.sql ?? stored.get(stmt.sql_id ?? -1) ?? ''
  const args = stmt.named_args?.length
    ? [Object.fromEntries(stmt.named_args.map((a) => [a.name.replace(/^[:@$]/, ''), fromWire(a.value)]))]
    : (stmt.args ?? []).map(fromWire)
  const prepared = db.prepare(sql).safeIntegers(true)
  if (!prepared.reader) {
    const { changes, lastInsertRowid } = prepared.run(...args)
    const nothing = { cols: [], rows: [] }
    return { ...nothing, affected_row_count: Number(changes), last_insert_rowid: String(lastInsertRowid) }
  }
  const rows = prepared.raw(true).all(...args) as unknown[][]
  return {
    cols: prepared.columns().map(({ name, type }) => ({ name, decltype: type })),
    rows: rows.map((r) => r.map(toWire)),
    affected_row_count: 0,
    last_insert_rowid: null,
  }
}

const failed = (error: unknown) => {
  const { message, code } = error as { message?: string; code?: string }
  return { message: message ?? String(error), code: code ?? 'UNKNOWN' }
}

function batch(stream: Stream, steps: NonNullable<Asked['batch']>['steps']) {
  const results: (object | null)[] = []
  const errors: (object | null)[] = []
  const holds = (c: Condition | undefined): boolean => {
    if (!c) return true
    if (c.type === 'ok') return results[c.step] !== null
    if (c.type === 'error') return errors[c.step] !== null
    if (c.type === 'not') return !holds(c.cond)
    if (c.type === 'and') return c.conds.every(holds)
    if (c.type === 'or') return c.conds.some(holds)
    return !stream.db.inTransaction
  }
  for (const { condition, stmt } of steps) {
    let [ok, error]: [object | null, object | null] = [null, null]
    try {
      if (holds(condition)) ok = execute(stream, stmt)
    } catch (thrown) {
      error = failed(thrown)
    }
    results.push(ok)
    errors.push(error)
  }
  return { step_results: results, step_errors: errors }
}

function answered(stream: Stream, asked: Asked): object {
  switch (asked.type) {
    case 'execute':
      return { type: 'execute', result: execute(stream, asked.stmt ?? {}) }
    case 'batch':
      return { type: 'batch', result: batch(stream, asked.batch?.steps ?? []) }
    case 'sequence':
      stream.db.exec(asked.sql ?? stream.stored.get(asked.sql_id ?? -1) ?? '')
      return { type: 'sequence' }
    case 'store_sql':
      stream.stored.set(asked.sql_id ?? -1, asked.sql ?? '')
      return { type: 'store_sql' }
    case 'close_sql':
      stream.stored.delete(asked.sql_id ?? -1)
      return { type: 'close_sql' }
    case 'get_autocommit':
      return { type: 'get_autocommit', is_autocommit: !stream.db.inTransaction }
    default:
      return { type: 'close' }
  }
}

/** What the network does. */
export interface Weather {
  /** Milliseconds before each answer. */
  latency: number
  /** Of so many requests in a transaction about one loses its stream, and the transaction with it; 0 for none. */
  loses: number
  /** Of so many requests about one finds its connection closed, and is not done; 0 for none. */
  closes: number
  /** Of so many requests about one is done, and its answer lost with the connection; 0 for none. */
  mutes: number
}

/** Of numbers in a row ones that are not: what is lost is not each time the same step of something long (Fibonacci hashing). */
const mixed = (n: number) => Math.imul(n, 2654435761) >>> 8

/**
 * A server over a file, at an address.
 * @param file asked for with each new stream
 * @param token what clients must send; '' for nothing
 */
export async function libsqlServer(file: () => string, weather: Weather, token = '') {
  const streams = new Map<string, Stream>()
  let asked = 0
  let lost = 0
  let came = 0
  let closed = 0
  const close = ({ db }: Stream) => {
    if (db.inTransaction) db.exec('ROLLBACK')
    db.close()
  }
  /** A stream nobody can go on with. */
  const drop = (baton: string | null | undefined) => {
    const stream = baton ? streams.get(baton) : undefined
    if (baton) streams.delete(baton)
    if (stream) close(stream)
  }
  const pipeline = (body: { baton?: string; requests: Asked[] }) => {
    const known = body.baton ? streams.get(body.baton) : undefined
    if (body.baton && !known)
      return { status: 404, body: { message: 'stream not found', code: 'STREAM_EXPIRED' } }
    if (body.baton) streams.delete(body.baton)
    const stream: Stream = known ?? {
      db: new Database(file(), { timeout: 40 }),
      stored: new Map(),
    }
    if (known?.db.inTransaction && weather.loses && mixed(++asked) % weather.loses === 0) {
      lost++
      close(stream)
      return { status: 404, body: { message: 'stream not found', code: 'STREAM_EXPIRED' } }
    }
    const results: object[] = []
    for (const request of body.requests)
      try {
        results.push({ type: 'ok', response: answered(stream, request) })
      } catch (error) {
        results.push({ type: 'error', error: failed(error) })
      }
    const ends = body.requests.some((r) => r.type === 'close')
    if (ends) close(stream)
    const baton = ends ? null : randomUUID()
    if (baton) streams.set(baton, stream)
    return { status: 200, body: { baton, base_url: null, results } }
  }
  const server = http.createServer(async (request, response) => {
    const say = (status: number, body: object) => {
      response.writeHead(status, { 'content-type': 'application/json' })
      response.end(JSON.stringify(body))
    }
    const cut = (baton: string | null | undefined) => {
      closed++
      drop(baton)
      request.socket.destroy()
    }
    await pause(weather.latency)
    if (token && request.headers.authorization !== `Bearer ${token}`)
      return say(401, { message: 'who asks?', code: 'AUTH' })
    if (request.method === 'GET') return say(request.url === '/v2' ? 200 : 404, {})
    if (request.url !== '/v2/pipeline') return say(404, { message: 'not here' })
    const chunks: Buffer[] = []
    for await (const chunk of request) chunks.push(chunk as Buffer)
    const sent = JSON.parse(Buffer.concat(chunks).toString('utf8')) as Parameters<typeof pipeline>[0]
    // Not in step with what is lost above.
    const turn = mixed(++came + 7)
    if (weather.closes && turn % weather.closes === 0) return cut(sent.baton)
    const { status, body } = pipeline(sent)
    if (weather.mutes && turn % weather.mutes === 0) return cut(body.baton)
    say(status, body)
  })
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready))
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    lost: () => lost + closed,
    end: async () => {
      for (const stream of streams.values()) close(stream)
      server.closeAllConnections()
      await new Promise((done) => server.close(done))
    },
  }
}
