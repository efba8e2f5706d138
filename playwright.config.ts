import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { defineConfig } from '@playwright/test'
import { clapping } from './e2e/sounds'
import { writeWav } from './src/core/formats/wav'

// What the browser's simulated microphone hears, again and again: a short "ta" every 0.6 s.
const MICROPHONE = path.resolve('.cache/microphone.wav')
mkdirSync('.cache', { recursive: true })
writeFileSync(MICROPHONE, writeWav({ sampleRate: 48_000, channels: [clapping(0.6, 18, 48_000)] }))

// What the browser does beside the page. Its address bar is a page of its own, drawn anew for each test: a second of the
// processor every time, for nothing. The rest is what Playwright turns off by itself, which a list of our own replaces.
const OFF = [
  'WebUIOmniboxPopup',
  'WebUIOmniboxAimPopup',
  'WebUIOmniboxFullPopup',
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsUpgrades',
  'HttpsFirstBalancedModeAutoEnable',
  'LensOverlay',
  'MediaRouter',
  'PaintHolding',
  'ThirdPartyStoragePartitioning',
  'AvoidCorsURLLoaderRestartOnRedirect',
  'OptimizationHints',
  'NetworkTimeServiceQuerying',
  'AimEnabled',
  'PreconnectToSearch',
  'SpareRendererForSitePerProcess',
]

const WAITING = /(teach|voice)\.spec\.ts/
const LONG = /(stations|upload|audio|count)\.spec\.ts/

export default defineConfig({
  testDir: 'e2e',
  // A ceiling for what hangs, not a measure: a test of 20 s takes four times that on two busy cores.
  timeout: 240_000,
  expect: { timeout: 15_000 },
  fullyParallel: false,
  // Files side by side, each worker with a server and data of its own (e2e/test.ts). Those that mostly wait for music to
  // be played come first, so that the others work meanwhile; then the long ones, so that none is left over at the end.
  workers: 3,
  projects: [
    { name: 'waiting', testMatch: WAITING },
    { name: 'long', testMatch: LONG },
    { name: 'short', testIgnore: [WAITING, LONG] },
  ],
  globalSetup: './e2e/test.ts',
  reporter: process.env.REPORT ? [['list'], ['json', { outputFile: process.env.REPORT }]] : [['list']],
  use: {
    // Of contexts a test makes for itself, too (e2e/test.ts has the one that stays).
    viewport: { width: 1280, height: 800 },
    // A trace makes each test a third slower, and a busy machine's tests less sure: TRACE=1 asks for one.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: [process.env.CHROMIUM, '/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find(
        (p) => p && existsSync(p),
      ),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        `--disable-features=${OFF.join()}`,
        '--autoplay-policy=no-user-gesture-required',
        '--use-fake-ui-for-media-stream',
        '--use-fake-device-for-media-stream',
        `--use-file-for-fake-audio-capture=${MICROPHONE}`,
      ],
    },
  },
})
