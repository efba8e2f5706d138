/*
 * npm run mutants: breaks a room's program in small ways, one by one, and counts how many its tests notice. ROOM is the core
 * without hearing (src/core), src/server, src/ui/state, src/audio or src/learner.
 * SAMPLE=1 takes eight lines of every eighty, where in them being settled by the file's name; SAMPLE=2 eight others of
 * every hundred and sixty, SAMPLE=3, 4 and 5 eight others again, to judge tests written after looking at the ones before;
 * SAMPLE=6 and 7 eight of every 640, SAMPLE=8 of every 1280.
 */
import { readdirSync, readFileSync } from 'node:fs'

const ROOM = process.env.ROOM ?? 'src/core'

// Drawing, and hooks that only carry between React and what is tested, are tried in a browser.
const FILES = readdirSync(ROOM, { recursive: true })
  .map((f) => `${ROOM}/${f}`)
  .filter((f) => f.endsWith('.ts'))
  .filter((f) => !/core\/hear\/|\.test(-tools)?\.ts$|index\.ts$|\.d\.ts$/.test(f))

/** Eight lines of every so many of each file. */
function sampled(step, seed) {
  return FILES.flatMap((file) => {
    const lines = readFileSync(file, 'utf8').split('\n').length
    const offset = [...file].reduce((n, c) => (n * 31 + c.charCodeAt(0)) % (step - 8), seed)
    const ranges = []
    for (let from = offset; from < lines; from += step) ranges.push(`${file}:${from + 1}-${from + 8}`)
    return ranges.length ? ranges : [`${file}:1-8`]
  })
}

const SAMPLES = {
  1: sampled(80, 7),
  2: sampled(160, 101),
  3: sampled(160, 53),
  4: sampled(160, 77),
  5: sampled(160, 29),
  6: sampled(640, 311),
  7: sampled(640, 590),
  8: sampled(1280, 450),
}

export default {
  testRunner: 'vitest',
  mutate: SAMPLES[process.env.SAMPLE] ?? FILES,
  vitest: { configFile: 'vitest.mutants.config.ts', related: true },
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  concurrency: 2,
  // The compiler's newest version has no interface for the tool; nothing in the settings needs rewriting anyway.
  tsconfigFile: 'none.json',
  timeoutMS: 20_000,
  // All tests once, with what each of them reaches written down.
  dryRunTimeoutMinutes: 30,
  reporters: ['clear-text', 'json'],
  clearTextReporter: { reportTests: false, allowColor: false, logTests: false },
  jsonReporter: { fileName: '.cache/mutants.json' },
  ignorePatterns: ['.builds', '.cache', '.next', 'bench/node_modules', 'docs/screenshots', 'test-results'],
  tempDirName: '.cache/stryker',
  cleanTempDir: 'always',
}
