/* Makes training songs and writes what waysOf() knows of each way to count them. `tsx make.ts PART OF`; resumes. */
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { evened, pulseTrack } from '../../../src/core/hear/beats'
import { pulsePeriods } from '../../../src/core/hear/count-song'
import { waysOf } from '../../../src/core/hear/level'
import { onsets } from '../../../src/core/hear/onsets'
import { lagPicture } from '../../../src/core/hear/pulse'
import { spectrum } from '../../../src/core/hear/spectrum'
import { likenessOf, tempoPath } from '../../../src/core/hear/tempo'
import { fMeasure, trimmed } from '../scores'
import { type Known, type Making, soundings, WAVS } from './sounds'
import { TRIALS, type Trial } from './trials'

const [part = '0', of = '1'] = process.argv.slice(2)

type Ways = Pick<Trial, 'names' | 'ways'>

/** Every way to count a sound whose beats are known, and its bars perhaps. */
function waysIn({ mono, rate, beats, bar }: Known): Ways {
  const s = spectrum(mono, rate, () => {})
  const o = onsets(s)
  const picture = lagPicture(o)
  const periods = pulsePeriods(tempoPath(picture).periods)
  const pulses = evened(pulseTrack(o, periods), periods, o, mono.length / rate)
  const truth = trimmed(beats)
  const [from, to] = [(truth[0] ?? 0) - 0.1, (truth.at(-1) ?? 0) + 0.1]
  const ways = waysOf(s, o, pulses.times, likenessOf(picture, periods))
  return {
    names: Object.keys(ways[0]?.features ?? {}),
    ways: ways.map((w) => ({
      bpm: w.bpm,
      bar: w.bar,
      right:
        (bar === null || w.bar === bar) &&
        fMeasure(truth, trimmed(w.beats.filter((t) => t > from && t < to))) > 0.85,
      features: Object.values(w.features).map((x) => Math.round(x * 1e4) / 1e4),
    })),
  }
}

async function keep({ make, ...what }: Making): Promise<void> {
  const file = path.join(TRIALS, `${what.id}.json`)
  if (existsSync(file)) return
  const known = await make()
  if (!known) return
  const { tempo, bar, done } = known
  const trial: Trial = { ...what, tempo, bar, done, ...waysIn(known) }
  writeFileSync(`${file}.part`, JSON.stringify(trial))
  renameSync(`${file}.part`, file)
}

async function main() {
  mkdirSync(WAVS, { recursive: true })
  mkdirSync(TRIALS, { recursive: true })
  for (const [j, one] of soundings().entries()) if (j % Number(of) === Number(part)) await keep(one)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
