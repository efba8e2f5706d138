import http from 'node:http'
import type { AddressInfo } from 'node:net'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readableUrl, refuseUnreadable } from './addresses'

describe('addresses', () => {
  it('that can be read are left as they are', () => {
    for (const url of ['/', '/r/abc/cue?line=%31', '/api/shelf?search=%', '/voice/d%C3%A9', '/a%2Fb', '*'])
      expect(readableUrl(url)).toBe(url)
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (name) => {
        const url = `/r/${encodeURIComponent(name)}/cue`
        expect(readableUrl(url)).toBe(url)
      }),
    )
  })
  it('whose percent signs name no letters lead nowhere', () => {
    for (const bad of ['%ff', '%', '%c3%28', '%E0%A4%A', '%zz']) {
      expect(readableUrl(`/r/${bad}/cue`)).toBe('/no-such-address')
      expect(readableUrl(`/api/routines/${bad}?x=1`)).toBe('/api/no-such-address')
    }
  })
  it('are looked at before anything else of the server sees them', async () => {
    refuseUnreadable()
    const server = http.createServer((request, answer) => answer.end(request.url))
    await new Promise<void>((up) => server.listen(0, '127.0.0.1', up))
    const asked = async (path: string) =>
      (await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`)).text()
    expect(await asked('/r/%ff/cue')).toBe('/no-such-address')
    expect(await asked('/r/abc/cue')).toBe('/r/abc/cue')
    await new Promise((down) => server.close(down))
  })
})
