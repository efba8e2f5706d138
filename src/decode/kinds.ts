/** Kinds of sound files, by their first bytes. */
export type Kind = 'wav' | 'mp3' | 'flac' | 'vorbis' | 'opus' | 'aac' | 'mp4' | 'webm'

/** So much of a file is looked through for where its sound begins. */
export const LOOKED_THROUGH = 256 * 1024

const text = (bytes: Uint8Array, from: number, n: number) =>
  String.fromCharCode(...bytes.subarray(from, from + n))

/**
 * Bytes an ID3v2 tag takes at the beginning (id3.org, "ID3 tag version 2.4.0 - Main Structure", 3.1: four bytes of seven
 * bits each, without the ten of its head); 0 where there is none.
 */
export function id3Length(bytes: Uint8Array): number {
  if (bytes.length < 10 || text(bytes, 0, 3) !== 'ID3') return 0
  const [a, b, c, d] = [...bytes.subarray(6, 10)].map((x) => x & 0x7f) as [number, number, number, number]
  const footer = (bytes[5] as number) & 0x10 ? 10 : 0
  return 10 + ((a << 21) | (b << 14) | (c << 7) | d) + footer
}

const sevens = (n: number) => [21, 14, 7, 0].map((by) => (n >> by) & 0x7f)

/** Text of a tag that is read: a title, a name. */
const [LARGEST_TEXT, MOST_FRAMES] = [32 * 1024, 500]

/**
 * An ID3v2 tag with its short text frames alone: pictures and padding may be of any size, and are nobody's title (id3.org,
 * "ID3 tag version 2.4.0 - Main Structure", 3.2 and 4; version 2.3.0 counts the length of a frame in plain bytes).
 * @param read bytes of the file, from a place, so many
 */
export async function textTag(
  read: (from: number, n: number) => Promise<Uint8Array>,
): Promise<Uint8Array<ArrayBuffer>> {
  const head = await read(0, 10)
  const end = id3Length(head)
  const version = head[3] ?? 0
  const frames: Uint8Array[] = []
  // Tags that are written otherwise (older ones, unsynchronised ones) are passed over as a whole.
  if ((version === 3 || version === 4) && head[5] === 0)
    for (let at = 10, n = 0; at + 10 <= end && n < MOST_FRAMES; n++) {
      const frame = await read(at, 10)
      if (frame.length < 10 || !/^[A-Z0-9]{4}$/.test(text(frame, 0, 4))) break
      const view = new DataView(frame.buffer, frame.byteOffset + 4, 4)
      const size =
        version === 3
          ? view.getUint32(0)
          : [0, 1, 2, 3].reduce((sum, i) => (sum << 7) | (view.getUint8(i) & 0x7f), 0)
      if (frame[0] === 0x54 && size <= LARGEST_TEXT) frames.push(await read(at, 10 + size))
      at += 10 + size
    }
  const length = frames.reduce((sum, f) => sum + f.length, 0)
  const out = new Uint8Array(10 + length)
  out.set([0x49, 0x44, 0x33, version === 3 ? 3 : 4, 0, 0, ...sevens(length)])
  let at = 10
  for (const f of frames) {
    out.set(f, at)
    at += f.length
  }
  return out
}

/** Kilobits a second of layer III by index, MPEG 1 and MPEG 2 (ISO/IEC 11172-3, 2.4.2.3; ISO/IEC 13818-3). */
const BITRATES = {
  one: [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320],
  two: [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160],
} as const
const RATES = [44_100, 48_000, 32_000] as const

/** Bytes of the layer III frame that begins at a place; 0 where none does. */
function frameLength(bytes: Uint8Array, at: number): number {
  const [a, b, c] = [bytes[at], bytes[at + 1], bytes[at + 2]]
  if (a !== 0xff || b === undefined || c === undefined || (b & 0xe0) !== 0xe0) return 0
  const version = (b >> 3) & 3
  if (version === 1 || ((b >> 1) & 3) !== 1) return 0
  const rate = RATES[(c >> 2) & 3]
  const kbits = BITRATES[version === 3 ? 'one' : 'two'][c >> 4]
  if (!rate || !kbits) return 0
  const hz = rate / (version === 3 ? 1 : version === 2 ? 2 : 4)
  return Math.floor(((version === 3 ? 144 : 72) * kbits * 1000) / hz) + ((c >> 1) & 1)
}

/** Where the first of two layer III frames in a row begins; -1 where none do. */
export function firstFrame(bytes: Uint8Array): number {
  for (let at = 0; at + 4 < bytes.length; at++) {
    const length = frameLength(bytes, at)
    if (length && (at + length + 4 > bytes.length || frameLength(bytes, at + length))) return at
  }
  return -1
}

/** Bytes of the AAC frame that begins at a place: twelve set bits, layer 0, and its length (ISO/IEC 13818-7, ADTS); 0 where none does. */
function adtsLength(bytes: Uint8Array, at: number): number {
  const [a, b, c, d, e] = [0, 1, 3, 4, 5].map((i) => bytes[at + i] ?? 0) as [
    number,
    number,
    number,
    number,
    number,
  ]
  if (a !== 0xff || (b & 0xf6) !== 0xf0) return 0
  const length = ((c & 3) << 11) | (d << 3) | (e >> 5)
  return length > 7 ? length : 0
}

/** What a file is by its first bytes, an ID3 tag taken away, never by its name; null for what is none of these. */
export function kindOf(bytes: Uint8Array): Kind | null {
  if (text(bytes, 0, 4) === 'RIFF' && text(bytes, 8, 4) === 'WAVE') return 'wav'
  if (text(bytes, 0, 4) === 'fLaC') return 'flac'
  if (text(bytes, 0, 4) === 'OggS') {
    const head = text(bytes, 0, 200)
    return head.includes('OpusHead') ? 'opus' : head.includes('vorbis') ? 'vorbis' : null
  }
  if (text(bytes, 4, 4) === 'ftyp') return 'mp4'
  if (text(bytes, 0, 4) === '\x1aE\xdf\xa3') return 'webm'
  if (adtsLength(bytes, 0) && adtsLength(bytes, adtsLength(bytes, 0))) return 'aac'
  return firstFrame(bytes) >= 0 ? 'mp3' : null
}
