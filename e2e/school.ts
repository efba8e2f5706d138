import { spawnSync } from 'node:child_process'
import { cpSync, existsSync, rmSync } from 'node:fs'
import path from 'node:path'
import type { Browser, BrowserContext, BrowserContextOptions, Page } from '@playwright/test'
import { buildSync } from 'esbuild'
import { answering, answers, expect, Server } from './test'

export const PASSWORD = 'a long one for tests'

/** Each process that runs tests has its own: two never write one file. */
const COMMAND = path.resolve(`.cache/e2e-account-${process.pid}.mjs`)

/** A server of a school, with the demo's data as it was before there were accounts. */
export class School {
  private readonly opened: BrowserContext[] = []
  private constructor(
    readonly server: Server,
    private readonly data: string,
  ) {}

  /** @param name of its folder in `.cache` */
  static async start(name: string): Promise<School> {
    const data = path.resolve('.cache', name)
    rmSync(data, { recursive: true, force: true })
    cpSync(path.resolve('.cache/e2e-seeded'), data, { recursive: true })
    return new School(await Server.start(data, undefined, true), data)
  }

  get url(): string {
    return this.server.url
  }

  async end(): Promise<void> {
    await this.server.kill()
    rmSync(this.data, { recursive: true, force: true })
    rmSync(COMMAND, { force: true })
  }

  /** What `npm run account -- …` says. */
  account(...what: string[]): string {
    return this.said('node_modules/.bin/tsx', ['--tsconfig', 'tsconfig.json', 'cli/account.ts', ...what])
  }

  private said(program: string, args: string[]): string {
    const done = spawnSync(program, args, {
      env: { ...process.env, AZALEA_DATA: this.data, AZALEA_PUBLIC_URL: this.url },
      encoding: 'utf8',
    })
    expect(done.status, done.stderr).toBe(0)
    return done.stdout.trim()
  }

  /** A link to begin an account by. The command put together once: as it is run by hand it takes four times as long to begin. */
  private invitation(email: string, name: string, role: string): string {
    if (!existsSync(COMMAND))
      buildSync({
        ...{ entryPoints: ['cli/account.ts'], outfile: COMMAND, tsconfig: 'tsconfig.json' },
        ...{ bundle: true, platform: 'node', format: 'esm', packages: 'external', logLevel: 'error' },
      })
    return this.said(process.execPath, [COMMAND, 'invite', email, name, role])
  }

  /** Somebody's own browser. @param azalea it opens pages of Azalea, which say when they answer */
  async browserOf(browser: Browser, azalea = true, device: BrowserContextOptions = {}): Promise<Page> {
    const context = await browser.newContext(device)
    this.opened.push(context)
    const page = await context.newPage()
    if (azalea) answering(page)
    return page
  }

  /** Closes all browsers. */
  async leave(): Promise<void> {
    for (const context of this.opened.splice(0)) await context.close()
  }

  /** Somebody who was invited by the command follows the link. */
  async joins(browser: Browser, name: string, role: string, device?: BrowserContextOptions): Promise<Page> {
    const page = await this.browserOf(browser, true, device)
    await page.goto(this.invitation(`${name.toLowerCase()}@school.example`, name, role))
    await page.getByLabel('A password').fill(PASSWORD)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('navigation', { name: 'Account' })).toContainText(name)
    await answers(page)
    return page
  }
}
