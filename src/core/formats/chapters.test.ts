import NodeID3 from 'node-id3'
import { describe, expect, it } from 'vitest'
import { WaveFile } from 'wavefile'
import { chapterComments, id3Tag, withCuePoints } from './chapters'
import { readWav, writeWav } from './wav'

const CHAPTERS = [
  { at: 0.5, name: '60 %' },
  { at: 61.2504, name: '75 %' },
  { at: 3661.5, name: 'слово “x”' },
]

describe('chapters', () => {
  it('are read in an MP3 by a reader of others, with the title, whatever its script', () => {
    const tags = NodeID3.read(Buffer.from(id3Tag('Погода 🌧', CHAPTERS, 4000)))
    expect(tags.title).toBe('Погода 🌧')
    expect(tags.tableOfContents).toMatchObject([
      { elementID: 'toc', isOrdered: true, elements: ['c1', 'c2', 'c3'] },
    ])
    expect(tags.chapter?.map((c) => [c.elementID, c.startTimeMs, c.endTimeMs, c.tags?.title])).toEqual([
      ['c1', 500, 61_250, '60 %'],
      ['c2', 61_250, 3_661_500, '75 %'],
      ['c3', 3_661_500, 4_000_000, 'слово “x”'],
    ])
  })

  it('an MP3 without chapters has its title alone, and a tag of many stays readable', () => {
    expect(NodeID3.read(Buffer.from(id3Tag('T', [], 10))).chapter).toBeUndefined()
    const many = Array.from({ length: 400 }, (_, k) => ({ at: k, name: `${k} %` }))
    const tags = NodeID3.read(Buffer.from(id3Tag('T', many, 400)))
    expect(tags.chapter).toHaveLength(255)
    expect(tags.chapter?.[254]).toMatchObject({ startTimeMs: 254_000, tags: { title: '254 %' } })
  })

  it('are comments in Ogg, in hours, minutes and seconds', () => {
    expect(chapterComments(CHAPTERS)).toEqual({
      CHAPTER001: '00:00:00.500',
      CHAPTER001NAME: '60 %',
      CHAPTER002: '00:01:01.250',
      CHAPTER002NAME: '75 %',
      CHAPTER003: '01:01:01.500',
      CHAPTER003NAME: 'слово “x”',
    })
  })

  it('are cue points in a WAV whose sound is as it was', () => {
    const plain = writeWav({
      sampleRate: 8000,
      channels: [Float32Array.from({ length: 801 }, (_, i) => i / 801)],
    })
    const wav = withCuePoints(plain, CHAPTERS.slice(0, 2), 8000)
    const points = new WaveFile(wav).listCuePoints() as { position: number; label: string }[]
    expect(points.map((p) => [p.position, p.label])).toEqual([
      [500, '60 %'],
      [61_250.375, '75 %'], // to the sample
    ])
    expect(readWav(wav)).toEqual(readWav(plain))
  })
})
