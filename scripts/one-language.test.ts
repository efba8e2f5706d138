import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import { describe, expect, it } from 'vitest'

const keepEnglish: (this: { resourcePath: string }, source: string) => string = createRequire(
  import.meta.url,
)('./one-language.cjs')

describe('the words of the interface library', () => {
  it.each([
    'react-aria/dist/private/dnd',
    'react-stately/dist/private/datepicker',
    'react-aria-components/dist/private',
  ])('are English alone: %s', (room) => {
    const file = path.resolve('node_modules', room, 'intlStrings.mjs')
    const kept = keepEnglish.call({ resourcePath: file }, readFileSync(file, 'utf8'))
    const [, name, from] = /^import ([\w$]+) from "(.*)";\nexport default/.exec(kept) ?? []
    expect(kept).toBe(`import ${name} from "${from}";\nexport default { 'en-US': ${name} };\n`)
    // What it leaves is there.
    expect(readFileSync(path.resolve(path.dirname(file), from ?? ''), 'utf8')).toMatch(/export/)
  })
  it('stop the build where they are kept in another way', () => {
    expect(() => keepEnglish.call({ resourcePath: 'x' }, 'export default {}')).toThrow('no English in x')
  })
})
