/* npm run bench:places: findings of 60 dancers in 200 formations over 600 counts, against looking at every pair at every tick. */
import { moveBook, STARTING_MOVES } from '../../src/core/choreo'
import { cuesOfDancers, meetings, placeFindings, spotAt, standingOf } from '../../src/core/places'
import {
  addDancers,
  type Cue,
  danced,
  emptyRoutine,
  everyEight,
  layOut,
  placeDancers,
  type Routine,
  setSpace,
} from '../../src/core/routine'

const [DANCERS, FORMATIONS, COUNTS] = [60, 200, 600]

/** Numbers that look random and are the same each time (Park and Miller's generator). */
function dice(seed: number): () => number {
  let x = seed
  return () => {
    x = (x * 16807) % 2147483647
    return x / 2147483647
  }
}

const ids = (prefix: string) => {
  let n = 0
  return () => `${prefix}${n++}`
}

/** A crowd that stands on a grid of 1.2 m, everybody a little elsewhere in each formation. @param crossing who changes places with whom */
function crowd(crossing: number): Routine {
  const random = dice(7)
  const walks = Array.from(
    { length: COUNTS },
    (_, k): Cue => ({
      ...{ id: `w${k}`, at: 24 * k, length: 24, layer: 'feet', move: 'walk', call: '' },
      side: k % 2 ? 'left' : 'right',
    }),
  )
  const blank = layOut(
    emptyRoutine('Crowd'),
    { counts: COUNTS, starts: everyEight(0, COUNTS), sections: [] },
    ids('p'),
  )
  let r = addDancers({ ...blank, cues: walks }, DANCERS, ids('d'))
  for (let f = 0; f < FORMATIONS; f++) {
    const order = r.dancers.map((_, i) => i)
    for (let c = 0; c < crossing; c++) {
      const [a, b] = [Math.floor(random() * DANCERS), Math.floor(random() * DANCERS)]
      ;[order[a], order[b]] = [order[b] as number, order[a] as number]
    }
    const spots = r.dancers.map((d, i) => {
      const place = order[i] as number
      return {
        dancer: d.id,
        x: (place % 10) * 1.2 - 5.4 + random() * 0.4,
        y: Math.floor(place / 10) * 1.2 + 1 + random() * 0.4,
      }
    })
    r = placeDancers(r, f * 72, spots, ids(`f${f}-`))
  }
  return setSpace(r, { room: { width: 14, depth: 10 }, camera: { distance: 6, width: 14 } })
}

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
