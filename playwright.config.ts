import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { defineConfig } from '@playwright/test'
import { clapping } from './e2e/sounds'
import { writeWav } from './src/core/formats/wav'

const PORT = 3417

// What the browser's simulated microphone hears, again and again: a short "ta" every 0.6 s.
const MICROPHONE = path.resolve('.cache/microphone.wav')
mkdirSync('.cache', { recursive: true })
writeFileSync(MICROPHONE, writeWav({ sampleRate: 48_000, channels: [clapping(0.6, 18, 48_000)] }))

export default defineConfig({
  testDir: 'e2e',
  timeout: 90_000,
  expect: { timeout: 15_000 },
  fullyParallel: false,
  workers: 1,
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // A trace makes each test a third slower, and a busy machine's tests less sure: TRACE=1 asks for one.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
        '--use-fake-ui-for-media-stream',
        '--use-fake-device-for-media-stream',
        `--use-file-for-fake-audio-capture=${MICROPHONE}`,
      ],
    },
  },
  webServer: {
    command: `rm -rf .cache/e2e && tsx demo/seed.ts && next start -H 127.0.0.1 -p ${PORT}`,
    url: `http://localhost:${PORT}`,
    timeout: 120_000,
    reuseExistingServer: false,
    env: { AZALEA_DATA: '.cache/e2e', NEXT_TELEMETRY_DISABLED: '1' },
  },
})
