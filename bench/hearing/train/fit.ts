/*
 * npm run bench:fit: makes training songs, judges rules for the way to count on makers left out of their fit, learns the
 * chosen rule from all of them, and writes src/core/hear/level-rule.json. `-- --judge` stops after judging,
 * `-- --as-made` takes the songs that are there, `-- --sharpness S` learns with what an earlier judging found.
 * Half an hour on two cores; what is made is kept in the bench's cache.
 */
import { writeFileSync } from 'node:fs'
import { inParts } from './in-parts'
import { dataOf, learned, partOf, type Settings, scores, type Table, tableOf } from './learn'
import { reliability, shares, type Told, toldOf } from './report'
import { trials } from './trials'

const RULES: Record<string, Settings> = {
  linear: { units: 0, decay: 0.003, drop: 0.3, parts: 8, steps: 240, rate: 0.02 },
  net: { units: 24, decay: 0.003, drop: 0.3, parts: 8, steps: 320, rate: 0.004 },
}
const CHOSEN = 'net'

/** Who made the music of a source: all of one maker are left out together. */
const makerOf = (source: string) =>
  source.startsWith('mma') ? 'mma' : source === 'made' || source === 'dance' ? 'by rule' : 'others'

/** Every trial's shares by a rule that never heard its maker. */
function leftOut(table: Table, settings: Settings): Told[] {
  const makers = [...new Set(table.trials.map((t) => makerOf(t.source)))]
  return makers.flatMap((maker) => {
    const seen = table.trials.flatMap((t, i) => (makerOf(t.source) === maker ? [] : [i]))
    const rule = learned(partOf(table, seen), settings)
    const score = scores(table, rule)
    process.stderr.write(`\r${maker}              `)
    return table.trials.flatMap((t, i) => (makerOf(t.source) === maker ? [toldOf(table, i, score)] : []))
  })
}

/** What scores are multiplied by so that the left-out trials' right ways are likeliest. */
function sharpnessOf(told: readonly Told[]): number {
  const loss = (sharp: number) =>
    told.reduce((sum, t) => {
      const good = shares(t.scores, sharp).reduce((n, p, i) => n + (t.right[i] ? p : 0), 0)
      return sum - t.weight * Math.log(Math.max(0.001, good))
    }, 0)
  let best = 1
  for (let sharp = 0.2; sharp <= 2; sharp += 0.02) if (loss(sharp) < loss(best)) best = sharp
  return best
}

async function main() {
  if (!process.argv.includes('--as-made')) await inParts('bench/hearing/train/make.ts')
  const table = tableOf(trials(), (t) => (t.source === 'loops' ? 0.25 : 1))
  console.log(`${table.trials.length} trials, ${table.right.length} ways, ${table.names.length} features`)
  let sharpness = Number(/--sharpness (\S+)/.exec(process.argv.join(' '))?.[1] ?? Number.NaN)
  const judged = !Number.isNaN(sharpness)
  for (const [name, settings] of judged ? [] : Object.entries(RULES)) {
    const told = leftOut(table, settings)
    const sharp = sharpnessOf(told)
    if (name === CHOSEN) sharpness = sharp
    console.log(`\n${name}, each maker left out of the fit; sharpness ${sharp.toFixed(2)}`)
    console.log(reliability(told, sharp))
  }
  if (!process.argv.includes('--judge')) {
    const rule = learned(table, RULES[CHOSEN] as Settings)
    writeFileSync(
      'src/core/hear/level-rule.json',
      `${JSON.stringify(dataOf(table.names, rule, sharpness), null, 2)}\n`,
    )
  }
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
