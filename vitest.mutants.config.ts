import path from 'node:path'
import { defineConfig } from 'vitest/config'

/* The tests of the core that a broken line is tried on; hearing takes minutes a time and is left out. */
export default defineConfig({
  resolve: { alias: { '@': path.resolve('src') } },
  test: {
    // TESTS narrows it to those of some rooms, with --mutate for the same rooms.
    include: [process.env.TESTS ?? 'src/core/**/*.test.ts'],
    exclude: ['src/core/hear/**'],
    // Broken in every line at once, the code is many times slower.
    testTimeout: 600_000,
  },
})
