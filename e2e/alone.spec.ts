/* What the tests' browser keeps from one test to the next: nothing of what pages stored, asked for or were made to do. */
import type { Page } from '@playwright/test'
import { expect, test } from './test'

/** Addresses whose pages keep things each for itself. */
const addresses = (url: string) => [url, url.replace('localhost', '127.0.0.1')]

const stored = (page: Page) =>
  page.evaluate(async () => ({
    local: localStorage.getItem('left'),
    cookie: document.cookie.includes('left='),
    cache: await caches.has('left'),
    database: (await indexedDB.databases()).some((d) => d.name === 'left'),
  }))

test('a page keeps what it can, and is made to look and ask otherwise', async ({ page, context, server }) => {
  for (const url of addresses(server.url)) {
    await page.goto(url)
    await page.evaluate(async () => {
      localStorage.setItem('left', 'yes')
      // biome-ignore lint/suspicious/noDocumentCookie: what a page may do is tried
      document.cookie = 'left=yes'
      await caches.open('left')
      await new Promise((opened) => {
        indexedDB.open('left').onsuccess = opened
      })
    })
    expect(await stored(page)).toEqual({ local: 'yes', cookie: true, cache: true, database: true })
  }
  await context.grantPermissions(['clipboard-read'])
  await context.route('**/api/shelf*', (route) => route.abort())
  await page.emulateMedia({ colorScheme: 'dark' })
})

test('the next test finds nothing of it', async ({ page, server }) => {
  for (const url of addresses(server.url)) {
    await page.goto(url)
    expect(await stored(page)).toEqual({ local: null, cookie: false, cache: false, database: false })
  }
  const found = await page.evaluate(async () => ({
    dark: matchMedia('(prefers-color-scheme: dark)').matches,
    clipboard: (await navigator.permissions.query({ name: 'clipboard-read' as PermissionName })).state,
    shelf: (await fetch('/api/shelf')).status,
  }))
  expect(found).toEqual({ dark: false, clipboard: 'prompt', shelf: 200 })
})
