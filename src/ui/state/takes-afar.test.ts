import { afterEach, describe, expect, it, vi } from 'vitest'
import { NotDoneThere } from './afar'
import { isSearchedAfar, leaveSearch, searchAfar } from './takes-afar'

const FILM = { routine: 'r', file: 'f' }
const TAKES = [{ from: 1, to: 9, at: 3, rate: 0.8, sure: 0.9 }]
const state = (of: object, takes: typeof TAKES | null = null) => ({ state: of, takes })
const refused = (code: string) => ({ error: { code, message: 'No.' } })

/** A server that gives these answers, one after another. */
function answers(...list: object[]) {
  const asked: string[] = []
  vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
    const answer =
      asked.length > 20 ? refused('endless') : (list[Math.min(asked.length, list.length - 1)] ?? {})
    asked.push(`${init?.method ?? 'GET'} ${url}`)
    return Response.json(answer, { status: 'error' in answer ? 404 : 200 })
  })
  return asked
}
const found = (mayCome = () => false, told: unknown[] = []) =>
  searchAfar(FILM, mayCome, (...now) => told.push(now), new AbortController().signal, 0)
afterEach(() => vi.unstubAllGlobals())

describe('a film whose song a server looks for', () => {
  it('is asked for, and told how far it is', async () => {
    const asked = answers(
      state({ kind: 'waiting', before: 0 }),
      state({ kind: 'working', share: 0.5 }),
      state({ kind: 'done' }, TAKES),
    )
    const told: unknown[] = []
    expect(await found(undefined, told)).toEqual(TAKES)
    expect(asked).toEqual(['POST', 'GET', 'GET'].map((m) => `${m} /api/routines/r/takes/f`))
    expect(told).toEqual([
      [null, 'Asking the server to look for the song'],
      [null, 'The server looks for the song soon'],
      [0.5, 'The server looks for the song'],
    ])
  })
  it('in which it is not is done all the same', async () => {
    answers(state({ kind: 'done' }, []))
    expect(await found()).toEqual([])
  })
  it('that is not saved yet is asked for again, and refused once it is', async () => {
    let unsaved = 2
    const asked = answers(refused('missing'), refused('missing'), state({ kind: 'done' }, TAKES))
    expect(await found(() => unsaved-- > 0)).toEqual(TAKES)
    expect(asked).toHaveLength(3)
    answers(refused('missing'))
    await expect(found()).rejects.toThrow(NotDoneThere)
    answers(refused('forbidden'))
    await expect(found(() => true)).rejects.toThrow(NotDoneThere)
  })
  it('that cannot be heard there says why', async () => {
    answers(state({ kind: 'failed', why: 'Its sound is of no kind.' }))
    await expect(found()).rejects.toThrow(new NotDoneThere('Its sound is of no kind.'))
  })
  it.each([
    [state({ kind: 'waiting', before: 1 }), true],
    [state({ kind: 'working', share: 0 }), true],
    [state({ kind: 'done' }, TAKES), true],
    [state({ kind: 'none' }), false],
    [state({ kind: 'failed', why: 'No.' }), false],
    [refused('missing'), false],
    [{ state: 'of another version' }, false],
  ])('was asked for before: %j', async (answer, before) => {
    const asked = answers(answer)
    expect(await isSearchedAfar(FILM)).toBe(before)
    expect(asked).toEqual(['GET /api/routines/r/takes/f'])
  })
  it('is taken back', () => {
    const asked = answers({ ok: true })
    leaveSearch(FILM)
    expect(asked).toEqual(['DELETE /api/routines/r/takes/f'])
  })
})
