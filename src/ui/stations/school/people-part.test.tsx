// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, expect, it, vi } from 'vitest'
import { PeoplePart } from './people-part'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

/** A server that answers each address only when it is told to. */
function answeringLater() {
  const waiting = new Map<string, (answer: Response) => void>()
  vi.stubGlobal('fetch', (url: string) => new Promise<Response>((answer) => waiting.set(url, answer)))
  return (url: string, status: number, body: object) => waiting.get(url)?.(Response.json(body, { status }))
}

const link = () => screen.queryByRole('button', { name: 'Make a link' })

it('who is here and who is invited comes with what can be pressed, so that nothing moves under a finger', async () => {
  const answer = answeringLater()
  render(<PeoplePart />)
  await screen.findByText('Reading who is here…')
  answer('/api/people', 200, [{ id: 'a1', name: 'Kim', email: 'kim@school.example', role: 'owner' }])
  await Promise.resolve()
  expect(link()).toBeNull()
  answer('/api/invitations', 200, [])
  expect(await screen.findByRole('button', { name: 'Make a link' })).toBeTruthy()
  expect(screen.getByText('kim@school.example')).toBeTruthy()
})

it('where one of them cannot be read that is said, and somebody can be invited all the same', async () => {
  const answer = answeringLater()
  render(<PeoplePart />)
  answer('/api/people', 500, {})
  expect(await screen.findByRole('alert')).toHaveProperty(
    'textContent',
    'The server answered with an error (500).',
  )
  expect(link()).not.toBeNull()
})
