import { beforeEach, describe, expect, it, vi } from 'vitest'
import { type Filmed, Reel } from './reel'

const back = vi.fn()
beforeEach(() => {
  back.mockClear()
  vi.stubGlobal('URL', { revokeObjectURL: back })
})
const film = (url: string): Filmed => ({
  film: new Blob(),
  url,
  label: 'eight 1',
  speed: 0.75,
  at: null,
  key: url,
})

describe('the reel', () => {
  it('holds the last film; the one before gives its memory back', () => {
    const show = vi.fn()
    const reel = new Reel(show)
    reel.keep(film('a'))
    reel.keep(film('b'))
    expect(show.mock.lastCall?.[0]).toMatchObject({ url: 'b' })
    expect(back.mock.calls).toEqual([['a']])
    reel.forget()
    expect(show.mock.lastCall).toEqual([null])
    expect(back.mock.calls).toEqual([['a'], ['b']])
  })
  it('lets a film go that ends after the floor was left', () => {
    const show = vi.fn()
    const reel = new Reel(show)
    reel.keep(film('a'))
    reel.close()
    expect(back.mock.calls).toEqual([['a']])
    show.mockClear()
    reel.keep(film('late'))
    expect(back.mock.calls).toEqual([['a'], ['late']])
    expect(show).not.toHaveBeenCalled()
  })
  it('holds films again when the floor is entered again', () => {
    const show = vi.fn()
    const reel = new Reel(show)
    reel.close()
    reel.open()
    reel.keep(film('a'))
    expect(show.mock.lastCall?.[0]).toMatchObject({ url: 'a' })
  })
})
