import path from 'node:path'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '@': path.resolve('src') } },
  test: {
    include: ['{src,demo,cli,scripts}/**/*.test.ts', 'bench/{hearing,page}/**/*.test.ts'],
    // Both cores: by default only one of two is used.
    maxWorkers: 2,
    // Hearing a song takes as long as the machine needs; speed is measured in bench/, not here.
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
})
