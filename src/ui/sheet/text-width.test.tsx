// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useTypeLoaded, widthOfText } from './text-width'

/** Pixels a letter takes in the type that is there. */
let letter = 6
const fonts = Object.assign(new EventTarget(), { status: 'loaded', ready: Promise.resolve() })
const typeComes = () => act(() => fonts.dispatchEvent(new Event('loadingdone')))

beforeEach(() => {
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue({
    measureText: (text: string) => ({ width: letter * text.length }),
  } as never)
  Object.defineProperty(document, 'fonts', { value: fonts, configurable: true })
})
afterEach(cleanup)

it('is measured again where the type that came is wider, for all who asked, and only then', () => {
  const seen = [renderHook(useTypeLoaded), renderHook(useTypeLoaded)]
  const now = () => seen.map((h) => h.result.current)
  const [before] = now()
  expect(widthOfText('step touch', '550 13px')).toBe(60)
  typeComes()
  expect(now()).toEqual([before, before])
  letter = 7
  expect(widthOfText('step touch', '550 13px')).toBe(60)
  typeComes()
  expect(widthOfText('step touch', '550 13px')).toBe(70)
  expect(now()).toEqual([(before ?? 0) + 1, (before ?? 0) + 1])
})
