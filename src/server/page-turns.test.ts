import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Turns } from './page-turns'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})

/** A page that asks for its turn: what it has come to so far. */
function page(turns: Turns) {
  const it = { drawn: null as (() => void) | null }
  turns.turn().then((drawn) => {
    it.drawn = drawn
  })
  return it
}
const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms)

describe('turns of pages', () => {
  it('are taken one after another, in the order in which they were asked for', async () => {
    const turns = new Turns()
    const [a, b, c] = [page(turns), page(turns), page(turns)]
    await wait(1)
    expect([a, b, c].map((p) => !!p.drawn)).toEqual([true, false, false])
    a.drawn?.()
    await wait(1)
    expect([b, c].map((p) => !!p.drawn)).toEqual([true, false])
    b.drawn?.()
    await wait(1)
    expect(c.drawn).not.toBeNull()
  })

  it('come at once where nobody else asks', async () => {
    const turns = new Turns()
    const only = page(turns)
    await wait(1)
    expect(only.drawn).not.toBeNull()
  })

  it('a page waits while quick requests are answered, and for a slow one not', async () => {
    const turns = new Turns()
    const answered = [turns.began(), turns.began()]
    const waits = page(turns)
    await wait(100)
    answered[0]?.()
    answered[0]?.()
    await wait(1)
    expect(waits.drawn).toBeNull()
    answered[1]?.()
    await wait(1)
    expect(waits.drawn).not.toBeNull()
    waits.drawn?.()
    turns.began()
    const slow = page(turns)
    await wait(290)
    expect(slow.drawn).toBeNull()
    await wait(20)
    expect(slow.drawn).not.toBeNull()
  })

  it('a page does not wait for ever while others ask and ask', async () => {
    const turns = new Turns()
    const again = setInterval(() => turns.began(), 50)
    turns.began()
    const patient = page(turns)
    await wait(290)
    expect(patient.drawn).toBeNull()
    await wait(20)
    expect(patient.drawn).not.toBeNull()
    clearInterval(again)
  })

  it('a page whose reader never takes it gives its turn away', async () => {
    const turns = new Turns()
    page(turns)
    const next = page(turns)
    await wait(490)
    expect(next.drawn).toBeNull()
    await wait(20)
    expect(next.drawn).not.toBeNull()
  })
})
