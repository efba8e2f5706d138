import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { body, handle } from './handle'
import { may } from './may'

const answer = handle(may.everybody, async () => Response.json({ done: true }))
const context = { params: Promise.resolve({}) }
const ask = (headers: Record<string, string>) =>
  answer(
    new Request('http://localhost:3000/api/x', { headers: { host: 'localhost:3000', ...headers } }),
    context,
  )

describe('a request', () => {
  it.each([
    ['same-origin', 200],
    ['none', 200],
    ['same-site', 403],
    ['cross-site', 403],
    ['anything', 403],
  ])('of a page that is %s is answered %d', async (site, status) => {
    expect((await ask({ 'sec-fetch-site': site })).status).toBe(status)
  })
  it.each([
    ['http://localhost:3000', 200],
    ['http://localhost:3001', 403],
    ['http://elsewhere.example', 403],
    ['null', 403],
  ])('from the origin %s is answered %d', async (origin, status) => {
    expect((await ask({ origin })).status).toBe(status)
  })
  it('under a name that is not ours is answered 421', async () => {
    expect((await ask({ host: 'elsewhere.example' })).status).toBe(421)
  })
})

describe('the body of a request', () => {
  const sent = (text: string) => new Request('http://localhost/x', { method: 'POST', body: text })
  const LIMIT = 8 * 1024 * 1024
  it('may be as large as the limit, and no letter larger', async () => {
    const full = `"${'x'.repeat(LIMIT - 2)}"`
    expect(full).toHaveLength(LIMIT)
    expect(await body(sent(full), v.string())).toHaveLength(LIMIT - 2)
    await expect(body(sent(`${full} `), v.string())).rejects.toMatchObject({ status: 413 })
  })
  it('whose check fails of it is refused once for all: it would fail of it each time', async () => {
    const falls = v.pipe(
      v.string(),
      v.check(() => {
        throw new RangeError('Maximum call stack size exceeded')
      }),
    )
    await expect(body(sent('"x"'), falls)).rejects.toMatchObject({ status: 422, code: 'unchecked' })
  })
  it.each(['{', '{"a": 1}'])('%s is answered 400 with a reason', async (text) => {
    const reads = handle(may.everybody, async (request) =>
      Response.json(await body(request, v.object({ a: v.string() }))),
    )
    const request = new Request('http://localhost/x', {
      method: 'POST',
      body: text,
      headers: { host: 'localhost' },
    })
    const answer = await reads(request, context)
    expect(answer.status).toBe(400)
    expect((await answer.json()).error.message).toMatch(/\.$/)
  })
})
