import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import Unended from './unended.mjs'

const DIED = new Error('[vitest-pool]: Worker forks emitted error.')
const tests = (file: string, state: string) => ({
  project: { name: 'here' },
  relativeModuleId: file,
  state: () => state,
})
const [WELL, CUT, WRONG] = [tests('a', 'passed'), tests('b', 'pending'), tests('c', 'failed')]

let dir: string
beforeEach(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'azalea-test-'))
  vi.spyOn(console, 'log').mockImplementation(() => {})
})
afterEach(() => {
  vi.restoreAllMocks()
  rmSync(dir, { recursive: true })
})

/** @returns what is to be run once more after such a run */
function runAgain(modules: object[], errors: Error[], reason = 'passed') {
  const file = path.join(dir, 'kept', 'unended.json')
  const reporter = new Unended({ file })
  reporter.onTestRunEnd(modules, errors, reason)
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null
}

describe('a file of tests whose process died', () => {
  it('is named, and run once more where nothing else is wrong', () => {
    expect(runAgain([WELL, CUT], [DIED])).toEqual([{ project: 'here', file: 'b' }])
    expect(vi.mocked(console.log).mock.calls).toEqual([['Did not end: here b']])
  })
  it.each<[string, object[], Error[], string?]>([
    ['a test failed too', [CUT, WRONG], [DIED]],
    ['something else went wrong beside', [CUT], [DIED, new Error('a rejection nobody handled')]],
    ['it was something else', [WELL, CUT], [new Error('a rejection nobody handled')]],
    ['somebody stopped it', [CUT], [DIED], 'interrupted'],
    ['each file ended', [WELL], []],
    ['each file ended before its process died', [WELL], [DIED]],
    ['it was left out, and no process died', [WELL, CUT], []],
  ])('is not run once more where %s', (_, modules, errors, reason) => {
    expect(runAgain(modules, errors, reason)).toBeNull()
  })
  it('is forgotten when tests are run again', () => {
    const file = path.join(dir, 'unended.json')
    writeFileSync(file, '[]')
    new Unended({ file }).onTestRunStart()
    expect(existsSync(file)).toBe(false)
  })
})
