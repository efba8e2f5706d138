/* Keeps what each true beat of the training songs sounds like, and where their bars and pairs of bars begin.
   `tsx make-ones.ts PART OF`; resumes. */
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { extent, firstSound } from '../../../src/core/hear/extent'
import { beatFeatures } from '../../../src/core/hear/features'
import { LEAD } from '../../../src/core/hear/lead'
import { onsets } from '../../../src/core/hear/onsets'
import { FRAME_RATE, spectrum } from '../../../src/core/hear/spectrum'
import { ONES, placeOf, type Sung, written } from './ones'
import { type Known, type Making, soundings } from './sounds'

const [part = '0', of = '1'] = process.argv.slice(2)

function heardIn(known: Known): Pick<Sung, 'beats' | 'bar' | 'eight' | 'opening' | 'features'> | null {
  // As it is heard: with silence before it.
  const s = spectrum(known.mono, known.rate, () => {}, LEAD * FRAME_RATE)
  const o = onsets(s)
  const later = (times: readonly number[]) => times.map((t) => t + LEAD)
  const all = later(known.beats)
  const within = extent(o, all)
  if (!within || !known.downbeats || (known.bar !== null && known.bar !== 4)) return null
  const beats = all.filter((t) => t >= Math.max(0, within.first - 0.08) && t <= within.last + 0.08)
  if (beats.length < 32) return null
  const bar = placeOf(beats, later(known.downbeats), 4)
  if (bar === null) return null
  const first = firstSound(s)
  const opening = beats.findIndex((t, k) => k < 8 && Math.abs(t - first) < 0.05)
  return {
    ...{ beats: beats.length, bar, opening: opening < 0 ? null : opening },
    eight: known.eights && placeOf(beats, later(known.eights), 8),
    features: written(beatFeatures(s, o, beats)),
  }
}

async function keep({ make, ...what }: Making): Promise<void> {
  const file = path.join(ONES, `${what.id}.json`)
  if (existsSync(file)) return
  const known = await make()
  const heard = known && heardIn(known)
  const sung: Sung | null = known && heard && { ...what, tempo: known.tempo, done: known.done, ...heard }
  writeFileSync(`${file}.part`, JSON.stringify(sung))
  renameSync(`${file}.part`, file)
}

async function main() {
  mkdirSync(ONES, { recursive: true })
  for (const [j, one] of soundings().entries()) if (j % Number(of) === Number(part)) await keep(one)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
