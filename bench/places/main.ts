/* npm run bench:places: findings of 60 dancers in 200 formations over 600 counts, against looking at every pair at every tick. */
import { moveBook, STARTING_MOVES } from '../../src/core/choreo'
import { cuesOfDancers, meetings, placeFindings, spotAt, standingOf } from '../../src/core/places'
import { danced } from '../../src/core/routine'
import { COUNTS, crowd, DANCERS } from './crowd'

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0

function timed(times: number, work: () => unknown): number {
  const took: number[] = []
  for (let i = 0; i < times; i++) {
    const begun = performance.now()
    work()
    took.push(performance.now() - begun)
  }
  return median(took)
}

const book = moveBook(STARTING_MOVES)
console.log('| crowd | findings | ms | meetings ms | every pair at every tick ms | as fast |')
console.log('| --- | --- | --- | --- | --- | --- |')
for (const crossing of [0, 4]) {
  const r = crowd(crossing)
  const standing = standingOf(r.formations, cuesOfDancers(r.dancers, danced(r)), book)
  const all = timed(9, () => placeFindings({ ...r }, book))
  const own = timed(9, () => meetings(standing))
  const brute = timed(1, () => {
    let n = 0
    for (let t = 0; t < 24 * COUNTS; t++) {
      const spots = r.dancers.map((d) => spotAt(standing, d.id, t))
      for (let i = 0; i < DANCERS; i++)
        for (let j = i + 1; j < DANCERS; j++) {
          const [a, b] = [spots[i], spots[j]]
          if (a && b && Math.hypot(a.x - b.x, a.y - b.y) < 0.5) n++
        }
    }
    return n
  })
  console.log(
    `| ${crossing ? `${crossing} pairs change places` : 'nobody crosses'} | ${placeFindings(r, book).length} | ${all.toFixed(0)} | ${own.toFixed(0)} | ${brute.toFixed(0)} | ${(brute / own).toFixed(0)} × |`,
  )
}
