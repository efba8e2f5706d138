import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { logRepetition, type RepetitionEntry } from '../../state/api'
import { LogQueue } from './log-queue'

const entry = {
  kind: 'drill',
  firstPhrase: 'a',
  lastPhrase: 'a',
  label: 'Verse, eight 1',
  layer: 'all',
  speed: 0.75,
  sound: 'both',
  seconds: 5,
  mark: 'clean',
} as const

const queueOf = (trouble: (why: string) => void) =>
  new LogQueue<Omit<RepetitionEntry, 'corrects'>>(
    (e, corrects) => logRepetition('routine1', { ...e, corrects }),
    trouble,
  )

/** A server that answers as told, one answer a request. */
function server(answers: ('ok' | 'away' | 'refused')[]) {
  const bodies: { mark: string; corrects: string | null }[] = []
  let n = 0
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    const answer = answers.shift() ?? 'ok'
    if (answer === 'away') throw new TypeError('no connection')
    if (answer === 'refused')
      return Response.json(
        { error: { code: 'invalid', message: 'That was not understood.' } },
        { status: 400 },
      )
    bodies.push(JSON.parse(String(init.body)))
    return Response.json({ id: `row${n++}` })
  })
  return bodies
}

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('the way to the log', () => {
  it('a second mark corrects the first', async () => {
    const sent = server([])
    const queue = queueOf(() => {})
    queue.put(0, entry)
    queue.put(0, { ...entry, mark: 'missed' })
    await vi.runAllTimersAsync()
    expect(sent.map((b) => [b.mark, b.corrects])).toEqual([
      ['clean', null],
      ['missed', 'row0'],
    ])
  })
  it('waits while the server is away, says so, and sends everything in order', async () => {
    const said: string[] = []
    const sent = server(['away', 'away'])
    const queue = queueOf((why) => said.push(why))
    queue.put(0, entry)
    queue.put(1, { ...entry, mark: 'shaky' })
    await vi.runAllTimersAsync()
    expect(sent.map((b) => b.mark)).toEqual(['clean', 'shaky'])
    expect(said[0]).toMatch(/Not in the log yet/)
    expect(said.at(-1)).toBe('')
  })
  it('lets go of what is refused, and goes on', async () => {
    const sent = server(['refused'])
    const queue = queueOf(() => {})
    queue.put(0, entry)
    queue.put(1, { ...entry, mark: 'missed' })
    await vi.runAllTimersAsync()
    expect(sent.map((b) => b.mark)).toEqual(['missed'])
  })
  it('numbers the repetitions of each drill anew', () => {
    server([])
    const queue = queueOf(() => {})
    queue.put(0, entry)
    expect(queue.has(0)).toBe(true)
    queue.begin()
    expect(queue.has(0)).toBe(false)
  })
})
