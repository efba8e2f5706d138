import path from 'node:path'
import { defineConfig } from 'vitest/config'

/* The tests of the core that a broken line is tried on; hearing takes minutes a time and is left out. */
export default defineConfig({
  resolve: { alias: { '@': path.resolve('src') } },
  test: { include: ['src/core/**/*.test.ts'], exclude: ['src/core/hear/**'], testTimeout: 60_000 },
})
