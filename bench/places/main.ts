/* npm run bench:places: findings of 60 dancers in 200 formations over 600 counts, against looking at every pair at every tick. */
import { moveBook, STARTING_MOVES } from '../../src/core/choreo'
import { cuesOfDancers, meetings, placeFindings, spotAt, standingOf } from '../../src/core/places'
import { danced, type Formation, type Routine } from '../../src/core/routine'
import { COUNTS, crowd, DANCERS } from './crowd'

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0

/** The median of what some work takes, in milliseconds. @param given what each of them is done with, made before */
function timed<T>(given: readonly T[], work: (x: T) => unknown): number {
  const took: number[] = []
  for (const x of given) {
    const begun = performance.now()
    work(x)
    took.push(performance.now() - begun)
  }
  return median(took)
}

const times = (n: number) => Array.from({ length: n }, (_, k) => k)

/** The same with nothing known of it: no list of places is one that was looked at before. */
const unseen = (r: Routine): Routine => ({
  ...r,
  formations: r.formations.map((f) => ({ ...f, spots: f.spots.map((s) => ({ ...s })) })),
})

/** One dancer of one formation stands 10 cm further, as after an edit. */
const moved = (r: Routine, k: number): Routine => ({
  ...r,
  formations: r.formations.map((f, i): Formation => {
    if (i !== (37 * k) % r.formations.length) return f
    return { ...f, spots: f.spots.map((s, j) => (j === k % f.spots.length ? { ...s, x: s.x + 0.1 } : s)) }
  }),
})

const book = moveBook(STARTING_MOVES)
console.log(
  '| crowd | findings | first, ms | after an edit, ms | meetings ms | every pair at every tick ms | as fast |',
)
console.log('| --- | --- | --- | --- | --- | --- | --- |')
for (const crossing of [0, 4]) {
  const r = crowd(crossing)
  const standing = standingOf(r.formations, cuesOfDancers(r.dancers, danced(r)), book)
  const first = timed(
    times(15).map(() => unseen(r)),
    (x) => placeFindings(x, book),
  )
  placeFindings(r, book)
  const edited = timed(
    times(15).map((k) => moved(r, k)),
    (x) => placeFindings(x, book),
  )
  const own = timed(times(15), () => meetings(standing))
  const brute = timed([0], () => {
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
    `| ${crossing ? `${crossing} pairs change places` : 'nobody crosses'} | ${placeFindings(r, book).length} | ${first.toFixed(0)} | ${edited.toFixed(0)} | ${own.toFixed(0)} | ${brute.toFixed(0)} | ${(brute / own).toFixed(0)} × |`,
  )
}
