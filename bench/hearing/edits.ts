/*
 * npm run bench:edits: songs made shorter for a class or a show, two stretches cut out of each: from eight to eight, one or both of an odd
 * number of bars, from beat to beat, and anywhere. Of the bench's plain songs.
 */
import { cutTogether, type Mix, plainSongs, printHeard, type Stretch } from './cut-together'
import type { Rendered } from './render'
import { nearest } from './scores'
import { chance } from './spoil'

const CUTS = ['eights', 'one odd', 'both odd', 'beats', 'any'] as const
type Cut = (typeof CUTS)[number]

/** What is left of a song: three stretches, the same every time. */
function leftOf(song: Rendered, cut: Cut): Stretch[] {
  const id = `${song.id} ${cut}`
  const { beats, downbeats, eights, end } = song.truth
  const bars = downbeats ?? []
  const list = { eights: eights ?? [], 'one odd': bars, 'both odd': bars, beats, any: beats }[cut]
  const put = (t: number) =>
    cut === 'any' ? t + 2 * (chance(id + t) - 0.5) : (list[nearest(list, t)] as number)
  const at = (share: number, name: string) => put(share * end + 3 * chance(id + name))
  const [a, c] = [at(0.28, 'a'), at(0.62, 'c')]
  /** So many bars after another, or one more: an odd number of them, or an even one. */
  const after = (from: number, to: number, odd: boolean) => {
    if (!cut.endsWith('odd')) return to
    const [i, k] = [bars.indexOf(from), bars.indexOf(to)]
    return (k - i) % 2 === Number(odd) ? to : (bars[k + 1] ?? to)
  }
  const [b, d] = [after(a, at(0.42, 'b'), true), after(c, at(0.72, 'd'), cut === 'both odd')]
  return [
    { song, from: 0, to: a },
    { song, from: b, to: c },
    { song, from: d, to: end },
  ]
}

function* edits(songs: readonly Rendered[], cut: Cut): Generator<Mix> {
  for (const song of songs) yield cutTogether(`${song.id} ${cut}`, leftOf(song, cut))
}

plainSongs(process.argv.includes('--report') ? 'report' : 'dev')
  .then((songs) => {
    const only = process.argv.find((a) => CUTS.some((c) => c === a))
    for (const cut of CUTS) if (!only || only === cut) printHeard(`songs cut: ${cut}`, edits(songs, cut))
  })
  .catch((error: unknown) => {
    console.error(error)
    process.exit(1)
  })
