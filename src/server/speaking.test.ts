import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { writeWav } from '@/core/formats/wav'
import { until } from '@/core/until.test-tools'
import { speak, speaker } from './speaking'

let dir: string
const before = process.env.AZALEA_DATA
beforeAll(() => {
  dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-speaking-'))
  process.env.AZALEA_DATA = dir
  // A voice that says a word as one sample a letter, notes each time it is begun, and dies at "die" for good and at
  // "once" the first time.
  writeFileSync(path.join(dir, 'one.wav'), writeWav({ sampleRate: 8000, channels: [new Float32Array(1)] }))
  writeFileSync(
    path.join(dir, 'voice.mjs'),
    `import { appendFileSync, existsSync, readFileSync, writeFileSync } from 'node:fs'
     const [folder, ...texts] = process.argv.slice(2)
     appendFileSync('${dir}/begun', texts.join(' ') + '\\n')
     texts.forEach((text, k) => {
       if (text === 'die') process.exit(7)
       if (text === 'once' && !existsSync('${dir}/once')) { writeFileSync('${dir}/once', ''); process.kill(process.pid, 'SIGKILL') }
       const one = readFileSync('${dir}/one.wav')
       const out = Buffer.concat([one.subarray(0, 44), Buffer.alloc(2 * text.length)])
       out.writeUInt32LE(36 + 2 * text.length, 4); out.writeUInt32LE(2 * text.length, 40)
       writeFileSync(folder + '/' + k + '.wav', out)
     })`,
  )
})
afterAll(() => {
  if (before === undefined) delete process.env.AZALEA_DATA
  else process.env.AZALEA_DATA = before
  rmSync(dir, { recursive: true, force: true })
})

const begun = () => readFileSync(path.join(dir, 'begun'), 'utf8').trim().split('\n')

describe('speaking', () => {
  it('says many words by few processes, each to the one who asked for it', async () => {
    const say = speaker(path.join(dir, 'voice.mjs'))
    const words = Array.from({ length: 40 }, (_, k) => 'x'.repeat(k + 1))
    const said = await Promise.all(words.map(say))
    expect(said.map((w) => w.samples.length)).toEqual(words.map((w) => w.length))
    expect(begun().length).toBeLessThanOrEqual(4)
  })

  it('loses no word to another that the voice dies of', async () => {
    const say = speaker(path.join(dir, 'voice.mjs'))
    const ask = ['a', 'die', 'bb', 'once', 'ccc', 'dddd']
    const said = await Promise.allSettled(ask.map(say))
    const lengths = said.map((s) => (s.status === 'fulfilled' ? s.value.samples.length : null))
    expect(lengths).toEqual([1, null, 2, 4, 3, 4])
    expect(begun().filter((line) => line.includes('die'))).toHaveLength(3)
    await until(() => expect(readdirSync(path.join(dir, 'passing'))).toEqual([]))
  })

  it('refuses words when too many wait', async () => {
    const say = speaker(path.join(dir, 'voice.mjs'), 3)
    const said = await Promise.allSettled(['a', 'b', 'c', 'd'].map(say))
    expect(said.map((s) => s.status)).toEqual(['fulfilled', 'fulfilled', 'fulfilled', 'rejected'])
    expect(said[3]).toMatchObject({ reason: { status: 503 } })
  })

  it('says with the voice of the app in company what it says alone', async () => {
    const [one, two] = await Promise.all([speak('step touch'), speak('grapevine'), speak('-o, <b>')])
    expect((await speak('step touch')).samples).toEqual(one.samples)
    expect(one.samples.length).toBeGreaterThan(one.rate * 0.3)
    expect(two.samples).not.toEqual(one.samples)
  })
})
