/*
 * npm run mutants: breaks src/core (without hearing) in small ways, one by one, and counts how many its tests notice.
 * SAMPLE=1 takes eight lines of every eighty, where in them being settled by the file's name.
 */
import { readdirSync, readFileSync } from 'node:fs'

const ALL = [
  'src/core/**/*.ts',
  '!src/core/hear/**',
  '!src/core/**/*.test.ts',
  '!src/core/**/*.test-tools.ts',
]

/** Eight lines of every eighty of each file. */
function sampled() {
  return readdirSync('src/core', { recursive: true })
    .map((f) => `src/core/${f}`)
    .filter((f) => f.endsWith('.ts'))
    .filter((f) => !/\/hear\/|\.test(-tools)?\.ts$|index\.ts$/.test(f))
    .flatMap((file) => {
      const lines = readFileSync(file, 'utf8').split('\n').length
      const offset = [...file].reduce((n, c) => (n * 31 + c.charCodeAt(0)) % 72, 7)
      const ranges = []
      for (let from = offset; from < lines; from += 80) ranges.push(`${file}:${from + 1}-${from + 8}`)
      return ranges.length ? ranges : [`${file}:1-8`]
    })
}

export default {
  testRunner: 'vitest',
  mutate: process.env.SAMPLE ? sampled() : ALL,
  vitest: { configFile: 'vitest.mutants.config.ts', related: true },
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  concurrency: 2,
  // The compiler's newest version has no interface for the tool; nothing in the settings needs rewriting anyway.
  tsconfigFile: 'none.json',
  timeoutMS: 20_000,
  reporters: ['clear-text', 'json'],
  clearTextReporter: { reportTests: false, allowColor: false, logTests: false },
  jsonReporter: { fileName: '.cache/mutants.json' },
  ignorePatterns: ['.cache', '.next', 'bench/node_modules', 'docs', 'test-results'],
  tempDirName: '.cache/stryker',
  cleanTempDir: 'always',
}
