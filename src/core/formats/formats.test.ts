import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { endingsOf, FORMATS, type Format, formatsOf, type Printed, readFile } from '.'
import { MOST } from './limits'
import { decodeText } from './text'

const utf8 = (text: string) => new TextEncoder().encode(text)
const utf16 = (text: string, big: boolean, mark = true) => {
  const bytes = [...(mark ? '\uFEFF' : ''), ...text].flatMap((c) => {
    const n = c.charCodeAt(0)
    return big ? [n >> 8, n & 255] : [n & 255, n >> 8]
  })
  return Uint8Array.from(bytes)
}

const CONTENT: Printed = {
  song: { title: 'Made up', artist: 'Nobody', duration: 60 },
  beats: Array.from({ length: 16 }, (_, i) => i / 2),
  numbers: Array.from({ length: 16 }, (_, i) => (i % 8) + 1),
  phrases: [
    { counts: 8, pickUp: false },
    { counts: 8, pickUp: false },
  ],
  sections: [{ beat: 8, start: 4, end: 8, text: 'A verse' }],
  words: [{ start: 1.5, end: 2.5, text: 'turn the lamp low' }],
}
const bytesOf = (f: Format) => {
  const printed = f.print(CONTENT)
  return typeof printed === 'string' ? utf8(printed) : printed
}

describe('the text of a file', () => {
  it.each([
    ['UTF-8', utf8('Señal 1')],
    ['UTF-8 with a byte order mark', utf8('\uFEFFSeñal 1')],
    ['UTF-16, little end first', utf16('Señal 1', false)],
    ['UTF-16, big end first', utf16('Señal 1', true)],
    ['UTF-16 without a mark', utf16('Señal 1', false, false)],
    ['UTF-16, big end first, without a mark', utf16('Señal 1', true, false)],
    ['Latin-1', Uint8Array.from('Señal 1', (c) => c.charCodeAt(0))],
  ])('is read from %s', (_, bytes) => {
    expect(decodeText(bytes)).toBe('Señal 1')
  })
  it('in another script is read from UTF-8 and UTF-16', () => {
    expect(decodeText(utf8('Припев'))).toBe('Припев')
    expect(decodeText(utf16('Припев', true))).toBe('Припев')
  })
})

describe('every format', () => {
  it.each(Object.entries<Format>(FORMATS))(
    '%s: what it prints it reads, by its ending and by how it begins',
    async (id, f) => {
      expect(f.id).toBe(id)
      for (const wanted of f.carries)
        for (const name of [
          `made up.${f.endings[0]}`,
          `${id.toUpperCase()}.${f.endings[0].toUpperCase()}`,
          'no ending',
        ]) {
          const read = await readFile(name, bytesOf(f), wanted)
          expect(read.format.id).toBe(id)
          if (wanted === 'words') expect(read.words).toEqual(CONTENT.words)
          else if (f.id !== 'labels') expect(read.beats).toEqual(CONTENT.beats)
        }
    },
  )
  it.each(Object.values<Format>(FORMATS))('$id: any bytes are read or refused with a sentence', async (f) => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), fc.nat(), fc.nat(), async (noise, at, cut) => {
        // A good file with noise in it gets further than noise alone.
        const good = bytesOf(f)
        const broken = good.slice(0, 1 + (cut % good.length))
        broken.set(noise.slice(0, broken.length - (at % broken.length)), at % broken.length)
        for (const bytes of [noise, broken])
          await readFile(`x.${f.endings[0]}`, bytes, f.carries[0] as 'grid').then(
            (read) => {
              for (const t of read.beats) expect(Number.isFinite(t)).toBe(true)
            },
            (e: unknown) => {
              expect(e).toBeInstanceOf(Error)
              expect((e as Error).constructor.name).toBe('FormatProblem')
            },
          )
      }),
      { numRuns: 200 },
    )
  })
  it('with a byte order mark is read all the same', async () => {
    for (const id of ['beats', 'labels', 'jams', 'lrc', 'vtt', 'srt'] as const) {
      const f: Format = FORMATS[id]
      const read = await readFile(
        `x.${f.endings[0]}`,
        utf16(String(f.print(CONTENT)), false),
        f.carries[0] as 'grid',
      )
      expect(read.beats.length + read.words.length + read.sections.length).toBeGreaterThan(0)
    }
  })
  it('in a text file is told by what stands in it', async () => {
    expect((await readFile('a.txt', bytesOf(FORMATS.labels), 'grid')).format.id).toBe('labels')
    expect((await readFile('a.txt', bytesOf(FORMATS.beats), 'grid')).format.id).toBe('beats')
  })
  it('is offered where it carries what is wanted', () => {
    expect(formatsOf('words').map((f) => f.id)).toEqual(['labels', 'lrc', 'vtt', 'srt'])
    expect(endingsOf('grid')).toContain('.jams')
    expect(endingsOf('words')).not.toContain('.mid')
  })
})

describe('too much', () => {
  it.each([
    ['a time no song has', '0.5\n1e999\n', 'is no time in a song'],
    [
      'too many beats',
      Array.from({ length: MOST.beats + 1 }, (_, i) => i / 10).join('\n'),
      '20,001 beats; a page holds 20,000',
    ],
  ])('%s is refused', async (_, text, why) => {
    await expect(readFile('x.txt', utf8(text), 'grid')).rejects.toThrow(why)
  })
  it('a file of more than 20 MB is refused unread', async () => {
    await expect(readFile('x.txt', new Uint8Array(MOST.bytes + 1), 'grid')).rejects.toThrow('more than 20 MB')
  })
  it('something else is refused by name', async () => {
    await expect(readFile('photo.png', new Uint8Array([0x89, 80, 78, 71]), 'words')).rejects.toThrow(
      'none of these: Labels, LRC, WebVTT, SRT',
    )
  })
})
