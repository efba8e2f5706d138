/* npm run mutants: breaks src/core (without hearing) in small ways, one by one, and counts how many its tests notice. */
export default {
  testRunner: 'vitest',
  mutate: ['src/core/**/*.ts', '!src/core/hear/**', '!src/core/**/*.test.ts', '!src/core/**/*.test-tools.ts'],
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
  tempDirName: '.cache/stryker',
  cleanTempDir: 'always',
}
