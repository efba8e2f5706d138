/* Reads what a sound file says of itself, in a process of its own: node tags.mjs FILE. Whatever a file does to its reader, it
   does it here, and its bounds end it (scripts/bounds.mjs). Prints one line of JSON, null where no sound is in it. */
import { openAsBlob } from 'node:fs'
import { open, stat } from 'node:fs/promises'
import { parseBlob } from 'music-metadata'
import { hasSound } from '../decode/decode'
import { firstFrame, id3Length, kindOf, LOOKED_THROUGH, textTag } from '../decode/kinds'

/** A tag that is larger than this is read for its words alone. */
const LARGEST_TAG = 256 * 1024
const PIECE = 128 * 1024
/** So much of a file is decoded to find a sound in it; pictures may stand before. */
const DECODED = 24 * 1024 ** 2
/** Sound comes out of a sound file at once; noise is decoded for long. In seconds of a processor. */
const LOOKED = 1

const used = () => {
  const { user, system } = process.cpuUsage()
  return (user + system) / 1e6
}

/** True where a RIFF file has sound behind its data chunk. */
async function wavHasSound(file: string): Promise<boolean> {
  const handle = await open(file)
  try {
    const { size } = await handle.stat()
    const head = Buffer.alloc(8)
    for (let at = 12, n = 0; at + 8 <= size && n < 4000; n++) {
      await handle.read(head, 0, 8, at)
      const length = head.readUInt32LE(4)
      if (head.toString('latin1', 0, 4) === 'data') return length > 0 && at + 8 < size
      at += 8 + length + (length % 2)
    }
    return false
  } finally {
    await handle.close()
  }
}

async function read(file: string) {
  const blob = await openAsBlob(file)
  const at = async (from: number, n: number) => new Uint8Array(await blob.slice(from, from + n).arrayBuffer())
  let tag = 0
  for (let more = id3Length(await at(0, 10)); more > 0; more = id3Length(await at(tag, 10))) tag += more
  const head = await at(tag, LOOKED_THROUGH)
  const kind = kindOf(head)
  if (!kind) return null
  const begin = tag + (kind === 'mp3' ? firstFrame(head) : 0)
  async function* pieces() {
    const { size } = await stat(file)
    const end = used() + LOOKED
    for (let p = begin; p < Math.min(size, begin + DECODED) && used() < end; p += PIECE) yield at(p, PIECE)
  }
  if (!(await (kind === 'wav' ? wavHasSound(file) : hasSound(kind, pieces())))) return null
  // What stands before the sound is not read through for it: pictures, padding, what is no frame.
  const before = tag > LARGEST_TAG ? [await textTag(at)] : tag === 0 && kind === 'mp3' ? [] : null
  const plain = before ? new Blob([...before, blob.slice(begin)]) : blob
  const meta = await parseBlob(plain, { duration: true, skipCovers: true })
  const { container, sampleRate, codec, duration } = meta.format
  return { container, sampleRate, codec, duration, title: meta.common.title, artist: meta.common.artist }
}

const found = await read(process.argv[2] ?? '').catch(() => null)
process.stdout.write(JSON.stringify(found))
process.exit(0)
