/*
 * npm run bench:edits: songs made shorter for a class or a show, two stretches cut out of each: from eight to eight, from beat to beat, and
 * anywhere. Of the bench's plain songs.
 */
import { cutTogether, type Mix, plainSongs, printHeard, type Stretch } from './cut-together'
import type { Rendered } from './render'
import { nearest } from './scores'
import { chance } from './spoil'

const CUTS = ['eights', 'beats', 'any'] as const
type Cut = (typeof CUTS)[number]

/** What is left of a song: three stretches, the same every time. */
function leftOf(song: Rendered, cut: Cut): Stretch[] {
  const id = `${song.id} ${cut}`
  const { beats, eights, end } = song.truth
  const list = cut === 'eights' ? (eights ?? []) : beats
  const put = (t: number) =>
    cut === 'any' ? t + 2 * (chance(id + t) - 0.5) : (list[nearest(list, t)] as number)
  const at = (share: number, name: string) => put(share * end + 3 * chance(id + name))
  const [a, b, c, d] = [at(0.28, 'a'), at(0.42, 'b'), at(0.62, 'c'), at(0.72, 'd')]
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
    for (const cut of CUTS) printHeard(`songs cut from ${cut} to ${cut}`, edits(songs, cut))
  })
  .catch((error: unknown) => {
    console.error(error)
    process.exit(1)
  })
