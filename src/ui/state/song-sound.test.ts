import { beforeEach, expect, it, vi } from 'vitest'
import { keepSoundOf } from './song-sound'

const server = vi.hoisted(() => ({ knows: false, put: [] as unknown[][] }))
vi.mock('./api', () => ({ hasTrace: async () => server.knows }))
vi.mock('./saved', () => ({ putTrace: async (...put: unknown[]) => server.put.push(put) }))
vi.mock('./match', () => ({
  matchSong: async (audio: unknown, known: unknown, told: (share: number) => void, signal: AbortSignal) => {
    signal.throwIfAborted()
    told(1)
    return { trace: new Uint8Array([1, 2, audio === 'song' ? 3 : 0, known === null ? 4 : 0]) }
  },
}))
beforeEach(() => Object.assign(server, { knows: false, put: [] }))
const song = async () => 'song' as never

it('works out how a song sounds where the server does not know, and keeps it', async () => {
  const told: number[] = []
  await keepSoundOf('s1', song, (share) => told.push(share), new AbortController().signal)
  expect(server.put).toEqual([['s1', 'AQIDBA==']])
  expect(told).toEqual([1])
})
it('asks for no sound where the server knows, and keeps nothing where it is stopped', async () => {
  server.knows = true
  await keepSoundOf(
    's1',
    () => expect.unreachable(),
    () => {},
    new AbortController().signal,
  )
  server.knows = false
  await expect(keepSoundOf('s1', song, () => {}, AbortSignal.abort())).rejects.toMatchObject({
    name: 'AbortError',
  })
  expect(server.put).toEqual([])
})
