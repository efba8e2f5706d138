import { appendFileSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it, vi } from 'vitest'
import type { SheetRow } from '@/core/handout'
import { answerIn, setSheet } from './set-sheet'

describe('what the process that sets sheets answers', () => {
  it('is a line of JSON and a PDF', () => {
    const answer = answerIn(Buffer.from('{"missing":["x"]}\n%PDF-1.3 …'))
    expect([answer?.missing, answer?.pdf.subarray(0, 5).toString()]).toEqual([['x'], '%PDF-'])
  })
  it.each([
    '',
    'no line',
    'a warning\n%PDF-1.3',
    '{"missing":1}\n%PDF-1.3',
    '{"missing":[]}\n',
    '{"missing":[]}\nnone',
  ])('is none, and nothing is thrown: %j', (text) => expect(answerIn(Buffer.from(text))).toBeNull())
})

describe('sheets that are asked for at once', () => {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-sheets-'))
  afterAll(() => rmSync(dir, { recursive: true, force: true }))
  const file = (name: string) => path.join(dir, name)
  const begun = () =>
    existsSync(file('begun')) ? readFileSync(file('begun'), 'utf8').trim().split('\n') : []
  // A program that writes down whose sheet it sets and ends when a file of that name is there.
  writeFileSync(
    file('set.mjs'),
    `import { appendFileSync, existsSync } from 'node:fs'
     let text = ''
     for await (const chunk of process.stdin) text += chunk
     const { head } = JSON.parse(text)
     appendFileSync('${file('begun')}', head.title + '\\n')
     while (!existsSync('${dir}/' + head.title)) await new Promise((again) => setTimeout(again, 10))
     process.stdout.write('{"missing":[]}\\n%PDF-' + head.title)`,
  )
  const row = (cues: number): SheetRow => ({
    ...{
      from: 0,
      length: 192,
      indent: 0,
      across: 192,
      heading: '',
      title: '',
      time: '',
      counts: [],
      between: [],
      again: '',
      feet: [],
    },
    ...{
      wall: '',
      lyric: '',
      notes: Array.from({ length: cues }, () => 'x'),
      lanes: [],
      plans: [],
      way: '',
      path: null,
    },
  })
  const set = (title: string, cues: number) =>
    setSheet(
      [row(cues)],
      { title, credit: '', facts: '', language: 'en' },
      { size: 'A4', across: false, wall: false },
      new AbortController().signal,
      file('set.mjs'),
    )
  /** However busy the machine is. */
  const soon = (holds: () => void) => vi.waitFor(holds, { timeout: 100_000 })
  const end = (title: string) => appendFileSync(file(title), '')

  it('are set two at a time, one heavy one among them, short ones first', async () => {
    const all = [set('heavy', 1000), set('heavy too', 2000), set('short', 5), set('shorter', 3)]
    await soon(() => expect(begun()).toEqual(expect.arrayContaining(['heavy', 'short'])))
    expect(begun()).toHaveLength(2)
    end('short')
    await soon(() => expect(begun().at(-1)).toBe('shorter'))
    end('shorter')
    await all[3]
    // The other heavy one waits for the first, and leaves room for short ones.
    const last = set('short again', 4)
    await soon(() => expect(begun().at(-1)).toBe('short again'))
    for (const title of ['short again', 'heavy']) end(title)
    await soon(() => expect(begun().at(-1)).toBe('heavy too'))
    end('heavy too')
    expect((await Promise.all([...all, last])).map((s) => s.pdf.toString('latin1', 5))).toEqual([
      ...['heavy', 'heavy too', 'short', 'shorter', 'short again'],
    ])
  })
  it('of more than can be set are refused by their size, in words', async () => {
    await expect(set('too much', 4000)).rejects.toMatchObject({
      status: 413,
      message: expect.stringContaining('would hold 4,001 rows, cues and notes'),
    })
  })
})
