// @vitest-environment happy-dom
import { act, renderHook, waitFor } from '@testing-library/react'
import { expect, it, vi } from 'vitest'
import { useList } from './use-list'

it('a list is read on entering and after each thing that was done with it; what fails is told until it goes', async () => {
  const fetch = vi.fn<() => Promise<string[]>>()
  fetch.mockRejectedValueOnce(new Error('The server does not answer.'))
  const { result } = renderHook(() => useList(fetch))
  expect(result.current).toMatchObject({ list: null, problem: '' })
  await waitFor(() => expect(result.current.problem).toBe('The server does not answer.'))
  fetch.mockResolvedValueOnce(['Anna'])
  await act(() => result.current.look())
  expect(result.current).toMatchObject({ list: ['Anna'], problem: '' })
  fetch.mockResolvedValueOnce(['Anna', 'Bo'])
  expect(await act(() => result.current.act(async () => 'a link'))).toBe('a link')
  expect(result.current.list).toEqual(['Anna', 'Bo'])
  const refused = () => Promise.reject(new Error('Not this one.'))
  expect(await act(() => result.current.act(refused))).toBeNull()
  expect(result.current).toMatchObject({ list: ['Anna', 'Bo'], problem: 'Not this one.' })
  expect(fetch).toHaveBeenCalledTimes(3)
})
