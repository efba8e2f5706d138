import { mkdtempSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { eq, ne } from 'drizzle-orm'
import { beforeAll, describe, expect, it } from 'vitest'
import { readWav, toMono } from '@/core/formats/wav'
import { packPeaks } from '@/core/hear'
import { listen } from '@/core/hear/listen'
import type { Film } from '@/core/routine'
import { loopTrack } from '../../e2e/sounds'
import { madeFilm } from '../decode/film.test-tools'
import { makeBackup } from './backup'
import { removeRoutine } from './bin'
import { database } from './database'
import { filmStore } from './file-store'
import { filmById, takeInFilm } from './films'
import { danced, sent } from './films.test-tools'
import { keepHearing } from './hearings'
import { openRoutineFile } from './open-routine-file'
import { filesKept, ownData } from './own-data.test-tools'
import { restoreBackup } from './restore'
import { routineFileOf, routineZipOf } from './routine-file'
import { openRoutine, saveRoutine } from './routines'
import { films, routines } from './schema'

const dir = ownData()
const all = async (stream: AsyncIterable<Buffer>) => {
  const out: Buffer[] = []
  for await (const chunk of stream) out.push(chunk)
  return Buffer.concat(out)
}
const written = (bytes: Buffer) => {
  const file = path.join(mkdtempSync(path.join(dir, 'out-')), 'x.zip')
  writeFileSync(file, bytes)
  return file
}

let id = ''
let hash = ''
beforeAll(async () => {
  await sent('zip-film', await madeFilm({ seconds: 1.5, format: 'mp4' }), 'zip.mp4')
  hash = (await takeInFilm('zip-film')).hash
  id = await danced('zip-film', 120)
  const row = await (await database()).query.routines.findFirst({ where: eq(routines.id, id) })
  const pcm = readWav(loopTrack(120, 6))
  const { hearing, peaks } = listen(toMono(pcm), pcm.sampleRate)
  const data = JSON.stringify(hearing)
  await keepHearing(row?.songId ?? '', hearing.version, data, Buffer.from(packPeaks(peaks)))
})

/** As if this machine had never had the film. */
async function forgetFilm() {
  await (await database()).delete(films).where(eq(films.id, 'zip-film'))
  await filmStore().remove(hash)
}

describe('films that leave', () => {
  it('stay here where only the routine goes', async () => {
    const file = await routineFileOf(id, { lessons: true })
    expect([file.routine.films, file.films]).toEqual([[], []])
  })

  it('go along in a zip where that is wished, and come back with their takes', async () => {
    const { stream, bytes } = await routineZipOf(id, { lessons: false, films: true })
    const zip = await all(stream)
    expect(zip.length).toBe(bytes)
    await removeRoutine(id)
    await forgetFilm()
    const opened = await openRoutineFile(written(zip), { as: null, on: null })
    expect((await openRoutine(opened.id)).routine.films).toMatchObject([{ file: 'zip-film', name: 'Studio' }])
    expect(await filmById('zip-film')).toMatchObject({ hash, mime: 'video/mp4', fileName: 'zip.mp4' })
    expect(await filmStore().size(hash)).toBeGreaterThan(0)
    // Damaged on its way: one byte of the film is another.
    await removeRoutine(id)
    await forgetFilm()
    const at = zip.indexOf('films/zip-film') + 400
    zip[at] = (zip[at] ?? 0) ^ 0xff
    await expect(openRoutineFile(written(zip), { as: null, on: null })).rejects.toMatchObject({ status: 415 })
    expect(filesKept(dir, 'films')).toEqual([])
    // And whole once more, for what follows.
    zip[at] = (zip[at] ?? 0) ^ 0xff
    await openRoutineFile(written(zip), { as: null, on: null })
  })

  it('come from a backup to a routine that is here without them; one that is here otherwise comes beside', async () => {
    const { stream, close } = await makeBackup()
    const file = written(await all(stream))
    await close()
    const { routine, revision } = await openRoutine(id)
    const [film] = routine.films as [Film]
    const save = (films: Film[], n: number) =>
      saveRoutine(id, { revision: revision + n - 1, writer: 'window-here-1', save: n }, { ...routine, films })
    await save([], 1)
    expect(await restoreBackup(file)).toMatchObject({ routines: 0, beside: [] })
    expect((await openRoutine(id)).routine.films).toEqual([film])
    const now = await openRoutine(id)
    const other = { ...now.routine, films: [{ ...film, name: 'Another name' }] }
    await saveRoutine(id, { revision: now.revision, writer: 'window-here-2', save: 1 }, other)
    expect(await restoreBackup(file)).toMatchObject({ routines: 1 })
    const db = await database()
    const [beside] = await db.query.routines.findMany({ where: ne(routines.id, id) })
    await removeRoutine(beside?.id ?? '')
    const last = await openRoutine(id)
    await saveRoutine(
      id,
      { revision: last.revision, writer: 'window-here-3', save: 1 },
      { ...last.routine, films: [film] },
    )
  })

  it('are in a backup, and come back from it into an empty place', async () => {
    const { stream, close } = await makeBackup()
    const file = written(await all(stream))
    await close()
    const here = process.env.AZALEA_DATA
    process.env.AZALEA_DATA = mkdtempSync(path.join(dir, 'elsewhere-'))
    try {
      expect(await restoreBackup(file)).toMatchObject({ routines: 1, damaged: 0 })
      expect(await filmById('zip-film')).toMatchObject({ hash })
      expect(await filmStore().size(hash)).toBeGreaterThan(0)
      expect((await openRoutine(id)).routine.films).toMatchObject([{ file: 'zip-film' }])
    } finally {
      process.env.AZALEA_DATA = here
    }
  })
})
