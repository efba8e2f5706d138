/* `npm run -s listen -- FILE`: hears a song file and prints one JSON object. */
import type { Hearing } from '../src/core/hear'
import { downbeats, eights } from '../src/core/hear/listen'
import { hearSource } from '../src/decode/hear'
import { why, withSource } from './source'

/** As on upload. */
const [LARGEST, LONGEST] = [200 * 1024 ** 2, 20 * 60]

// Whoever read enough closes the pipe: that is no fault.
process.stdout.on('error', () => process.exit(0))

/** What is printed: times in seconds from the start of the file. */
const hear = (file: string) =>
  withSource(file, LARGEST, async (source) => told((await hearSource(source, LONGEST)).hearing))

function told(hearing: Hearing) {
  const at = (beat: number) => hearing.beats[beat] ?? hearing.duration
  return {
    version: hearing.version,
    duration: hearing.duration,
    tempo: hearing.tempo,
    beats: hearing.beats,
    downbeats: downbeats(hearing),
    eights: eights(hearing),
    sections: hearing.sections.map((s, i) => ({
      start: at(s.beat),
      end: at(hearing.sections[i + 1]?.beat ?? hearing.beats.length),
      label: s.letter,
      kind: s.kind,
    })),
    confidence: hearing.confidence,
    /** Other ways to hear the beat, and other places for the 1, with how likely each is. */
    others: hearing.tempi.map(({ bpm, shift, weight, one }) => ({ tempo: bpm, later: shift, one, weight })),
    ones: hearing.ones,
  }
}

const [file, ...more] = process.argv.slice(2)
if (!file || more.length) {
  process.stderr.write('listen: usage: npm run -s listen -- FILE\n')
  process.exit(1)
}
try {
  process.stdout.write(`${JSON.stringify(await hear(file))}\n`)
} catch (error) {
  process.stderr.write(`listen: ${file}: ${why(error)}\n`)
  process.exit(1)
}
