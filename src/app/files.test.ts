/* Files as the server hands them out, asked for through their routes. */
import { describe, expect, it } from 'vitest'
import { emptyRoutine } from '@/core/routine'
import { saveRoutine } from '@/server/routines'
import { takeIn } from '@/server/songs'
import { loopTrack } from '../../e2e/sounds'
import { ownData } from '../server/own-data.test-tools'
import { GET } from './api/routines/[id]/file/route'

ownData()

describe('the file of a routine', () => {
  it.each([
    ['an emoji over the hundredth letter', `${'x'.repeat(99)}👯`, 'x'.repeat(99)],
    ['signs no file may have', 'A/B: "C"?', 'A B C'],
    ['another script', 'ステップ', 'ステップ'],
  ])('is named by a title with %s', async (_, title, name) => {
    async function* bytes() {
      yield loopTrack(101, 4)
    }
    const { song } = await takeIn(bytes(), 'Named.wav')
    const { addRoutine } = await import('@/server/routines')
    const id = await addRoutine(song.id)
    await saveRoutine(id, { revision: 0, writer: 'window-one', save: 1 }, emptyRoutine(title))
    const request = new Request(`http://localhost/api/routines/${id}/file`, {
      headers: { host: 'localhost' },
    })
    const answer = await GET(request, { params: Promise.resolve({ id }) })
    expect(answer.status).toBe(200)
    const said = /filename\*=UTF-8''(.*)\.azalea\.json/.exec(answer.headers.get('content-disposition') ?? '')
    expect(decodeURIComponent(said?.[1] ?? '')).toBe(name)
  })
})
