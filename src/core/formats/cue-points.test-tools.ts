import { createRequire } from 'node:module'

/** Cue points of a WAV file as another package reads them: milliseconds and label. It is of the older kind of module. */
export function cuePoints(wav: Uint8Array): [number, string][] {
  const { WaveFile } = createRequire(import.meta.url)('wavefile') as typeof import('wavefile')
  const points = new WaveFile(wav).listCuePoints() as { position: number; label: string }[]
  return points.map((p) => [p.position, p.label])
}
