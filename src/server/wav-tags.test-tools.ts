/* Set up for the tests of the server that are not about reading what a file says of itself (vitest.config.ts). */
import { open } from 'node:fs/promises'
import { vi } from 'vitest'
import type * as Reading from './tags'

/**
 * What a WAV says of itself is not read by a process of its own: starting one takes longer than most tests that need a song.
 * `bounded.test.ts` and the browser's tests have it read. Anything else is read as it is by the app.
 */
vi.mock('./tags', async (original) => {
  const tags = await original<typeof Reading>()
  const readTags: typeof tags.readTags = async (file, fileName, ...rest) => {
    const handle = await open(file)
    const { buffer } = await handle.read(Buffer.alloc(12), 0, 12, 0)
    await handle.close()
    if (buffer.toString('latin1', 0, 4) !== 'RIFF') return tags.readTags(file, fileName, ...rest)
    return { title: fileName.replace(/\.[^.]*$/, ''), credit: '', mime: 'audio/wav' }
  }
  return { ...tags, readTags }
})
