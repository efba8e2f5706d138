import { describe, expect, it } from 'vitest'
import { isFloor } from '@/core/floor/address'
import { DATA_POLICY, guardOf, headersFor, refusedBy } from './guard'

const directives = (policy: string) =>
  new Map(policy.split('; ').map((d) => [d.split(' ')[0] as string, d.split(' ').slice(1)]))

describe('what a page may do', () => {
  it('runs no script but its own, by nonce, and is framed by nobody', () => {
    const { policy } = guardOf('abc', false)
    const all = directives(policy)
    expect(all.get('default-src')).toEqual(["'none'"])
    expect(all.get('script-src')).toContain("'nonce-abc'")
    for (const loose of ["'unsafe-inline'", "'unsafe-eval'", '*', 'https:', 'http:', 'data:'])
      expect(all.get('script-src')).not.toContain(loose)
    for (const nothing of ['frame-ancestors', 'base-uri', 'object-src'])
      expect(all.get(nothing)).toEqual(["'none'"])
    // A page reaches nobody but its own server.
    expect(all.get('connect-src')).toEqual(["'self'", 'blob:', 'data:'])
    expect(directives(guardOf('abc', true).policy).get('script-src')).toContain("'unsafe-eval'")
  })
  it('is told with every answer', () => {
    const sent = new Map(headersFor(DATA_POLICY))
    expect(sent.get('x-content-type-options')).toBe('nosniff')
    expect(sent.get('x-frame-options')).toBe('DENY')
    expect(sent.get('cross-origin-resource-policy')).toBe('same-origin')
    expect(sent.get('permissions-policy')).toContain('geolocation=()')
    expect(sent.get('content-security-policy')).toContain('sandbox')
  })
  it('may open a camera or a microphone on the floor only', () => {
    const allowed = (...about: Parameters<typeof headersFor>) =>
      new Map(headersFor(...about)).get('permissions-policy')
    for (const desk of [
      allowed(DATA_POLICY),
      allowed(DATA_POLICY, 'SAMEORIGIN'),
      allowed('x', 'DENY', false),
    ])
      expect(desk).toMatch(/^camera=\(\), microphone=\(\), /)
    expect(allowed('x', 'DENY', true)).toMatch(/^camera=\(self\), microphone=\(self\), geolocation=\(\)/)
    expect(isFloor('/r/abc_-1/floor')).toBe(true)
    for (const desk of [
      '/',
      '/floor',
      '/r/floor',
      '/r/a/cue',
      '/r/a/floor/cue',
      '/x/r/a/floor',
      '/r/a/floors',
    ])
      expect(isFloor(desk)).toBe(false)
  })
  it('is not answered at all under another name', () => {
    expect(refusedBy('localhost:3000')).toBeNull()
    expect(refusedBy('evil.example')).toContain('AZALEA_HOSTS')
  })
})
