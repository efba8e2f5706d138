/* `npm run -s takes -- FILM SONG`: finds where in a film a song plays, and at which speed; prints one JSON object. */
import { findTakesAtAnySpeed, traceOf } from '../src/core/match'
import { soundOf } from './film-sound'
import { why } from './source'

// Whoever read enough closes the pipe: that is no fault.
process.stdout.on('error', () => process.exit(0))

/** To the millisecond, and speeds to a hundred-thousandth. */
const rounded = (x: number, by: number) => Math.round(x * by) / by

async function traced(file: string) {
  try {
    const { rate, samples } = await soundOf(file)
    return traceOf(samples, rate)
  } catch (error) {
    process.stderr.write(`takes: ${file}: ${why(error)}\n`)
    process.exit(1)
  }
}

const [film, song, ...more] = process.argv.slice(2)
if (!film || !song || more.length) {
  process.stderr.write('takes: usage: npm run -s takes -- FILM SONG\n')
  process.exit(1)
}
const known = await traced(song)
const takes = findTakesAtAnySpeed(known, await traced(film)).map((t) => ({
  filmFrom: rounded(t.from, 1000),
  filmTo: rounded(t.to, 1000),
  songAt: rounded(t.at, 1000),
  rate: rounded(t.rate, 100_000),
  sure: rounded(t.sure, 100),
}))
process.stdout.write(`${JSON.stringify({ takes })}\n`)
