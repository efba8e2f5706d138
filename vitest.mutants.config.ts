import path from 'node:path'
import { defineConfig } from 'vitest/config'

/* The tests of a room that a broken line is tried on; hearing takes minutes a time and is left out. */
export default defineConfig({
  resolve: { alias: { '@': path.resolve('src') } },
  test: {
    // TESTS narrows it further, with --mutate for the same files.
    include: [process.env.TESTS ?? `${process.env.ROOM ?? 'src/core'}/**/*.test.{ts,tsx}`],
    exclude: ['src/core/hear/**'],
    // Broken in every line at once, the code is many times slower.
    testTimeout: 600_000,
  },
})
