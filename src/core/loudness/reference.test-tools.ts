/* Another program's measures, from the registry: ebur128-wasm, a port of libebur128. Its exports are called as they are, since what it
   wraps around them is for bundlers. */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

type Measure = 'integrated' | 'true_peak'
type Program = Record<
  `ebur128_${Measure}_${'mono' | 'stereo'}`,
  (rate: number, ...sound: number[]) => number
> & {
  memory: WebAssembly.Memory
  __wbindgen_malloc: (bytes: number) => number
}

const file = createRequire(import.meta.url).resolve('ebur128-wasm/ebur128_wasm_bg.wasm')
const module = await WebAssembly.compile(readFileSync(file))
/** Only called where it fails. */
const failed = (name: string) => () => {
  throw new Error(`ebur128-wasm failed: ${name}`)
}
const asked = WebAssembly.Module.imports(module)
const { exports } = await WebAssembly.instantiate(
  module,
  Object.fromEntries(
    [...new Set(asked.map((i) => i.module))].map((m) => [
      m,
      Object.fromEntries(asked.filter((i) => i.module === m).map(({ name }) => [name, failed(name)])),
    ]),
  ),
)
const program = exports as unknown as Program

/** Loudness in LUFS, and true peak in decibels of full scale. @param channels one or two */
export function measuredElsewhere(channels: readonly Float32Array[], rate: number) {
  const measure = (what: Measure) => {
    // What is handed over is freed there.
    const sound = channels.flatMap((c) => {
      const at = program.__wbindgen_malloc(c.length * 4)
      new Float32Array(program.memory.buffer, at, c.length).set(c)
      return [at, c.length]
    })
    return program[`ebur128_${what}_${channels.length === 1 ? 'mono' : 'stereo'}`](rate, ...sound)
  }
  return { lufs: measure('integrated'), peak: measure('true_peak') }
}
