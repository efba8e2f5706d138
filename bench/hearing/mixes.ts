/*
 * npm run bench:mixes: mixes as dance teams have them cut, some eights of one song after some of another, each at its own tempo. Of the
 * bench's plain songs, cut at their eights.
 */
import { cutTogether, type Mix, plainSongs, printHeard, type Stretch } from './cut-together'
import type { Rendered } from './render'
import { chance } from './spoil'

/** Between half a minute and a minute of a song, from one eight to another; the same every time. */
function stretchOf(song: Rendered, seed: string): Stretch {
  const starts = (song.truth.eights ?? []).filter((t) => t < song.truth.end - 0.5)
  const eight = ((starts.at(-1) ?? 0) - (starts[0] ?? 0)) / Math.max(1, starts.length - 1)
  const many = Math.min(starts.length - 2, Math.round((28 + 24 * chance(`${seed} long`)) / eight))
  const first = 1 + Math.floor((starts.length - 1 - many) * chance(`${seed} from`))
  return { song, from: starts[first] as number, to: starts[first + many] as number }
}

function mixes(half: 'dev' | 'report', songs: readonly Rendered[], many: number): Mix[] {
  return Array.from({ length: many }, (_, i) => {
    const id = `${half}-mix-${i + 1}`
    const order = [...songs].sort((a, b) => chance(`${id} ${a.id}`) - chance(`${id} ${b.id}`))
    return cutTogether(
      id,
      order.slice(0, 2 + (i % 3)).map((song, k) => stretchOf(song, `${id} ${k}`)),
    )
  })
}

const half = process.argv.includes('--report') ? 'report' : 'dev'
plainSongs(half)
  .then((songs) => printHeard('mixes', mixes(half, songs, 12)))
  .catch((error: unknown) => {
    console.error(error)
    process.exit(1)
  })
