/* Hears a song in a process of its own: node hear.mjs FILE SECONDS. Whatever a file does to its decoder, it does it here, and its bounds end
   it (scripts/bounds.mjs). Prints lines of JSON: how far it is, then what was heard, or why nothing can be. */
import { base64Of } from '../core/formats/base64'
import { wordsOf } from '../core/formats/said'
import { packPeaks } from '../core/hear'
import { withFile } from '../decode/file'
import { hearSource } from '../decode/hear'
import { LARGEST_SONG } from './settings'
import { say, tellingShare } from './telling'

async function hear(file: string, longest: number): Promise<object> {
  const tell = tellingShare()
  try {
    const { hearing, peaks } = await withFile(file, LARGEST_SONG, (source) =>
      hearSource(source, longest, tell),
    )
    return { hearing, peaks: base64Of(packPeaks(peaks)) }
  } catch (error) {
    return { problem: wordsOf(error) }
  }
}

await say(await hear(process.argv[2] ?? '', Number(process.argv[3])))
process.exit(0)
