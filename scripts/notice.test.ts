import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { notice } from './notice.mjs'

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'))
const withPackage = (name: string, license: string, more = {}) => ({
  packages: { ...lock.packages, [`node_modules/${name}`]: { version: '1.0.0', license, ...more } },
})

describe('NOTICE', () => {
  it('lists what ships as the lock file has it', () => {
    expect(readFileSync('NOTICE', 'utf8')).toBe(notice(lock))
  })
  it('cannot be written while a package that is not permissive has no word', () => {
    expect(() => notice(withPackage('copied', 'AGPL-3.0-or-later'))).toThrow('copied (AGPL-3.0-or-later)')
    expect(notice(withPackage('copied', 'AGPL-3.0-or-later', { dev: true }))).toBe(notice(lock))
  })
  it('stands in a practice page with the text of each licence, once', () => {
    const page = readFileSync('.made/practice.html', 'utf8')
    const times = (words: string) => page.split(words).length - 1
    expect(times('THE SOFTWARE IS PROVIDED "AS IS", WITHOUT WARRANTY OF ANY KIND')).toBe(1)
    expect(times('THE SOFTWARE IS PROVIDED "AS IS" AND THE AUTHOR DISCLAIMS')).toBe(1)
    expect(times('SIL OPEN FONT LICENSE Version 1.1')).toBe(1)
    for (const whose of [
      'react: MIT. Copyright (c) Meta',
      'Azalea: MIT.',
      '@fontsource/figtree: OFL-1.1. Copyright',
    ])
      expect(times(whose)).toBe(1)
  })
  it('leaves no development tool under the AGPL in the project itself', () => {
    const all = Object.entries<{ license?: string }>(lock.packages)
    expect(all.filter(([, p]) => p.license?.includes('AGPL')).map(([path]) => path)).toEqual([])
  })
})
