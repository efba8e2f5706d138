import { execFile } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { writeWav } from '@/core/formats/wav'
import { boundedRun, endOf } from './bounded'
import { readTags } from './tags'

const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-bounded-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))
const program = (name: string, text: string) => {
  const file = path.join(dir, `${name}.mjs`)
  writeFileSync(file, text)
  return file
}

/** How a program ends within bounds. */
const ended = (script: string, bounds = { seconds: 2, megabytes: 200 }) => {
  const { command, args, env } = boundedRun(script, [], bounds)
  return new Promise((resolve) => {
    execFile(command, args, { env }, (error, out) => resolve([endOf(error), out.trim()]))
  })
}

describe('a process with bounds', () => {
  it('may wait as long as it likes: only what it uses counts', async () => {
    const waits = program('waits', "setTimeout(() => console.log('done'), 2600)")
    expect(await ended(waits)).toEqual(['well', 'done'])
  })
  it('is ended when it uses more of the processor, also where it never comes back to its timers', async () => {
    expect(await ended(program('spins', "console.log('begun'); for (;;);"))).toEqual(['over', 'begun'])
  })
  it('is ended when it takes more memory', async () => {
    const grows = 'const all = []; setInterval(() => all.push(Buffer.alloc(2e7, 1)), 5)'
    expect(await ended(program('grows', grows), { seconds: 20, megabytes: 200 })).toEqual(['over', ''])
  })
  it('that crashes is told from one that was ended, and from one that could not be begun', async () => {
    expect(await ended(program('dies', 'process.exit(7)'))).toEqual(['crashed', ''])
    expect(await ended(program('killed', "process.kill(process.pid, 'SIGKILL')"))).toEqual(['crashed', ''])
    expect([endOf({ code: 'EAGAIN' }), endOf({ code: 'ENOMEM' }), endOf(null)]).toEqual([
      'no room',
      'no room',
      'well',
    ])
  })
})

describe('the reader of songs', () => {
  it('takes a WAV for what it is, but none without sound', async () => {
    const wav = (name: string, seconds: number) => {
      const file = path.join(dir, name)
      const sound = new Float32Array(seconds * 44_100).fill(0.1)
      writeFileSync(file, writeWav({ sampleRate: 44_100, channels: [sound] }))
      return readTags(file, name)
    }
    expect(await wav('Warm up.wav', 2)).toEqual({ title: 'Warm up', credit: '', mime: 'audio/wav' })
    await expect(wav('Nothing.wav', 0)).rejects.toMatchObject({ status: 415 })
  })
})

describe('a song whose reader', () => {
  const song = program('a song', '')
  const read = (script: string) => readTags(song, 'Song.wav', script)
  const good = `console.log(JSON.stringify({ container: 'WAVE', sampleRate: 44100, codec: 'PCM', duration: 9 }))`
  it('crashes is looked at once more; twice, and it is said to be that', async () => {
    const once = `import { existsSync, writeFileSync } from 'node:fs'
      if (!existsSync('${dir}/once')) { writeFileSync('${dir}/once', ''); process.exit(9) }
      ${good}`
    expect(await read(program('once', once))).toMatchObject({ title: 'Song', mime: 'audio/wav' })
    await expect(read(program('twice', 'process.exit(9)'))).rejects.toMatchObject({
      status: 422,
      message: expect.stringContaining('ended unexpectedly, twice'),
    })
  })
  it('says that no sound is in it is said to be no sound file', async () => {
    await expect(read(program('null', "console.log('null')"))).rejects.toMatchObject({
      status: 415,
      message: expect.stringContaining('is not a sound file'),
    })
  })
  it('uses more than any song is said to do so', async () => {
    const forever = program('forever', 'for (;;);')
    await expect(readTags(song, 'Song.wav', forever, { seconds: 1, megabytes: 200 })).rejects.toMatchObject({
      status: 422,
      message: expect.stringContaining('more time or memory'),
    })
  })
})
