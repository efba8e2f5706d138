/* npm run attack:files: bad files are dropped on a server, one after another, while it is asked for its shelf. None may be
   kept, none may take over two seconds, and the server stays small. */
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { Attacked, percentile } from './server'

let seed = 5
const below = (n: number) => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
  return Math.floor((seed / 2_147_483_648) * n)
}
const noise = (n: number) => Buffer.from(Uint8Array.from({ length: n }, () => below(256)))
const ascii = (s: string) => Buffer.from(s, 'latin1')
const sevens = (n: number) => Buffer.from([21, 14, 7, 0].map((by) => (n >> by) & 127))
const fixture = (kind: string) => readFileSync(`e2e/fixtures/short.${kind}`)
const KINDS = ['mp3', 'flac', 'ogg', 'opus', 'm4a'] as const

function wav(rate: number, bits: number, kind: number, channels: number, data: Buffer): Buffer {
  const head = Buffer.alloc(44)
  head.write('RIFF', 0)
  head.writeUInt32LE(36 + data.length, 4)
  head.write('WAVEfmt ', 8)
  head.writeUInt32LE(16, 16)
  head.writeUInt16LE(kind, 20)
  head.writeUInt16LE(channels, 22)
  head.writeUInt32LE(rate >>> 0, 24)
  head.writeUInt32LE((rate * channels * bits) / 8 / 2 ** 32 < 1 ? (rate * channels * bits) / 8 : 0, 28)
  head.writeUInt16LE(((channels * bits) / 8) & 0xffff, 32)
  head.writeUInt16LE(bits, 34)
  head.write('data', 36)
  head.writeUInt32LE(data.length, 40)
  return Buffer.concat([head, data])
}

/** Bad files by name; those that may be taken as far as they go are marked. */
function* files(): Generator<[string, Buffer, boolean?]> {
  for (const n of [0, 1, 3, 9, 43]) yield [`${n} bytes`, noise(n)]
  for (const byte of [0, 0xff, 0x52])
    for (const n of [1000, 1_000_000, 20_000_000]) yield [`${n} × ${byte}`, Buffer.alloc(n, byte)]
  for (const mb of [1, 20, 150]) {
    yield [
      `ID3 of ${mb} MB and nothing`,
      Buffer.concat([ascii('ID3\x04\0\0'), sevens(mb * 1e6), Buffer.alloc(mb * 1e6)]),
    ]
    yield [
      `ID3 of ${mb} MB before a song`,
      Buffer.concat([ascii('ID3\x04\0\0'), sevens(mb * 1e6), Buffer.alloc(mb * 1e6), fixture('mp3')]),
      true,
    ]
    yield [
      `ID3 of ${mb} MB of noise`,
      Buffer.concat([ascii('ID3\x03\0\0'), sevens(mb * 1e6), noise(Math.min(mb, 4) * 1e6)]),
    ]
  }
  for (let i = 0; i < 30; i++)
    yield [
      `ID3 in ID3, ${i}`,
      Buffer.concat([
        ...Array.from({ length: i }, () => Buffer.concat([ascii('ID3\x04\0\0'), sevens(5), noise(5)])),
        noise(50_000),
      ]),
    ]
  for (const rate of [0, 1, 999, 0xffffffff])
    yield [`WAV at ${rate} Hz`, wav(rate, 16, 1, 1, Buffer.alloc(200_000, 9))]
  for (const channels of [0, 65_535])
    yield [`WAV of ${channels} channels`, wav(44_100, 16, 1, channels, Buffer.alloc(200_000)), true]
  yield ['WAV without sound', wav(44_100, 16, 1, 1, Buffer.alloc(0))]
  yield ['WAV of 21 minutes', wav(8000, 8, 1, 1, Buffer.alloc(8000 * 60 * 21, 128))]
  for (const head of [
    'fLaC',
    'OggS\0\x02OpusHead',
    'OggS\0\x02\x01vorbis',
    '\0\0\0 ftypM4A ',
    '\x1aE\xdf\xa3',
    '\xff\xfb\x90\0',
    '\xff\xf1\x50\x80',
    'RIFF\xff\xff\xff\xffWAVEfmt ',
  ])
    for (const n of [100, 40_000, 3_000_000])
      yield [`${JSON.stringify(head)} and ${n} of noise`, Buffer.concat([ascii(head), noise(n)])]
  for (const kind of KINDS) {
    const whole = fixture(kind)
    for (const cut of [20, 100, 1000, whole.length >> 1])
      yield [`${kind} cut at ${cut}`, whole.subarray(0, cut), true]
    for (let i = 0; i < 9; i++) {
      const spoiled = Buffer.from(whole)
      for (let k = 0; k < 400; k++) spoiled[below(i < 5 ? 2000 : spoiled.length)] = below(256)
      yield [`${kind} spoiled, ${i}`, spoiled, true]
    }
  }
}

async function main() {
  const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-attack-'))
  const server = new Attacked(dir)
  await server.start()
  let [n, wrong, taken, most] = [0, 0, 0, 0]
  const times: number[] = []
  const shelf: number[] = []
  let over = false
  const asking = (async () => {
    while (!over) {
      const from = performance.now()
      await (await fetch(`${server.url}/api/shelf`)).text()
      shelf.push(performance.now() - from)
      most = Math.max(most, server.memory())
      await new Promise((r) => setTimeout(r, 50))
    }
  })()
  for (const [name, bytes, may] of files()) {
    n++
    const from = performance.now()
    const answer = await fetch(`${server.url}/api/songs`, {
      method: 'PUT',
      body: new Uint8Array(bytes),
      headers: { 'x-file-name': encodeURIComponent(`${name}.mp3`.replaceAll('/', ' ')) },
    })
    const said = await answer.text()
    const ms = performance.now() - from
    times.push(ms)
    if (answer.ok) taken++
    const bad = (answer.ok && !may) || answer.status >= 500 || ms > 2000
    if (bad) {
      wrong++
      console.log(`${name}: ${answer.status} after ${ms.toFixed(0)} ms: ${said.slice(0, 120)}`)
    }
  }
  over = true
  await asking
  const left = readdirSync(path.join(dir, 'passing'))
  const audio = readdirSync(path.join(dir, 'audio')).length
  if (left.length) console.log('left behind:', left.join(' '))
  console.log(
    `${n} files: ${taken} taken as far as they go (${audio} kept), slowest answer ${Math.max(...times).toFixed(0)} ms, ` +
      `shelf meanwhile 95 % within ${percentile(shelf, 0.95).toFixed(0)} ms, server and readers at most ${most.toFixed(0)} MB; ${wrong + left.length} wrong`,
  )
  await server.kill()
  rmSync(dir, { recursive: true, force: true })
  process.exit(wrong + left.length ? 1 : 0)
}

main()
