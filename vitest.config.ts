import path from 'node:path'
import { defineConfig } from 'vitest/config'

const ALL = ['scripts/cases.test-tools.ts', 'scripts/samples.test-tools.ts']
const SERVER = [...ALL, 'src/server/wav-tags.test-tools.ts']

export default defineConfig({
  resolve: { alias: { '@': path.resolve('src') } },
  test: {
    // Both cores: by default only one of two is used.
    maxWorkers: 2,
    setupFiles: ALL,
    // Hearing a song takes as long as the machine needs; speed is measured in bench/, not here.
    testTimeout: 120_000,
    hookTimeout: 120_000,
    projects: [
      // The core keeps nothing between calls: its tests share what was loaded, which took them more time than they do.
      {
        extends: true,
        test: { name: 'core', include: ['src/core/**/*.test.ts'], isolate: false },
      },
      {
        extends: true,
        test: {
          name: 'here',
          // No list of its own of what is left out: it would stand before the one test:fast asks with.
          include: [
            '{src/!(core|server|app),demo,cli,scripts}/**/*.test.{ts,tsx}',
            'bench/{hearing,page}/**/*.test.ts',
            'src/server/{bounded,opening}.test.ts',
            'src/app/health.test.ts',
          ],
        },
      },
      // What the server opened it keeps by the data it is of, and each file has data of its own: these share what was loaded, too.
      // Those that put something else in a module's place, or have a WAV's own reader started, stand above.
      {
        extends: true,
        test: {
          name: 'server',
          include: [
            'src/server/!(bounded|opening).test.ts',
            'src/server/*/**/*.test.ts',
            'src/app/!(health).test.ts',
            'src/app/*/**/*.test.ts',
          ],
          isolate: false,
          setupFiles: SERVER,
        },
      },
      // What the server keeps, once more with its database at an address that is slow and loses transactions,
      // and its files in an object store. Left out is what is of a file and a folder: backups of a machine, disks that fail.
      {
        extends: true,
        test: {
          name: 'far',
          include: [
            'src/server/{class-links,combinations,database,films,jobs,match-job,moves,own-counts,recordings,school,server,sheet-job,shelf}.test.ts',
            'src/app/roles.test.ts',
          ],
          env: { AZALEA_TEST_FAR: '1' },
          isolate: false,
          setupFiles: SERVER,
        },
      },
    ],
  },
})
