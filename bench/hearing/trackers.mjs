/* Reference trackers from the registry, run in a process of their own: node trackers.mjs NAME FILE.wav. Never shipped. */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const [name, file] = process.argv.slice(2)
const require = createRequire(import.meta.url)

/** 16-bit WAV as one channel. */
function mono(path) {
  const b = readFileSync(path)
  const channels = b.readUInt16LE(22)
  const rate = b.readUInt32LE(24)
  const at = b.indexOf('data') + 8
  const n = Math.floor((b.length - at) / 2 / channels)
  const out = new Float32Array(n)
  for (let i = 0; i < n; i++)
    for (let c = 0; c < channels; c++) out[i] += b.readInt16LE(at + 2 * (i * channels + c)) / 32768 / channels
  return { rate, out }
}

const { rate, out } = mono(file)
const started = process.hrtime.bigint()
let heard
if (name === 'music-tempo') {
  const MusicTempo = require('music-tempo')
  try {
    const { tempo, beats } = new MusicTempo(out)
    heard = { tempo: Number(tempo), beats: [...beats] }
  } catch {
    heard = { tempo: 0, beats: [] }
  }
} else {
  const { Essentia, EssentiaWASM } = require('essentia.js')
  const essentia = new Essentia(EssentiaWASM)
  const method = name === 'essentia-degara' ? 'degara' : 'multifeature'
  const r = essentia.RhythmExtractor2013(essentia.arrayToVector(out), 208, method, 40)
  heard = { tempo: r.bpm, beats: [...essentia.vectorToArray(r.ticks)] }
}
if (rate !== 44100) throw new Error('the trackers expect 44.1 kHz')
// None of them names downbeats: every fourth beat from the first stands for a bar, every eighth for an eight.
const every = (n) => heard.beats.filter((_, i) => i % n === 0)
const seconds = Number(process.hrtime.bigint() - started) / 1e9
process.stdout.write(JSON.stringify({ ...heard, downbeats: every(4), eights: every(8), seconds }))
process.exit(0)
