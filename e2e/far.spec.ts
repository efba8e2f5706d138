/* A school grown: two processes that share no disk, a database server and an object store (stand-ins), in one command. */
import { type ChildProcess, spawn } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import path from 'node:path'
import { loopTrack } from './sounds'
import { answering, expect, freePort, test } from './test'
import { writeFirstEight } from './ways'

const DIR = path.resolve('.cache/e2e-far')
let demo: ChildProcess
let said = ''
let ended = false

test.beforeAll(async () => {
  // The demo's song is made and heard on the way.
  test.setTimeout(600_000)
  rmSync(DIR, { recursive: true, force: true })
  const port = await freePort()
  demo = spawn('node', ['scripts/demo-school.mjs'], {
    env: { ...process.env, AZALEA_DATA: DIR, PORT: String(port), NEXT_TELEMETRY_DISABLED: '1' },
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  for (const voice of [demo.stdout, demo.stderr])
    voice?.on('data', (piece) => {
      said += String(piece)
    })
  demo.on('close', () => {
    ended = true
  })
  // Where it ends there is nothing to wait for, and what it said says why.
  await expect.poll(() => ended || said.includes('The link of the class'), { timeout: 590_000 }).toBe(true)
  expect(said).toContain('The link of the class')
})
test.afterAll(() => {
  if (demo.pid && !ended) process.kill(-demo.pid, 'SIGKILL')
  rmSync(DIR, { recursive: true, force: true })
})

const found = (what: RegExp) => what.exec(said)?.[1] ?? ''

test('the main path goes over both, also once one of the processes is killed', async ({ browser }) => {
  test.setTimeout(600_000)
  const url = found(/a school: (\S+)/)
  const page = await (await browser.newContext()).newPage()
  answering(page)
  await page.goto(url)
  await page.getByLabel('Your address').fill('nora@school.example')
  await page.getByLabel('Your password').fill(found(/on this machine alone: (.+)/))
  await page.keyboard.press('Enter')
  await expect(page.getByRole('navigation', { name: 'Account' })).toContainText('Nora')
  await expect(page.getByText('Shared by Kim, to edit')).toBeVisible()
  // A song of her own: heard, counted, cued.
  const wav = { name: 'Own song.wav', mimeType: 'audio/wav', buffer: Buffer.from(loopTrack(120, 16)) }
  await page.locator('input[type=file]').first().setInputFiles(wav)
  await page.waitForURL('**/count', { timeout: 200_000 })
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  const at = page.url().replace('/count', '/cue')
  await page.goto(at)
  await writeFirstEight(page, '1 step R; 3 step L')
  await expect(page.getByTestId('cue')).toHaveText(['step R', 'step L'])
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  // One process goes, without a word; the other has it all.
  process.kill(Number(found(/kill -9 (\d+)/)), 'SIGKILL')
  await writeFirstEight(page, '1 step R; 3 step L; 5 sway R')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(page.getByTestId('cue')).toHaveText(['step R', 'step L', 'sway R'])
  // The cue sheet is set as work, by whoever has room, and comes out of the store.
  await page.goto(at.replace('/cue', '/hand-out'))
  const begun = page.waitForResponse((r) => r.url().includes('/sheet?'))
  const download = page.waitForEvent('download', { timeout: 200_000 })
  await page.getByRole('button', { name: 'Save as PDF' }).press('Enter')
  expect((await begun).status()).toBe(202)
  expect(readFileSync(await (await download).path()).toString('latin1', 0, 5)).toBe('%PDF-')
  await page.goto(at)
  // The song comes out of the store, in ranges too.
  const shelf = await page.request.get(
    `${url}/api${new URL(at).pathname.replace(/^\/r\/([^/]+).*/, '/routines/$1')}`,
  )
  const { song } = (await shelf.json()) as { song: { id: string; bytes: number } }
  const part = await page.request.get(`${url}/api/songs/${song.id}/audio`, {
    headers: { range: 'bytes=4-7' },
  })
  expect([part.status(), (await part.body()).length]).toEqual([206, 4])
  // Of a learner of the class.
  const learner = await (await browser.newContext()).newPage()
  await learner.goto(found(/The link of the class .*: (\S+)/))
  await expect(learner.getByText('Thursday beginners · from Kim')).toBeVisible()
  await learner.keyboard.press('i')
  await learner.getByLabel('Your name').fill('Ilse')
  await learner.getByRole('button', { name: 'Send this to Kim' }).press('Enter')
  await expect(learner.getByText('Sent. What you say from now on goes by itself.')).toBeVisible()
})
