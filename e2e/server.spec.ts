import { readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { createClient } from '@libsql/client'
import { loopTrack } from './sounds'
import { answering, expect, Server, test } from './test'

test('work survives a killed server: what was saved is there, what was not yet is sent again', async ({
  page,
}) => {
  const data = path.resolve('.cache/e2e-killed')
  rmSync(data, { recursive: true, force: true })
  const own = await Server.start(data)
  try {
    await page.goto(own.url)
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Choose a file' }).click()
    await (await chooser).setFiles({
      name: 'Survivor.wav',
      mimeType: 'audio/wav',
      buffer: loopTrack(120, 40),
    })
    await expect(page.getByText('BPM, steady')).toBeVisible({ timeout: 30_000 })
    await page.getByRole('link', { name: /^Cue/ }).click()
    await expect(page.getByLabel('Move', { exact: true })).toBeVisible()
    await page.getByTestId('sheet').focus()
    await page.keyboard.press('w')
    await page.keyboard.type('before the end R')
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('saving')).toHaveText('Saved')
    await own.kill()
    await page.keyboard.press('w')
    await page.keyboard.type('while it was away L')
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('saving')).toHaveText('Not saved')
    await expect(page.getByRole('alert').filter({ hasText: 'server' })).toContainText('stays in this window')
    await own.again()
    await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 20_000 })
    await page.reload()
    await expect(page.getByTestId('cue')).toHaveText(['before the end R', 'while it was away L'])
  } finally {
    await own.kill()
  }
  // Nothing half-done lies about.
  expect(readdirSync(path.join(data, 'audio')).filter((f) => f.endsWith('.part'))).toEqual([])
})

test('every page can be read before a script has run, and draws without an error', async ({
  request,
  page,
}) => {
  await page.goto('/')
  const routine = await page.getByRole('link', { name: /Thursday beginners/ }).getAttribute('href')
  const words = {
    count: 'What was heard',
    cue: 'Saved',
    teach: 'Minutes there are',
    floor: 'What do we drill?',
    log: 'Reading the log',
  }
  for (const [station, said] of Object.entries(words)) {
    const drawn = await (await request.get(routine?.replace(/\/\w*$/, `/${station}`) ?? '')).text()
    expect(drawn.replaceAll(/<script.*?<\/script>/gs, '')).toContain(said)
  }
})

test('two windows cannot overwrite each other', async ({ page, context }) => {
  await page.goto('/')
  await page.getByRole('link', { name: /Thursday beginners/ }).click()
  await expect(page.getByTestId('cue').first()).toBeVisible()
  const other = await context.newPage()
  answering(other)
  await other.goto(page.url())
  await expect(other.getByTestId('cue').first()).toBeVisible()
  const write = async (p: typeof page, text: string) => {
    await p.getByTestId('sheet').focus()
    await p.keyboard.press('4')
    await p.keyboard.press('Shift+ArrowRight')
    await p.keyboard.press('w')
    await p.getByLabel('Move', { exact: true }).fill(text)
    await p.keyboard.press('Enter')
  }
  await write(page, 'from the first window')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await write(other, 'from the second window')
  await expect(other.getByRole('alert').filter({ hasText: 'another window' })).toBeVisible()
  await other.getByRole('button', { name: 'Load it again' }).click()
  await expect(other.getByText('from the first window', { exact: true })).toBeVisible()
  await other.close()
})

test('a routine that cannot be read is named on the shelf, its page says so, and it stays as it was', async ({
  page,
  server,
}) => {
  const database = createClient({ url: `file:${server.data}/azalea.db` })
  const id = 'unreadable-routine-01'
  const document = '{"title":"from another time"}'
  await database.execute({
    sql: `insert into routines (id, song_id, title, document, revision, created_at, updated_at)
      select ?, song_id, 'From another time', ?, 0, created_at, updated_at from routines limit 1`,
    args: [id, document],
  })
  try {
    await page.goto('/')
    const told = page.getByRole('alert').filter({ hasText: 'cannot be read' })
    await expect(told).toContainText('From another time')
    await expect(page.getByRole('link', { name: /Marmalade Weather/ })).toBeVisible()
    await page.goto(`/r/${id}/cue`)
    await expect(page.getByRole('heading', { name: 'This page could not be opened' })).toBeVisible()
    const { rows } = await database.execute({ sql: 'select document from routines where id = ?', args: [id] })
    expect(rows[0]?.document).toBe(document)
    await page.getByRole('link', { name: 'To the shelf' }).click()
    await expect(told).toBeVisible()
  } finally {
    await database.execute({ sql: 'delete from routines where id = ?', args: [id] })
  }
})

test.describe('the borders', () => {
  test('other origins are refused', async ({ request }) => {
    const foreign: Record<string, string>[] = [
      { origin: 'http://elsewhere.example' },
      { 'sec-fetch-site': 'cross-site' },
      { origin: 'null' },
    ]
    for (const headers of foreign) {
      const put = await request.put('/api/songs', {
        headers: { ...headers, 'x-file-name': 'a.wav' },
        data: loopTrack(100, 4),
      })
      expect(put.status()).toBe(403)
    }
  })
  test('a name that is not this server’s own is refused: it may be anybody’s, pointed here', async ({
    request,
    server,
  }) => {
    const port = new URL(server.url).port
    const asked = (host: string, url: string) => request.get(url, { headers: { host: `${host}:${port}` } })
    expect((await asked('evil.example', '/api/moves')).status()).toBe(421)
    expect((await asked('evil.example', '/api/presets')).status()).toBe(421)
    expect((await asked('localhost', '/api/moves')).status()).toBe(200)
    // Pages hold the data too.
    expect(await (await asked('evil.example', '/')).text()).not.toContain('Marmalade')
    expect(await (await asked('localhost', '/')).text()).toContain('Marmalade')
  })
  test('a file name never reaches the disk', async ({ request, server }) => {
    const answer = await request.put('/api/songs', {
      headers: { 'x-file-name': encodeURIComponent('../../../../tmp/azalea-escaped.wav') },
      data: loopTrack(103, 12),
    })
    expect(answer.status()).toBe(200)
    expect(readdirSync(path.join(server.data, 'audio')).every((f) => /^[0-9a-f]{64}$/.test(f))).toBe(true)
    const { routines } = await answer.json()
    expect((await request.delete(`/api/routines/${routines[0].id}`)).status()).toBe(200)
  })
  test('bad ids, numbers and documents are refused in words, and change nothing', async ({ request }) => {
    const bad = [
      await request.get('/api/routines/..%2F..%2Fetc'),
      await request.put('/api/routines/abcdefghij', { data: { revision: -1, routine: {} } }),
      await request.put('/api/routines/abcdefghij', {
        data: 'not json',
        headers: { 'content-type': 'application/json' },
      }),
      await request.post('/api/routines/abcdefghij/repetitions', { data: { speed: 9 } }),
      await request.put('/api/songs', { headers: { 'x-file-name': '%E0%A4%A' }, data: 'x' }),
    ]
    for (const answer of bad) {
      expect(answer.status()).toBe(400)
      expect((await answer.json()).error.message).toMatch(/Nothing was (changed|kept)/)
    }
    expect((await request.get('/api/routines/abcdefghij')).status()).toBe(404)
  })
  test('the audio can be read in ranges', async ({ request, page }) => {
    await page.goto('/')
    const url = await page.getByRole('link', { name: /Thursday beginners/ }).getAttribute('href')
    const { song } = await (await request.get(`/api/routines/${url?.split('/')[2]}`)).json()
    const part = await request.get(`/api/songs/${song.id}/audio`, { headers: { range: 'bytes=0-3' } })
    expect(part.status()).toBe(206)
    expect((await part.body()).toString()).toBe('RIFF')
    expect(part.headers()['content-range']).toBe(`bytes 0-3/${song.bytes}`)
  })
})
