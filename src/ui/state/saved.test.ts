import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { USUAL } from '@/core/routine'
import { outbox } from './outbox-window'
import * as saved from './saved'
import { addRoutine, binRoutine, copyRoutine } from './saved'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

/** Answers one request after the other, and keeps what was asked. */
function server(...answers: (() => Response)[]) {
  const asked: { method: string; url: string; body: { id?: string } | null }[] = []
  vi.stubGlobal('fetch', async (url: string, { method, body }: { method: string; body: string }) => {
    asked.push({ method, url, body: JSON.parse(body) })
    return (answers[asked.length - 1] as () => Response)()
  })
  return asked
}
const lost = () => {
  throw new TypeError('Failed to fetch')
}
const well = () => Response.json({ ok: true })

describe('what a person waits for', () => {
  it('is asked for again under the same id when its answer was lost: a copy is one copy', async () => {
    const asked = server(lost, well)
    const copying = copyRoutine('the-first-one')
    await vi.advanceTimersByTimeAsync(10)
    expect(outbox().state.getState()).toMatchObject({
      waiting: 1,
      trouble: expect.stringContaining('not answer'),
    })
    await vi.advanceTimersByTimeAsync(1000)
    const id = await copying
    expect(asked.map((a) => a.body)).toEqual([
      { id, copyOf: 'the-first-one' },
      { id, copyOf: 'the-first-one' },
    ])
    expect(outbox().state.getState()).toMatchObject({ waiting: 0, trouble: '' })
  })
  it('is begun under an id of its own: moves on counts alone', async () => {
    const asked = server(well)
    const id = await saved.addCombination('Warm-up', 96, 4)
    expect(asked).toEqual([
      { method: 'POST', url: '/api/combinations', body: { id, title: 'Warm-up', tempo: 96, eights: 4 } },
    ])
  })
  it('is a way to teach, kept and taken away', async () => {
    const asked = server(well, well)
    await saved.keepPreset('Slow', USUAL)
    await saved.removePreset('the-slow-one')
    expect(asked).toEqual([
      { method: 'POST', url: '/api/presets', body: { name: 'Slow', settings: USUAL } },
      { method: 'DELETE', url: '/api/presets/the-slow-one', body: null },
    ])
  })
  it('goes one after the other', async () => {
    const asked = server(well, well)
    const id = await addRoutine('the-song')
    await binRoutine(id)
    expect(asked.map(({ method, url }) => `${method} ${url}`)).toEqual([
      'POST /api/routines',
      `DELETE /api/routines/${id}`,
    ])
  })
  it('is gone for good where nobody has seen it: first into the bin, then out of it', async () => {
    const asked = server(well, well)
    await saved.removeRoutine('r')
    expect(asked.map(({ method, url }) => `${method} ${url}`)).toEqual([
      'DELETE /api/routines/r',
      'DELETE /api/bin/r',
    ])
  })
  it('says on the spot why it is refused, and nowhere else', async () => {
    server(() => Response.json({ error: { code: 'gone', message: 'It is not here.' } }, { status: 404 }))
    await expect(copyRoutine('no-such-one')).rejects.toThrow('It is not here.')
    expect(outbox().state.getState()).toMatchObject({ waiting: 0, refused: [] })
  })
})

describe('each thing that is saved', () => {
  const row = { id: 'row' }
  it.each<[string, () => Promise<unknown>, string, unknown]>([
    ['a repetition', () => saved.putRepetition('r', row as never), 'POST /api/routines/r/repetitions', row],
    ['a timing', () => saved.putTiming('r', row as never), 'POST /api/routines/r/timings', row],
    [
      'a step of the lesson',
      () => saved.putStep('r', { ...row, kind: 'drill' } as never),
      'POST /api/routines/r/lessons',
      { ...row, kind: 'drill' },
    ],
    [
      'a note',
      () => saved.putStep('r', { ...row, kind: 'note' } as never),
      'POST /api/routines/r/lessons',
      { ...row, kind: 'note' },
    ],
    [
      'recorded counts',
      () => saved.putOwnCounts([{ call: '1', wav: 'w' }]),
      'PUT /api/voice/own',
      [{ call: '1', wav: 'w' }],
    ],
    [
      'a recording of calls',
      () => saved.putRecording('a', 'r', 'w'),
      'PUT /api/voice/recordings/a?routine=r',
      { wav: 'w' },
    ],
    ['how a song sounds', () => saved.putTrace('s', 't'), 'PUT /api/songs/s/trace', { trace: 't' }],
    ['what was heard', () => saved.putHearing('s', row), 'PUT /api/songs/s/hearing', row],
    [
      'a way to teach',
      () => saved.keepPreset('mine', row as never),
      'POST /api/presets',
      { name: 'mine', settings: row },
    ],
    ['taking a way to teach away', () => saved.removePreset('p'), 'DELETE /api/presets/p', null],
    ['how a song is played', () => saved.putMeasure('s', 'm'), 'PUT /api/songs/s/measure', { measure: 'm' }],
    ['taking the recorded counts away', () => saved.removeOwnCounts(), 'DELETE /api/voice/own', null],
    ['taking a routine away', () => saved.binRoutine('r'), 'DELETE /api/routines/r', null],
  ])('%s goes to its place, under its name while it waits', async (name, put, to, body) => {
    const fails = () => Response.json({ error: { code: 'failed', message: 'No.' } }, { status: 500 })
    const asked = server(fails, fails, well)
    const done = put()
    await vi.advanceTimersByTimeAsync(1010)
    expect(outbox().state.getState().stuck).toMatchObject([{ what: name, why: 'No.' }])
    await vi.advanceTimersByTimeAsync(10_000)
    await done
    expect(asked.map(({ method, url }) => `${method} ${url}`)).toEqual([to, to, to])
    expect(asked[2]?.body).toEqual(body)
  })
  it('of a document says on which of its saves it stands', async () => {
    const asked = server(
      () => Response.json({ revision: 4 }),
      () => Response.json({ revision: 8 }),
    )
    const routine = saved.putRoutine('r', { revision: 3, writer: 'w', save: 1 }, { title: 'Song' } as never)
    await vi.advanceTimersByTimeAsync(10)
    const moves = saved.putMoves({ revision: 7, writer: 'w', save: 2 }, [], '{"moves":[]}')
    await vi.advanceTimersByTimeAsync(10)
    await Promise.all([routine, moves])
    expect(asked.map(({ method, url }) => `${method} ${url}`)).toEqual([
      'PUT /api/routines/r',
      'PUT /api/moves',
    ])
    expect(asked[0]?.body).toMatchObject({ revision: 3, writer: 'w', save: 1, routine: { title: 'Song' } })
    expect(asked[1]?.body).toMatchObject({ revision: 7, save: 2, moves: [] })
    expect(saved.routineOf(saved.routineDocument('r 1'))).toBe('r 1')
    expect(saved.routineOf(saved.MOVES_DOCUMENT)).toBeNull()
  })
})
