import { inflateSync } from 'node:zlib'
import { extractText, getDocumentProxy, getMeta } from 'unpdf'
import { describe, expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '@/core/choreo'
import { cueSheet, usualContents } from '@/core/handout'
import { setSpace } from '@/core/routine'
import { cuesOf, page } from '@/core/routine/hand.test-tools'
import { type Paper, sheetPdf } from './sheet-pdf'

const LONG = 'a movement whose name goes on and on until it has sixty letters'
const routine = page(6, [
  ...cuesOf([
    '1 step R; 2 touch L; 3 e step L; 4& kick R; 5-6 pivot ½ left; 7 step R; 8 together',
    `1 ${LONG}; 2 Überschlagswendung R; 3& ${LONG} L`,
    '1 шаг R; 2 βήμα L; 3 kick R; 3& kick L; 4 kick R',
  ]),
  ...cuesOf(['1-4 reach R', '', '1-8 roll the hands'], 'arms'),
])
const times = Array.from({ length: 49 }, (_, i) => i * 0.5)
const rows = cueSheet(routine, times, moveBook(STARTING_MOVES), usualContents(routine))
const head = { title: 'Rain, level 1', credit: 'The Invented Few', facts: '3 eights', language: 'en' }
/** A picture (JPEG), all red. */
const RED =
  '/9j/4AAQSkZJRgABAgAAAQABAAD//gAQTGF2YzU5LjM3LjEwMAD/2wBDAAgoKC8oLzc3Nzc3N0E8QUNDQ0FBQUFDQ0NISEhVVVVISEhDQ0hIUFBVVVxfXFdXVVdfX2RkZHh4c3OMjJGsrM//xABMAAEBAAAAAAAAAAAAAAAAAAAABgEBAQAAAAAAAAAAAAAAAAAABgcQAQAAAAAAAAAAAAAAAAAAAAARAQAAAAAAAAAAAAAAAAAAAAD/wAARCAAIABADASIAAhEAAxEA/9oADAMBAAIRAxEAPwCLAFF/f//Z'
/** What a PDF's pages draw, as its operators are written (ISO 32000-1, 8.5.2), numbers without needless zeros. */
const operators = (pdf: Buffer): string =>
  [...pdf.toString('latin1').matchAll(/stream\r?\n([\s\S]*?)\r?\nendstream/g)]
    .map(([, packed = '']) => {
      try {
        return inflateSync(Buffer.from(packed, 'latin1')).toString('latin1')
      } catch {
        return '' // a font, or no packed stream
      }
    })
    .join('\n')
const bare = (text: string) => text.replace(/\s+/g, '')

// Read back by a build of PDF.js, which did not write it.
describe('the cue sheet as a PDF', () => {
  it.each<[string, Paper]>([
    ['upright', { size: 'A4', across: false, wall: false }],
    ['across', { size: 'LETTER', across: true, wall: false }],
    ['on the wall', { size: 'A4', across: false, wall: true }],
  ])('%s: every cue is in its text, whole, in fonts of its own', async (_, paper) => {
    const { pdf, missing } = await sheetPdf(rows, head, paper)
    expect(missing).toEqual([])
    const doc = await getDocumentProxy(new Uint8Array(pdf))
    const { text } = await extractText(doc, { mergePages: true })
    const all = bare(text)
    for (const r of rows) {
      for (const cue of r.lanes.flatMap((l) => l.lines.flat())) expect(all).toContain(bare(cue.text))
      expect(all).toContain(bare(r.title))
    }
    const { info } = await getMeta(doc)
    expect(info).toMatchObject({ Title: head.title, Author: head.credit, Language: 'en' })
    const first = await doc.getPage(1)
    const [, , w, h] = first.view
    expect((w ?? 0) > (h ?? 0)).toBe(paper.across)
    // Embedded: no font of the machine's is needed.
    expect(pdf.toString('latin1')).toContain('/FontFile2')
    expect(pdf.toString('latin1')).not.toMatch(/\/BaseFont \/(Helvetica|Times|Courier)/)
  })
  it('has a picture over each count of which there is one, and as many words as before', async () => {
    const stills = { mirrored: false, pictures: { '0': RED, '24': RED, '192': RED } }
    const paper = { size: 'A4', across: true, wall: false } as const
    const [plain, shown] = [
      await sheetPdf(rows, head, paper),
      await sheetPdf(rows, head, { ...paper, stills }),
    ]
    const images = async (pdf: Buffer) => {
      const { text } = await extractText(await getDocumentProxy(new Uint8Array(pdf)), { mergePages: true })
      // One that stands in several places is in the file once.
      return { n: pdf.toString('latin1').match(/\/Subtype \/Image/g)?.length ?? 0, words: bare(text).length }
    }
    const [before, after] = [await images(plain.pdf), await images(shown.pdf)]
    expect([before.n, after.n]).toEqual([0, 1])
    expect(after.words).toBe(before.words)
  })
  it('draws where the steps lead beside their words, in every row that has some', async () => {
    const steps = page(2, cuesOf(['1 walk R forward; 2 walk L forward', '1 step side R']))
    const going = setSpace(steps, { room: { width: 10, depth: 5 } })
    const drawn = async (path: boolean) => {
      const sheet = cueSheet(going, times, moveBook(STARTING_MOVES), { ...usualContents(going), path })
      const { pdf } = await sheetPdf(sheet, head, { size: 'A4', across: false, wall: false })
      const { text } = await extractText(await getDocumentProxy(new Uint8Array(pdf)), { mergePages: true })
      return { lines: operators(pdf), text: bare(text) }
    }
    const [without, withIt] = [await drawn(false), await drawn(true)]
    // In a plan of 200 by 100: the two walks forward, then the step aside, each once as its row and once in the whole way.
    const way = /95 62 m\s+95 50 l\s+95 38 l\s/g
    expect(withIt.lines.match(way)).toHaveLength(3)
    expect(withIt.lines.match(/95 38 m\s+105 38 l\s/g)).toHaveLength(1)
    expect(without.lines.match(way)).toBeNull()
    expect(withIt.text).toContain(bare('ends 50 cm to the right'))
  })
  it('is read aloud as headings and rows, each count with what is danced on it', async () => {
    const { pdf } = await sheetPdf(rows, head, { size: 'A4', across: true, wall: true })
    const doc = await getDocumentProxy(new Uint8Array(pdf))
    expect(await doc.getMarkInfo()).toMatchObject({ Marked: true })
    interface Tag {
      role?: string
      alt?: string
      type?: string
      id?: string
      children?: Tag[]
    }
    const words: string[] = []
    for (let n = 1; n <= doc.numPages; n++) {
      const page = await doc.getPage(n)
      const marked = new Map<string, string>()
      let open = ''
      for (const item of (await page.getTextContent({ includeMarkedContent: true })).items) {
        if ('str' in item) marked.set(open, `${marked.get(open) ?? ''}${item.str}`)
        else open = item.type === 'endMarkedContent' ? '' : (item.id ?? 'artifact')
      }
      // Nothing stands outside of a tag, and the number of the page is an ornament.
      expect(marked.get('') ?? '').toBe('')
      expect(marked.get('artifact')).toContain(`${n} of ${doc.numPages}`)
      const walk = (tag: Tag): void => {
        if (/^[HP]\d?$/.test(tag.role ?? ''))
          words.push(`${tag.role} ${tag.children?.map((c) => marked.get(c.id ?? '') ?? '').join('') ?? ''}`)
        for (const c of tag.children ?? []) walk(c)
      }
      const tree = (await page.getStructTree()) as Tag | null
      if (tree) walk(tree)
    }
    expect(words[0]).toBe('H1 Rain, level 1')
    expect(words.filter((w) => w.startsWith('P'))).toHaveLength(1 + rows.length)
    expect(pdf.toString('latin1')).toContain('/ActualText')
  })
  it('has the letters of every script the app ships, and joins and orders them', async () => {
    const titles = [
      '서울의 밤',
      '夜空のサビ',
      '我愛聽風',
      '我爱听风',
      'шаг',
      'कदम दायाँ',
      'خطوة يمين',
      'צעד ימינה',
      'ก้าวขวา',
    ]
    for (const title of titles) {
      const paper = { size: 'A4', across: false, wall: false } as const
      const { pdf, missing } = await sheetPdf(rows.slice(0, 1), { ...head, title }, paper)
      expect(missing, title).toEqual([])
      const doc = await getDocumentProxy(new Uint8Array(pdf))
      const { text } = await extractText(doc, { mergePages: true })
      // Words that run from right to left are read back word by word, in the order in which they stand on the line.
      for (const word of title.split(' '))
        expect(bare(text).normalize('NFKC'), title).toContain(word.normalize('NFKC'))
      // A whole face of Han has megabytes.
      expect(pdf.length, title).toBeLessThan(120_000)
    }
  })
  it('keeps both halves of a letter that is drawn as two', async () => {
    const { pdf } = await sheetPdf(
      rows.slice(0, 1),
      { ...head, title: 'น้ำ' },
      { size: 'A4', across: false, wall: false },
    )
    const doc = await getDocumentProxy(new Uint8Array(pdf))
    expect((await extractText(doc, { mergePages: true })).text).toContain('า')
  })
  it('names letters that no font of the app has, instead of leaving holes', async () => {
    const { missing } = await sheetPdf(
      rows.slice(0, 1),
      { ...head, title: 'ᚱᚢ' },
      { size: 'A4', across: false, wall: false },
    )
    expect(missing).toEqual(['ᚱ', 'ᚢ'])
  })
})
