/* `npm run -s listen -- FILE`: hears a song file and prints one JSON object. */
import { readFile, stat } from 'node:fs/promises'
import path from 'node:path'
import { toMono } from '../src/core/formats/wav'
import { downbeats, eights, listen } from '../src/core/hear/listen'
import { decode } from '../src/decode/decode'

/** As on upload. */
const [LARGEST, LONGEST] = [200 * 1024 ** 2, 20 * 60]

// Whoever read enough closes the pipe: that is no fault.
process.stdout.on('error', () => process.exit(0))

/** What is printed: times in seconds from the start of the file. */
async function hear(file: string) {
  const place = path.resolve(process.env.AZALEA_CWD ?? '.', file)
  if ((await stat(place)).size > LARGEST) throw new Error(`larger than ${LARGEST / 1024 ** 2} MB`)
  const pcm = await decode(await readFile(place))
  const seconds = (pcm.channels[0]?.length ?? 0) / pcm.sampleRate
  if (seconds > LONGEST)
    throw new Error(
      `${Math.round(seconds / 60)} minutes long; songs of up to ${LONGEST / 60} minutes are heard`,
    )
  const { hearing } = listen(toMono(pcm), pcm.sampleRate)
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
  const why = error instanceof Error ? error.message.split('\n')[0] : String(error)
  process.stderr.write(`listen: ${file}: ${why}\n`)
  process.exit(1)
}
