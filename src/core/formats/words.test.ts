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
    expect(readLrc(file).words.map((t) => [t.start, t.text])).toEqual(
      theirs.sort((a, b) => Number(a[0]) - Number(b[0])),
    )
  })
  it('end where an empty line stands, come sooner by their offset, and lose word stamps', () => {
    expect(readLrc('[offset:+500]\n[00:10.00]<00:10.00>one <00:10.50>two\n[00:12.00]\n').words).toEqual([
      { start: 9.5, end: 11.5, text: 'one two' },
    ])
  })
  it('pass over lines without a stamp, and say how many', () => {
    const read = readLrc('[00:10.00]fine\nno time here\n[00:61.00]late\n[00:12.00]on\n')
    expect(read.words.map((t) => t.text)).toEqual(['fine', 'on'])
    expect(read.passedOver).toBe(2)
    expect(() => readLrc('words\nand words')).toThrow('No line begins with a time')
  })
  it('leave alone what only looks like a stamp', () => {
    const read = readLrc('[00:10.00][12:30] train\n[00:12.50]at <12:30>\n[00:14.00]I <3 you\n')
    expect(read.words.map((t) => [t.start, t.text])).toEqual([
      [10, '[12:30] train'],
      [12.5, 'at <12:30>'],
      [14, 'I <3 you'],
    ])
  })
  it('may have spaces between stamps and words, and stamps that end where nothing stands', () => {
    const read = readLrc('[00:10.00] [00:20.00]  both \n[00:30.00][00:40]\n[00:50]\n')
    expect(read.words).toEqual([
      { start: 10, end: null, text: 'both' },
      { start: 20, end: null, text: 'both' },
      { start: 30, end: 50, text: '[00:40]' },
    ])
  })
  it('may have stamps in whole seconds throughout', () => {
    expect(readLrc('[00:10][01:10]again <00:11>and\n[00:12]').words).toEqual([
      { start: 10, end: 12, text: 'again and' },
      { start: 70, end: null, text: 'again and' },
    ])
  })
  it('come back exactly', () => {
    fc.assert(
      fc.property(list, (l) => {
        expect(readLrc(printLrc(simple(l))).words).toEqual(simple(l))
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
    const { words: ours } = await readCaptions(VTT)
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
  it('come back exactly where they name their ends', async () => {
    const ended = list.map((l) => simple(l).map((t) => ({ ...t, end: t.end ?? t.start + 0.001 })))
    const exact = (l: TimedText[]) => l.map((t) => ({ ...t, end: Math.round((t.end ?? 0) * 1000) / 1000 }))
    await fc.assert(
      fc.asyncProperty(ended, async (l) => {
        expect((await readCaptions(printVtt(exact(l)))).words).toEqual(exact(l))
        expect((await readCaptions(printSrt(exact(l)))).words).toEqual(exact(l))
      }),
    )
  })
  it('keep angle brackets of the words in WebVTT', async () => {
    const l = [{ start: 1, end: 2, text: 'a < b & c > d' }]
    expect((await readCaptions(printVtt(l))).words).toEqual(l)
  })
  it('in SubRip are read with commas, and with hours of one digit', async () => {
    const file =
      '1\r\n00:00:01,500 --> 00:00:04,000\r\nHello\r\n\r\n2\r\n0:00:05,000 --> 1:02:03,000\r\nI <3 <i>you</i>\r\n'
    expect((await readCaptions(file)).words).toEqual([
      { start: 1.5, end: 4, text: 'Hello' },
      { start: 5, end: 3723, text: 'I <3 you' },
    ])
  })
  // W3C WebVTT, section 6.1, step "bad cue": the cue is dropped and parsing goes on.
  it('go on after one that cannot be read, and say so', async () => {
    const file = `WEBVTT\n\n00:01.000 --> 00:02.000\nfirst\n\n00:05.000 -> 00:06.000\nbad\n\n00:09.000 --> 00:08.000\nbackwards\n\n00:10.000 --> 00:11.000\nlast\n`
    const read = await readCaptions(file)
    expect(read.words.map((t) => t.text)).toEqual(['first', 'last'])
    expect(read.passedOver).toBe(2)
    await expect(readCaptions('WEBVTT\n\n00:05.000 --> 00:04.000\nx\n')).rejects.toThrow(
      'Not one of its captions',
    )
    await expect(readCaptions('')).rejects.toThrow('no captions')
  })
  it('have their character references decoded in WebVTT', async () => {
    const file = 'WEBVTT\n\n00:01.000 --> 00:02.000\nfish&nbsp;&amp; chips &#39;n&#x27; &hearts; AT&T\n'
    expect((await readCaptions(file)).words[0]?.text).toBe("fish & chips 'n' ♥ AT&T")
  })
  it('count hours, minutes and seconds of a printed time', () => {
    const l = [{ start: 3723.045, end: 7384.5, text: 'late' }]
    expect(printVtt(l)).toContain('01:02:03.045 --> 02:03:04.500')
    expect(printSrt(l)).toContain('01:02:03,045 --> 02:03:04,500')
  })
})
