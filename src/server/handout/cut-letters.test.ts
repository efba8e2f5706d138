import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { cutLetters } from './cut-letters'

describe('letters cut for a practice page', () => {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-letters-'))
  afterAll(() => rmSync(dir, { recursive: true, force: true }))
  const program = (name: string, code: string) => {
    const file = path.join(dir, `${name}.mjs`)
    writeFileSync(file, code)
    return file
  }
  const asked = path.join(dir, 'asked')
  const answers = program(
    'answers',
    `import { appendFileSync } from 'node:fs'
     let text = ''
     for await (const chunk of process.stdin) text += chunk
     appendFileSync('${asked}', text + '\\n')
     process.stdout.write(JSON.stringify([{ letters: text, regular: 'AA==', bold: 'AA==' }]))`,
  )
  it('are asked for once for the same letters, in whatever words, and not at all where there are none', async () => {
    const first = await cutLetters('서울의 밤', answers)
    expect(first).toEqual([{ letters: '밤서울의', regular: 'AA==', bold: 'AA==' }])
    expect(await cutLetters('밤의 서울, step R', answers)).toEqual(first)
    expect(await cutLetters('step R – “go”', answers)).toEqual([])
    expect(readFileSync(asked, 'utf8')).toBe('밤서울의\n')
  })
  it.each([
    ['crashes', 'шаг', 'process.exit(3)'],
    ['answers something else', 'щит', "process.stdout.write('[{}]')"],
    ['is none', 'жар', ''],
  ])('are left out where the program %s, and asked for again the next time', async (name, words, code) => {
    const said = vi.spyOn(console, 'warn').mockImplementation(() => {})
    expect(await cutLetters(words, program(name.replaceAll(' ', '-'), code))).toEqual([])
    expect(said).toHaveBeenCalledOnce()
    said.mockRestore()
    expect(await cutLetters(words, answers)).toHaveLength(1)
  })
})
