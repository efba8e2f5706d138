import { describe, expect, it } from 'vitest'
import { metricsText, noteAnswered, routeOf } from './measured'
import { ownData } from './own-data.test-tools'

ownData()

describe('what is measured', () => {
  it('is told by route, without what it was about', async () => {
    const params = { id: 'some-id-of-anna' }
    const url = 'https://school.example/api/routines/some-id-of-anna/here?x=anna'
    expect(routeOf(url, params)).toBe('/api/routines/:id/here')
    expect(routeOf('https://school.example/api/a/b%20c', { path: ['a', 'b c'] })).toBe('/api/:path/:path')
    expect(routeOf('https://school.example/api/%E0%A4%A', {})).toBe('/api/%E0%A4%A')
    noteAnswered({ url, method: 'POST' }, params, 200, 42)
    const text = await metricsText()
    expect(text).toContain(
      'azalea_request_seconds_count{route="/api/routines/:id/here",method="POST",status="200"} 1',
    )
    expect(text).toContain(
      'azalea_request_seconds_bucket{le="0.05",route="/api/routines/:id/here",method="POST",status="200"} 1',
    )
    expect(text).toContain('azalea_nodejs_eventloop_lag_seconds')
    expect(text).toContain('azalea_jobs{state="waiting"} 0')
    expect(text).not.toContain('anna')
  })
})
