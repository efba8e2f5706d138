/* Hearing a song in a process of its own, whatever becomes of that. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { type HearingEnd, hearFile } from './hear-song'

const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-hear-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))

/** What becomes of a listener that does this. */
function heardBy(
  program: string,
  { signal = new AbortController().signal, tell = (_: number) => {}, seconds = 60 } = {},
): Promise<HearingEnd> {
  const script = path.join(dir, `${Math.random()}.mjs`)
  writeFileSync(script, program)
  return hearFile('no-file', tell, signal, script, { seconds, megabytes: 900 })
}
const says = (what: object) => `console.log(${JSON.stringify(JSON.stringify(what))})`

describe('a listener', () => {
  it('says how far it is, and why a song cannot be heard', async () => {
    const told: number[] = []
    const program = [
      says({ share: 0.2 }),
      'console.log("noise")',
      says({ share: 0.7 }),
      says({ problem: 'no sound' }),
    ]
    expect(await heardBy(program.join('\n'), { tell: (share) => told.push(share) })).toEqual({
      problem: 'no sound',
    })
    expect(told).toEqual([0.2, 0.7])
  })
  it.each([
    ['that ends in an error', 'process.exit(3)', { end: 'crashed' }],
    ['that is ended by a signal', 'process.kill(process.pid, "SIGKILL")', { end: 'crashed' }],
    ['that says nothing', '', { end: 'crashed' }],
    ['that says no hearing', says({ hearing: { version: 9 }, peaks: '' }), { end: 'crashed' }],
    ['that stops half-way', says({ share: 0.5 }), { end: 'crashed' }],
  ] as const)('%s heard nothing', async (_, program, end) => {
    expect(await heardBy(program)).toEqual(end)
  })
  it('that takes more than any song does is ended', async () => {
    expect(await heardBy('for (;;) {}', { seconds: 0.3 })).toEqual({ end: 'over' })
  })
  it('is ended where nobody waits for it', async () => {
    const stop = new AbortController()
    const program = `${says({ share: 0.1 })}\nfor (;;) {}`
    expect(await heardBy(program, { signal: stop.signal, tell: () => stop.abort() })).toEqual({
      end: 'stopped',
    })
  })
})
