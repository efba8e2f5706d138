import type { Seconds } from '../time'

/** Where a part of a sound begins, with its name. */
export interface Chapter {
  at: Seconds
  name: string
}

const ms = (t: Seconds) => Math.round(t * 1000)
const joined = (parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> => {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}
const big = (n: number) => Uint8Array.of(n >>> 24, n >>> 16, n >>> 8, n)
const little = (n: number) => Uint8Array.of(n, n >>> 8, n >>> 16, n >>> 24)
const latin = (s: string) => Uint8Array.from(s, (c) => c.charCodeAt(0))
const NUL = Uint8Array.of(0)

/** A frame of ID3v2.3: its name, its size, two bytes of flags. */
const frame = (name: string, ...parts: Uint8Array[]) => {
  const body = joined(parts)
  return joined([latin(name), big(body.length), Uint8Array.of(0, 0), body])
}

/** A text in UTF-16 with its byte order mark, which every reader of ID3v2.3 knows. */
function textFrame(name: string, text: string): Uint8Array {
  const body = new Uint8Array(3 + 2 * text.length)
  body.set([1, 0xff, 0xfe])
  for (let i = 0; i < text.length; i++)
    body.set([text.charCodeAt(i) & 0xff, text.charCodeAt(i) >> 8], 3 + 2 * i)
  return frame(name, body)
}

/** The table of contents counts its chapters in one byte. */
const MOST_CHAPTERS = 255
/** Chapters are told by time, not by their place in the file. */
const NO_PLACE = big(0xffffffff)

/**
 * A tag to be put before an MP3's sound (M. Nilsson 1999, "ID3 tag version 2.3.0"; C. Newell 2005, "ID3v2 Chapter Frame
 * Addendum"): title, table of contents, a frame a chapter.
 * @param seconds length of the sound: the last chapter's end
 */
export function id3Tag(
  title: string,
  chapters: readonly Chapter[],
  seconds: Seconds,
): Uint8Array<ArrayBuffer> {
  const kept = chapters.slice(0, MOST_CHAPTERS)
  const id = (k: number) => joined([latin(`c${k + 1}`), NUL])
  const contents = kept.length
    ? [frame('CTOC', latin('toc'), NUL, Uint8Array.of(3, kept.length), ...kept.map((_, k) => id(k)))]
    : []
  const frames = joined([
    textFrame('TIT2', title),
    ...contents,
    ...kept.map((c, k) =>
      frame(
        'CHAP',
        id(k),
        big(ms(c.at)),
        big(ms(kept[k + 1]?.at ?? seconds)),
        NO_PLACE,
        NO_PLACE,
        textFrame('TIT2', c.name),
      ),
    ),
  ])
  // The size of the tag keeps the highest bit of each byte free.
  const size = [21, 14, 7, 0].map((bits) => (frames.length >>> bits) & 0x7f)
  return joined([latin('ID3'), Uint8Array.of(3, 0, 0, ...size), frames])
}

/** Comments of an Ogg file that name its chapters (Xiph.Org wiki, "Chapter Extension"). */
export function chapterComments(chapters: readonly Chapter[]): Record<string, string> {
  const two = (n: number) => String(Math.floor(n)).padStart(2, '0')
  const out: Record<string, string> = {}
  for (const [k, { at, name }] of chapters.entries()) {
    const key = `CHAPTER${String(k + 1).padStart(3, '0')}`
    const t = ms(at)
    out[key] =
      `${two(t / 3_600_000)}:${two((t / 60_000) % 60)}:${two((t / 1000) % 60)}.${String(t % 1000).padStart(3, '0')}`
    out[`${key}NAME`] = name
  }
  return out
}

/**
 * A WAV file with cue points and their labels after its sound (IBM & Microsoft 1991, "Multimedia Programming Interface
 * and Data Specifications 1.0"). Labels are plain Latin letters: other signs become "?".
 * @param wav a RIFF/WAVE file
 */
export function withCuePoints(
  wav: Uint8Array,
  chapters: readonly Chapter[],
  rate: number,
): Uint8Array<ArrayBuffer> {
  const chunk = (name: string, ...parts: Uint8Array[]) => {
    const body = joined(parts)
    return joined([latin(name), little(body.length), body, ...(body.length % 2 ? [NUL] : [])])
  }
  const points = chapters.flatMap(({ at }, k) => {
    const sample = little(Math.round(at * rate))
    return [little(k + 1), sample, latin('data'), little(0), little(0), sample]
  })
  const labels = chapters.map(({ name }, k) =>
    chunk('labl', little(k + 1), latin(name.replace(/[^\x20-\x7e]/g, '?')), NUL),
  )
  const out = joined([
    wav,
    ...(wav.length % 2 ? [NUL] : []),
    chunk('cue ', little(chapters.length), ...points),
    chunk('LIST', latin('adtl'), ...labels),
  ])
  out.set(little(out.length - 8), 4)
  return out
}
