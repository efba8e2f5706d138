import { afterEach, describe, expect, it, vi } from 'vitest'
import { ownData } from '@/server/own-data.test-tools'
import { GET } from './api/health/route'

const sign = vi.hoisted(() => ({ in: async (): Promise<void> => {} }))
vi.mock('@/server/sign-in', async (original) => ({
  ...(await original<typeof import('@/server/sign-in')>()),
  auth: () => sign.in(),
}))
ownData()

const HERE = 'http://localhost:3000'
const SCHOOL = 'https://school.example'
/** What is answered to whoever asks a process by this address. */
const asked = (at: string) =>
  GET(new Request(`${at}/api/health`, { headers: { host: new URL(at).host } }), {
    params: Promise.resolve({}),
  })

describe('whether a process serves', () => {
  afterEach(() => {
    vi.unstubAllEnvs()
    vi.restoreAllMocks()
    sign.in = async () => {}
  })
  it('is yes where its database answers, and in a school where it can sign people in', async () => {
    vi.stubEnv('AZALEA_VERSION', '1.2.3')
    const here = await asked(HERE)
    expect([here.status, await here.json()]).toEqual([200, { serves: true, version: '1.2.3' }])
    expect(here.headers.get('cache-control')).toBe('no-store')
    vi.stubEnv('AZALEA_PUBLIC_URL', SCHOOL)
    expect((await asked(SCHOOL)).status).toBe(200)
  })
  it('is no in a school that can sign nobody in; on one machine nobody signs in', async () => {
    vi.spyOn(console, 'error').mockImplementation(() => {})
    sign.in = async () => {
      throw new Error('no secret can be kept')
    }
    expect((await asked(HERE)).status).toBe(200)
    vi.stubEnv('AZALEA_PUBLIC_URL', SCHOOL)
    expect((await asked(SCHOOL)).status).toBe(500)
  })
  it('is no where its database is none', async () => {
    vi.spyOn(console, 'error').mockImplementation(() => {})
    vi.stubEnv('AZALEA_DATABASE_URL', 'file:/nowhere/at-all/azalea.db')
    expect((await asked(HERE)).status).toBeGreaterThanOrEqual(500)
  })
})
