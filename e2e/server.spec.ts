import { copyFileSync, readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { createClient } from '@libsql/client'
import type { Page, Route } from '@playwright/test'
import { ROUTINE_VERSION } from '../src/core/routine'
import { loopTrack } from './sounds'
import { answering, expect, Server, test } from './test'
import { openDemo, ownSong } from './ways'

/** The database of a running server. Its writes are waited for, however long a busy machine takes over them (ms). */
const databaseOf = (server: Server) =>
  createClient({ url: `file:${server.data}/azalea.db`, timeout: 120_000 })

/** A server of its own on no data yet. */
function emptyServer(name: string): Promise<Server> {
  const data = path.resolve(`.cache/e2e-${name}`)
  rmSync(data, { recursive: true, force: true })
  return Server.start(data)
}

test('work survives a killed server: what was saved is there, what was not yet is sent again', async ({
  page,
}) => {
  const own = await emptyServer('killed')
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
  expect(readdirSync(path.join(own.data, 'audio')).filter((f) => f.endsWith('.part'))).toEqual([])
})

test('a server that is shut down right after an edit leaves all of it in the one file of its database', async ({
  request,
}) => {
  const own = await emptyServer('ended')
  try {
    const made = { id: 'made-at-last', title: 'Made at last', tempo: 120, eights: 4 }
    expect((await request.post(`${own.url}/api/combinations`, { data: made })).status()).toBe(200)
    await own.end()
  } finally {
    await own.kill()
  }
  // Nobody reads the journal of what was copied as one file.
  const copy = path.join(own.data, 'copy.db')
  copyFileSync(path.join(own.data, 'azalea.db'), copy)
  const { rows } = await createClient({ url: `file:${copy}` }).execute('SELECT title FROM routines')
  expect(rows.map((r) => r.title)).toEqual(['Made at last'])
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

test('two windows at one routine: on other counts both have it, on the same one is asked; none overwrites the other', async ({
  page,
  context,
}) => {
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
  const on = async (p: typeof page, count: string, text: string) => {
    await p.getByTestId('sheet').focus()
    await p.keyboard.press(count)
    await p.keyboard.press('w')
    await p.getByLabel('Move', { exact: true }).fill(text)
    await p.keyboard.press('Enter')
    await expect(p.getByTestId('saving')).toHaveText('Saved')
  }
  await on(page, '7', 'on seven')
  await on(other, '6', 'on six')
  for (const text of ['on six', 'on seven'])
    await expect(other.getByText(text, { exact: true }).first()).toBeVisible()
  await page.reload()
  for (const text of ['on six', 'on seven'])
    await expect(page.getByText(text, { exact: true }).first()).toBeVisible()
  await write(page, 'from the first window')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await write(other, 'from the second window')
  const asks = other.getByRole('alert').filter({ hasText: 'The same was changed elsewhere' })
  await expect(asks).toContainText('“from the second window” here, “from the first window” there')
  await other.getByRole('button', { name: 'As they have it' }).press('Enter')
  await expect(other.getByText('from the first window', { exact: true })).toBeVisible()
  await expect(asks).toBeHidden()
  // What was done here is not given up: undo brings it back.
  await other.getByRole('button', { name: 'Undo' }).press('Enter')
  await expect(other.getByText('from the second window', { exact: true })).toBeVisible()
  await expect(other.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(page.getByText('from the second window', { exact: true })).toBeVisible()
  await other.close()
})

const there = (p: Page, text: string) => expect(p.getByText(text, { exact: true }).first()).toBeVisible()
const writeOn = async (p: Page, count: string, text: string) => {
  await p.getByTestId('sheet').focus()
  await p.keyboard.press(count)
  await p.keyboard.press('w')
  await p.getByLabel('Move', { exact: true }).fill(text)
  await p.keyboard.press('Enter')
}
/** What waits to be saved, as this browser keeps it. */
const keptByBrowser = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<string>((resolve, reject) => {
        const opening = indexedDB.open('azalea-outbox')
        opening.onerror = () => reject(opening.error)
        opening.onsuccess = () => {
          const all = opening.result.transaction('entries').objectStore('entries').getAll()
          all.onsuccess = () => {
            opening.result.close()
            resolve(JSON.stringify(all.result))
          }
        }
      }),
  )
/** The demo was worked on in a window that is gone, and nothing of it could be saved. @returns the page's address */
async function leftInAHurry(page: Page, text: string): Promise<string> {
  await openDemo(page)
  const saves = /\/api\/routines\/[^/]+$/
  const away = (route: Route) => (route.request().method() === 'PUT' ? route.abort() : route.continue())
  await page.context().route(saves, away)
  await writeOn(page, '6', text)
  await expect(page.getByTestId('saving')).toHaveText('Not saved')
  // A window that is closed while it still writes this down asks first; a test's does not.
  await expect.poll(() => keptByBrowser(page)).toContain(text)
  const url = page.url()
  await page.close()
  await page.context().unroute(saves, away)
  return url
}

test('what a closed window had not saved is taken up by one of two that open, shown in both, and nobody is asked', async ({
  page,
  context,
}) => {
  const url = await leftInAHurry(page, 'left in a hurry')
  const [one, two] = await Promise.all([context.newPage(), context.newPage()])
  for (const p of [one, two]) answering(p)
  await Promise.all([one.goto(url), two.goto(url)])
  for (const p of [one, two]) {
    await there(p, 'left in a hurry')
    await expect(p.getByTestId('saving')).toHaveText('Saved')
  }
  await writeOn(one, '6', 'and gone on with')
  await expect(one.getByTestId('saving')).toHaveText('Saved')
  await one.reload()
  await there(one, 'and gone on with')
  for (const p of [one, two]) await expect(p.getByText(/another window|was closed/)).toHaveCount(0)
  await one.close()
})

test('what a closed window had not saved is brought together with what another device saved since, and nobody is asked', async ({
  page,
  context,
  browser,
}) => {
  const url = await leftInAHurry(page, 'left behind')
  const device = await browser.newContext()
  const elsewhere = await device.newPage()
  answering(elsewhere)
  await elsewhere.goto(url)
  await writeOn(elsewhere, '7', 'saved since')
  await expect(elsewhere.getByTestId('saving')).toHaveText('Saved')
  const again = await context.newPage()
  answering(again)
  await again.goto(url)
  for (const text of ['left behind', 'saved since']) await there(again, text)
  await expect(again.getByTestId('saving')).toHaveText('Saved')
  await expect(again.getByText(/another window|was closed/)).toHaveCount(0)
  await elsewhere.reload()
  for (const text of ['left behind', 'saved since']) await there(elsewhere, text)
  await again.close()
  await device.close()
})

test('a page that was made before that was saved, and begins to run after it, shows it all the same', async ({
  page,
  context,
}) => {
  const url = await leftInAHurry(page, 'left before')
  const late = await context.newPage()
  let release = () => {}
  const held = new Promise<void>((go) => {
    release = go
  })
  await late.route('**/_next/static/**/*.js', async (route) => {
    await held
    await route.continue()
  })
  await late.goto(url, { waitUntil: 'commit' })
  await expect(late.getByTestId('saving')).toBeAttached()
  const one = await context.newPage()
  answering(one)
  await one.goto(url)
  await there(one, 'left before')
  await expect(one.getByTestId('saving')).toHaveText('Saved')
  await expect(late.getByText('left before')).toHaveCount(0)
  release()
  await there(late, 'left before')
  await expect(late.getByText(/another window|was closed/)).toHaveCount(0)
})

test('what the server fails of again and again keeps nothing else from being saved, and is kept as a file or left out', async ({
  page,
}) => {
  await openDemo(page)
  await page.route('**/api/moves', (route) =>
    route.request().method() === 'PUT'
      ? route.fulfill({ status: 500, json: { error: { code: 'failed', message: 'A fault.' } } })
      : route.continue(),
  )
  await page.keyboard.press('Alt+4')
  await page.getByRole('textbox', { name: 'Find or add' }).fill('poisoned step')
  await page.getByRole('button', { name: 'Add “poisoned step”' }).press('Enter')
  const told = page.getByTestId('not-saved')
  await expect(told).toContainText(
    'The move list cannot be saved; it is tried again, and everything else is saved.',
  )
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('7')
  await page.keyboard.press('w')
  await page.getByLabel('Move', { exact: true }).fill('saved beside it')
  await page.keyboard.press('Enter')
  const id = /r\/([^/]+)/.exec(page.url())?.[1]
  await expect
    .poll(async () => JSON.stringify(await (await page.request.get(`/api/routines/${id}`)).json()))
    .toContain('saved beside it')
  const download = page.waitForEvent('download')
  await told.getByRole('button', { name: 'Save as a file' }).press('Enter')
  expect((await download).suggestedFilename()).toBe('Azalea, the move list.json')
  await told.getByRole('button', { name: 'Leave it out' }).press('Enter')
  await page.getByRole('alertdialog').getByRole('button', { name: 'Leave it out' }).press('Enter')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
})

test('where a browser keeps nothing, a routine opens and is saved all the same', async ({
  browser,
  server,
}) => {
  const context = await browser.newContext({ baseURL: server.url })
  await context.addInitScript(() => {
    const refused = () => {
      throw new DOMException('refused', 'SecurityError')
    }
    for (const name of ['indexedDB', 'localStorage', 'sessionStorage'])
      Object.defineProperty(window, name, { get: refused, configurable: true })
  })
  const page = await context.newPage()
  answering(page)
  await openDemo(page)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('w')
  await page.getByLabel('Move', { exact: true }).fill('kept all the same')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('saving')).toHaveText('Saved')
  await page.reload()
  await expect(page.getByText('kept all the same').first()).toBeVisible()
  await context.close()
})

test('a routine that was taken away elsewhere is kept as a new one, or as a file where its song went too', async ({
  page,
  request,
}) => {
  const idOf = () => /r\/([^/]+)/.exec(page.url())?.[1] ?? ''
  const removed = async (id: string) => {
    await request.delete(`/api/routines/${id}`)
    await request.delete(`/api/bin/${id}`)
  }
  const takenAway = async (name: string) => {
    await removed(idOf())
    await page.keyboard.press('Shift+D')
    const told = page.getByRole('alert').filter({ hasText: 'not here any more' })
    await expect(told, name).toBeVisible()
    return told.getByRole('button', { name: 'Keep mine as a new one' })
  }
  await ownSong(page, 'Taken away')
  const id = idOf()
  const other = 'another-routine-01'
  expect((await request.post('/api/routines', { data: { id: other, copyOf: id } })).ok()).toBe(true)
  await (await takenAway('its song is here')).press('Enter')
  await page.waitForURL((url) => url.pathname.endsWith('/cue') && !url.pathname.includes(id))
  await expect(page.getByText('(from this window)').first()).toBeVisible()
  for (const gone of [other, idOf()]) await removed(gone)
  await ownSong(page, 'Taken away with its song')
  const saved = page.waitForEvent('download')
  await (await takenAway('its song is gone')).press('Enter')
  expect((await saved).suggestedFilename()).toMatch(/^Taken away with its song.*\.azalea\.json$/)
  await page.getByRole('button', { name: 'Let it go' }).press('Enter')
  await page.getByRole('alertdialog').getByRole('button', { name: 'Let it go' }).press('Enter')
  await page.waitForURL((url) => url.pathname === '/')
  await expect(page.getByRole('link', { name: /Thursday beginners/ })).toBeVisible()
})

test('a routine of a newer version is opened to look at, heard, and never changed', async ({
  page,
  server,
}) => {
  const database = databaseOf(server)
  const id = 'routine-from-later-01'
  const [known] = (await database.execute('select id, document from routines limit 1')).rows
  const document = JSON.stringify({
    ...JSON.parse(String(known?.document)),
    version: ROUTINE_VERSION + 1,
    title: 'From later',
    costumes: [],
  })
  await database.execute({
    sql: `insert into routines (id, song_id, title, document, revision, created_at, updated_at)
      select ?, song_id, 'From later', ?, 0, created_at, updated_at from routines where id = ?`,
    args: [id, document, known?.id ?? ''],
  })
  try {
    await page.goto('/')
    await page.getByRole('link', { name: /From later/ }).press('Enter')
    await page.waitForURL('**/r/**')
    await page.goto(`/r/${id}/cue`)
    await expect(page.getByTestId('newer')).toContainText('written by a newer version')
    await expect(page.getByTestId('saving')).toHaveText('To look at')
    const cue = page.getByTestId('cue').first()
    const words = (await cue.textContent()) ?? ''
    await cue.click()
    await page.keyboard.press('Delete')
    await expect(page.getByText('Nothing was changed: a newer version')).toBeVisible()
    await expect(page.getByTestId('cue').filter({ hasText: words }).first()).toBeVisible()
    await page.getByRole('button', { name: 'Play', exact: true }).press('Enter')
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible({ timeout: 30_000 })
    const { rows } = await database.execute({ sql: 'select document from routines where id = ?', args: [id] })
    expect(rows[0]?.document).toBe(document)
  } finally {
    await database.execute({ sql: 'delete from routines where id = ?', args: [id] })
  }
})

test('a routine that cannot be read is named on the shelf, its page says so, and it stays as it was', async ({
  page,
  server,
}) => {
  const database = databaseOf(server)
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

test('a long shelf is searched, put in order, and shown in parts', async ({ page, request }) => {
  await page.goto('/')
  await page.getByRole('link', { name: /Thursday beginners/ }).click()
  await page.waitForURL('**/r/**')
  const demo = /r\/([^/]+)/.exec(page.url())?.[1]
  const made = Array.from({ length: 14 }, (_, i) => `shelf-routine-${i + 10}`)
  for (const [i, id] of made.entries()) {
    await request.post('/api/routines', { data: { id, copyOf: demo } })
    const { routine } = await (await request.get(`/api/routines/${id}`)).json()
    const save = { revision: 0, writer: 'shelf-writer', save: 1 }
    await request.put(`/api/routines/${id}`, {
      data: { ...save, routine: { ...routine, title: `Évening ${i}` } },
    })
  }
  await page.goto('/')
  const cards = page.getByRole('link', { name: /Évening|Thursday beginners/ })
  await expect(page.getByText('15 routines')).toBeVisible()
  await expect(cards).toHaveCount(12)
  await page.getByRole('button', { name: 'Show more' }).press('Enter')
  await expect(cards).toHaveCount(15)
  await page.getByLabel('Find').fill('evening 1')
  await expect(page.getByText('5 of 15 routines')).toBeVisible()
  await page.getByRole('radio', { name: 'by name' }).focus()
  await page.keyboard.press('Space')
  await expect(cards.first()).toHaveText('Évening 1')
  await page.getByLabel('Find').fill('marmalade copper')
  await expect(page.getByText('15 routines')).toBeVisible()
  await page.getByLabel('Find').fill('nothing like it')
  await expect(page.getByText('0 of 15 routines')).toBeVisible()
  for (const id of made) await request.delete(`/api/routines/${id}`)
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
    // Scripts and the voice as well: nothing is answered under it.
    expect((await asked('evil.example', '/voice/1.wav')).status()).toBe(421)
  })
  test('a page of somebody else’s can neither frame Azalea nor read it', async ({ browser, server }) => {
    const context = await browser.newContext()
    const page = await context.newPage()
    await page.route('http://hostile.example/**', (route) =>
      route.fulfill({ contentType: 'text/html', body: `<iframe src="${server.url}/"></iframe>` }),
    )
    await page.goto('http://hostile.example/')
    // What stands in the frame is the browser's own page of refusal.
    await expect.poll(() => page.frames().at(1)?.url()).toBe('chrome-error://chromewebdata/')
    const read = await page.evaluate(async (url) => {
      const tries = [fetch(`${url}/api/moves`), fetch(`${url}/api/moves`, { mode: 'no-cors' })]
      const image = new Promise((done) => {
        const img = new Image()
        img.onload = () => done('loaded')
        img.onerror = () => done('refused')
        img.src = `${url}/icon.svg`
      })
      const answers = await Promise.allSettled(tries)
      return [...answers.map((a) => a.status), await image]
    }, server.url)
    expect(read).toEqual(['rejected', 'rejected', 'refused'])
    await context.close()
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
    const { items } = await (await request.get('/api/shelf')).json()
    const known = `/api/routines/${items[0].id}`
    const bad = [
      await request.get('/api/routines/..%2F..%2Fetc'),
      await request.put(known, { data: { revision: -1, routine: {} } }),
      await request.put(known, {
        data: 'not json',
        headers: { 'content-type': 'application/json' },
      }),
      await request.post(`${known}/repetitions`, { data: { speed: 9 } }),
      await request.put('/api/songs', { headers: { 'x-file-name': '%E0%A4%A' }, data: 'x' }),
    ]
    for (const answer of bad) {
      expect(answer.status()).toBe(400)
      expect((await answer.json()).error.message).toMatch(/Nothing was (changed|kept)/)
    }
    expect((await request.get('/api/routines/abcdefghij')).status()).toBe(404)
  })
  test('an address that cannot be read, or names nothing, is not found, and guarded like the others', async ({
    request,
  }) => {
    for (const path of [
      '/api/routines/%ff',
      '/api/songs/%c3%28/audio',
      '/api/nothing/here',
      '/r/%/cue',
      '/r/%ff/floor',
    ]) {
      const answer = await request.get(path)
      expect([path, answer.status()]).toEqual([path, 404])
      expect(answer.headers()).toMatchObject({
        'x-content-type-options': 'nosniff',
        'permissions-policy': expect.stringContaining('camera=()'),
      })
      if (path.startsWith('/api/')) expect((await answer.json()).error.code).toBe('missing')
    }
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
