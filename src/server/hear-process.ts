/* Hears a song in a process of its own: node hear.mjs FILE SECONDS. Whatever a file does to its decoder, it does it here, and its bounds end
   it (scripts/bounds.mjs). Prints lines of JSON: how far it is, then what was heard, or why nothing can be. */
import { open } from 'node:fs/promises'
import { base64Of } from '../core/formats/base64'
import { wordsOf } from '../core/formats/said'
import { packPeaks } from '../core/hear'
import { hearSource } from '../decode/hear'

const say = (what: object) =>
  new Promise<void>((said) => process.stdout.write(`${JSON.stringify(what)}\n`, () => said()))

/** Told in steps of this share. */
const STEP = 0.02

async function hear(file: string, longest: number): Promise<object> {
  const handle = await open(file)
  let told = 0
  try {
    const { size } = await handle.stat()
    const read = async (from: number, length: number) => {
      const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, from)
      return buffer.subarray(0, bytesRead)
    }
    const { hearing, peaks } = await hearSource({ size, read }, longest, (share) => {
      if (share < told + STEP) return
      told = share
      void say({ share })
    })
    return { hearing, peaks: base64Of(packPeaks(peaks)) }
  } catch (error) {
    return { problem: wordsOf(error) }
  } finally {
    await handle.close()
  }
}

await say(await hear(process.argv[2] ?? '', Number(process.argv[3])))
process.exit(0)
