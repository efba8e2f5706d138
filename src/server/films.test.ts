import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { stat } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { eq } from 'drizzle-orm'
import { describe, expect, it } from 'vitest'
import { madeFilm } from '../decode/film.test-tools'
import { removeRoutine } from './bin'
import { database } from './database'
import { sweepFilms } from './film-leftovers'
import { takeInFilm } from './films'
import { ADDRESS, asked, begin, danced, offsetOf, send, sent } from './films.test-tools'
import { filesKept, ownData } from './own-data.test-tools'

import { films } from './schema'

const dir = ownData()
const kept = () => filesKept(dir, 'films')
const coming = () => readdirSync(path.join(dir, 'incoming'))

describe('films that come in', () => {
  it('end nothing where their folder goes while they are begun', async () => {
    const thrown: unknown[] = []
    const note = (error: unknown) => thrown.push(error)
    process.on('uncaughtException', note)
    const before = process.env.AZALEA_DATA
    try {
      const gone = mkdtempSync(path.join(os.tmpdir(), 'azalea-gone-'))
      process.env.AZALEA_DATA = gone
      const begun = begin('film-gone', 100)
      rmSync(gone, { recursive: true })
      // A file in its place: it cannot be made anew.
      writeFileSync(gone, '')
      expect((await begun).status).toBeGreaterThanOrEqual(400)
      // Whatever else was asked of the disk has been answered after these.
      for (let i = 0; i < 16; i++) await stat(os.tmpdir())
      rmSync(gone)
    } finally {
      process.env.AZALEA_DATA = before
      process.off('uncaughtException', note)
    }
    expect(thrown).toEqual([])
  })

  it('come in by pieces, go on where they were cut, and are kept once by their content', async () => {
    const bytes = await madeFilm()
    await begin('film-one', bytes.length)
    await send('film-one', 0, bytes.slice(0, 1000))
    expect(await offsetOf('film-one')).toBe(1000)
    // A piece that comes twice, or too early, changes nothing.
    expect((await send('film-one', 0, bytes.slice(0, 1000))).status).toBe(409)
    await expect(takeInFilm('film-one')).rejects.toMatchObject({ status: 409, code: 'unfinished' })
    expect((await send('film-one', 1000, bytes.slice(1000))).status).toBe(204)
    const row = await takeInFilm('film-one')
    expect(row).toMatchObject({ fileName: 'studio.webm', width: 320, height: 180, mime: 'video/webm' })
    expect(kept()).toEqual([row.hash])
    // An answer that was lost is asked for again.
    expect((await takeInFilm('film-one')).hash).toBe(row.hash)
    await sent('film-two', bytes)
    expect((await takeInFilm('film-two')).hash).toBe(row.hash)
    expect(kept()).toEqual([row.hash])
    expect(coming()).toEqual([])
  })

  it('are refused in words, and let go', async () => {
    for (const [id, bytes, status, says] of [
      ['bad-film-1', new TextEncoder().encode('no film at all'), 415, 'no film'],
      ['bad-film-2', await madeFilm({ sound: false }), 415, 'no sound'],
      ['bad-film-3', await madeFilm({ picture: false }), 415, 'no picture'],
      ['bad-film-4', (await madeFilm({ format: 'mp4' })).slice(0, 900), 415, 'bro'],
    ] as const) {
      await sent(id, bytes, 'übung “1”.mov')
      await expect(takeInFilm(id)).rejects.toMatchObject({ status, message: expect.stringContaining(says) })
      await expect(takeInFilm(id)).rejects.toMatchObject({ status: 404 })
    }
    expect(coming()).toEqual([])
    const large = await begin('large-film', 5 * 1024 ** 3)
    expect(large.status).toBe(413)
    expect(await large.text()).toContain('over the limit of 4 GB')
    expect((await begin('../../etc', 10)).status).toBe(400)
    expect((await asked('HEAD', `${ADDRESS}/..%2f..%2fazalea.db`, {})).status).toBe(404)
    expect(coming()).toEqual([])
  })

  it('stay while a routine names them, and a week longer', async () => {
    const bytes = await madeFilm({ seconds: 1 })
    await sent('named-film', bytes)
    const { hash } = await takeInFilm('named-film')
    const routine = await danced('named-film', 111)
    const db = await database()
    const day = 24 * 3600 * 1000
    const there = async () =>
      (await db.query.films.findFirst({ where: eq(films.id, 'named-film') })) !== undefined
    await sweepFilms(db, Date.now() + 100 * day)
    expect(await there()).toBe(true)
    await removeRoutine(routine)
    const gone = Date.now() + 100 * day
    await sweepFilms(db, gone)
    await sweepFilms(db, gone + 6 * day)
    expect([await there(), kept().includes(hash)]).toEqual([true, true])
    await sweepFilms(db, gone + 8 * day)
    expect([await there(), kept().includes(hash)]).toEqual([false, false])
  })
})
