import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { expect, it } from 'vitest'
import { COMPILE_HINT, hintCompiling } from './compile-hint.mjs'

it('stands once before each script, however deep it lies, and before nothing else', () => {
  const dir = mkdtempSync(path.join(tmpdir(), 'azalea-test-'))
  try {
    mkdirSync(path.join(dir, 'pages'))
    const files = { 'a.js': 'a()', 'pages/b.js': '"use strict";é', 'c.css': 'p{}', 'd.js.map': '{}' }
    for (const [name, text] of Object.entries(files)) writeFileSync(path.join(dir, name), text)
    hintCompiling(dir)
    hintCompiling(dir)
    const now = (name: string) => readFileSync(path.join(dir, name), 'utf8')
    expect(now('a.js')).toBe(`${COMPILE_HINT}a()`)
    expect(now('pages/b.js')).toBe(`${COMPILE_HINT}"use strict";é`)
    expect([now('c.css'), now('d.js.map')]).toEqual(['p{}', '{}'])
  } finally {
    rmSync(dir, { recursive: true })
  }
})
