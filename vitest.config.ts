import path from 'node:path'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '@': path.resolve('src') } },
  test: { include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'cli/**/*.test.ts', 'bench/**/*.test.ts'] },
})
