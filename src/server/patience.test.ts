import { describe, expect, it, vi } from 'vitest'
import { patiently } from './patience'

const coded = (code: string) => Object.assign(new Error(`${code}: no`), { code })
/** Work that is refused so often before it is done, and how often it was tried. */
function refused(times: number, error: Error) {
  const state = { tries: 0 }
  const work = async () => {
    if (state.tries++ < times) throw error
    return 'done'
  }
  return { state, work }
}
function clientOf(protocol: string) {
  const state = { made: 0 }
  return { state, client: { protocol, reconnect: () => void state.made++ } }
}

describe('what cannot be done at this moment', () => {
  it.each([
    'SQLITE_BUSY_SNAPSHOT',
    'UND_ERR_SOCKET',
    'UND_ERR_HEADERS_TIMEOUT',
    'ECONNREFUSED',
    'EPIPE',
    'STREAM_EXPIRED',
  ])('is tried again: %s', async (code) => {
    // As fetch says it: behind an error of its own.
    const { state, work } = refused(3, new Error('fetch failed', { cause: coded(code) }))
    expect(await patiently(clientOf('http').client, work)).toBe('done')
    expect(state.tries).toBe(4)
  })
  it('what is wrong with the question is told at once', async () => {
    const { state, work } = refused(3, coded('SQLITE_CONSTRAINT_UNIQUE'))
    await expect(patiently(clientOf('http').client, work)).rejects.toThrow('SQLITE_CONSTRAINT_UNIQUE')
    expect(state.tries).toBe(1)
  })
  it('a database that stays away is told as what it is, to be sent again', async () => {
    const { state, work } = refused(Number.POSITIVE_INFINITY, coded('ECONNREFUSED'))
    await expect(patiently(clientOf('http').client, work, 20)).rejects.toMatchObject({
      ...{ status: 503, code: 'away', message: expect.stringMatching(/does not answer/) },
    })
    expect(state.tries).toBeGreaterThan(2)
  })
  it('a file that stays held is told as held, and its connections are made anew each time', async () => {
    const file = clientOf('file')
    const { state, work } = refused(Number.POSITIVE_INFINITY, coded('SQLITE_BUSY'))
    await expect(patiently(file.client, work, 20)).rejects.toMatchObject({ code: 'SQLITE_BUSY' })
    expect(file.state.made).toBe(state.tries)
  })
  it('a try that takes long is not what patience ends by', async () => {
    // Each try takes longer than the patience, as on a busy machine; what is waited between them is 5 ms at most.
    const { state, work } = refused(2, coded('UND_ERR_SOCKET'))
    const slow = async () => {
      const end = performance.now() + 30
      while (performance.now() < end);
      return work()
    }
    expect(await patiently(clientOf('http').client, slow, 15)).toBe('done')
    expect(state.tries).toBe(3)
  })
  it('is tried some times however long each try takes, and not for ever', async () => {
    const now = vi.spyOn(Date, 'now')
    let clock = 0
    now.mockImplementation(() => clock)
    const long = (times: number) => {
      const { state, work } = refused(times, coded('ETIMEDOUT'))
      const slow = () => {
        // As a connection that is given up after so long.
        clock += 50_000
        return work()
      }
      return { state, slow }
    }
    const few = long(5)
    expect(await patiently(clientOf('http').client, few.slow)).toBe('done')
    const ever = long(Number.POSITIVE_INFINITY)
    await expect(patiently(clientOf('http').client, ever.slow)).rejects.toMatchObject({ code: 'away' })
    expect([few.state.tries, ever.state.tries]).toEqual([6, 6])
    now.mockRestore()
  })
})
