import { afterEach, describe, expect, it, vi } from 'vitest'
import { isOwnHost } from './host'

afterEach(() => vi.unstubAllEnvs())

describe('the name a request calls this server by', () => {
  it.each([
    'localhost',
    'localhost:3000',
    '127.0.0.1:3000',
    '[::1]:3000',
    '192.168.1.20:3417',
    'azalea.localhost',
  ])('%s is its own', (host) => {
    expect(isOwnHost(host)).toBe(true)
  })
  it.each([
    null,
    '',
    'evil.example',
    'evil.example:3000',
    'localhost.evil.example',
    '127.0.0.1.evil.example',
    '1.2.3.4.5',
  ])('%s is not: anybody may point it here', (host) => {
    expect(isOwnHost(host)).toBe(false)
  })
  it('is its own where it was given to it', () => {
    vi.stubEnv('AZALEA_HOSTS', 'school.example, Studio.example')
    vi.stubEnv('AZALEA_HOST', 'floor.example')
    expect(['school.example', 'studio.example:80', 'floor.example'].map(isOwnHost)).toEqual([
      true,
      true,
      true,
    ])
    expect(isOwnHost('other.example')).toBe(false)
  })
})
