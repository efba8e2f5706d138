import fc from 'fast-check'
import { Lrc } from 'lrc-kit'
import { parseText } from 'media-captions'
import { describe, expect, it } from 'vitest'
import { printSrt, printVtt, readCaptions } from './captions'
import { printLrc, readLrc } from './lyrics'
import type { TimedText } from './problem'

const word = fc.stringMatching(/^[A-Za-z0-9'&<>-][A-Za-z0-9 '&<>,.!-]{0,30}[A-Za-z0-9'&-]$/)
/** Timed words with gaps of a millisecond and more; some name their end. */
const list = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 9000 }), fc.integer({ min: 1, max: 9000 }), fc.boolean(), word), {
    minLength: 1,
    maxLength: 20,
  })
  .map((rows) => {
    let at = 0
    return rows.map(([gap, length, ended, text]): TimedText => {
      const start = at + gap
      at = start + length
      return { start: start / 1000, end: ended ? (start + length) / 1000 : null, text }
    })
  })
const simple = (l: TimedText[]) =>
  l.map((t) => ({ ...t, text: t.text.replace(/[<>]/g, '').trim() })).filter((t) => t.text)

describe('time-synced lyrics', () => {
  const file = '[ti:Made up]\n[00:12.00][01:05.50]Turn the lamp low\n[00:15.30]and hold\n[00:18]\n'
  it('are read as lrc-kit 1.2.1 reads them', () => {
    const theirs = Lrc.parse(file)
      .lyrics.filter((l) => l.content)
      .map((l) => [l.timestamp, l.content])
    expect(readLrc(file).map((t) => [t.start, t.text])).toEqual(
      theirs.sort((a, b) => Number(a[0]) - Number(b[0])),
    )
  })
  it('end where an empty line stands, come sooner by their offset, and lose word stamps', () => {
    expect(readLrc('[offset:+500]\n[00:10.00]<00:10.00>one <00:10.50>two\n[00:12.00]\n')).toEqual([
      { start: 9.5, end: 11.5, text: 'one two' },
    ])
  })
  it('name the line that cannot be read', () => {
    expect(() => readLrc('[00:10.00]fine\nno time here')).toThrow('Line 2: expected a time')
    expect(() => readLrc('[00:61.00]late')).toThrow('Line 1: [00:61.00] has more than 59 seconds')
  })
  it('come back exactly', () => {
    fc.assert(
      fc.property(list, (l) => {
        expect(readLrc(printLrc(simple(l)))).toEqual(simple(l))
      }),
    )
  })
  it('printed, are read the same by lrc-kit', () => {
    const l = [{ start: 61.25, end: null, text: 'one more round' }]
    expect(Lrc.parse(printLrc(l)).lyrics[0]).toMatchObject({ timestamp: 61.25, content: 'one more round' })
  })
})

// From the W3C WebVTT document: a header, notes, settings, cue names, a voice mark, entities.
const VTT = `WEBVTT - a title

NOTE
A remark of
two lines

STYLE
::cue { color: lime }

1 - the first
00:11.000 --> 00:13.000 line:0 position:20%
<v Roger>We are in New York City

00:00:13.500 --> 00:00:16.000
<i>Fish</i> &amp; chips
on two lines
`

describe('captions', () => {
  it('in WebVTT are read as media-captions 1.0.4 reads them', async () => {
    const theirs = await parseText(VTT, { type: 'vtt' })
    const ours = readCaptions(VTT)
    expect(ours.map((t) => [t.start, t.end])).toEqual(theirs.cues.map((c) => [c.startTime, c.endTime]))
    expect(ours.map((t) => t.text)).toEqual(['We are in New York City', 'Fish & chips on two lines'])
  })
  it('printed, are read the same by media-captions, in both formats', async () => {
    await fc.assert(
      fc.asyncProperty(list, async (l) => {
        for (const [type, text] of [
          ['vtt', printVtt(simple(l))],
          ['srt', printSrt(simple(l))],
        ] as const) {
          const theirs = await parseText(text, { type })
          expect(theirs.errors).toEqual([])
          // Theirs adds seconds up in floating point.
          const starts = theirs.cues.map((c) => Math.round(c.startTime * 1000) / 1000)
          expect(starts).toEqual(simple(l).map((t) => t.start))
        }
      }),
      { numRuns: 30 },
    )
  })
  it('come back exactly where they name their ends', () => {
    const ended = list.map((l) => simple(l).map((t) => ({ ...t, end: t.end ?? t.start + 0.001 })))
    const exact = (l: TimedText[]) => l.map((t) => ({ ...t, end: Math.round((t.end ?? 0) * 1000) / 1000 }))
    fc.assert(
      fc.property(ended, (l) => {
        expect(readCaptions(printVtt(exact(l)))).toEqual(exact(l))
        expect(readCaptions(printSrt(exact(l)))).toEqual(exact(l))
      }),
    )
  })
  it('keep angle brackets of the words in WebVTT', () => {
    const l = [{ start: 1, end: 2, text: 'a < b & c > d' }]
    expect(readCaptions(printVtt(l))).toEqual(l)
  })
  it('in SubRip are read with commas, and name the line that cannot be read', () => {
    expect(readCaptions('1\r\n00:00:01,500 --> 00:00:04,000\r\nHello\r\n')).toEqual([
      { start: 1.5, end: 4, text: 'Hello' },
    ])
    expect(() =>
      readCaptions('1\n00:00:01,500 --> 00:00:04,000\nHello\n\n2\n00:00:05,000 -> 00:00:06\n'),
    ).toThrow('Line 6: expected two times')
    expect(() => readCaptions('WEBVTT\n\n00:05.000 --> 00:04.000\nx\n')).toThrow(
      'Line 3: these words end before',
    )
  })
})
