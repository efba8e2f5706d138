/* A crowd for the benches of places: 60 dancers in 200 formations over 600 counts of walking. */
import {
  addDancers,
  type Cue,
  emptyRoutine,
  everyEight,
  layOut,
  placeDancers,
  type Routine,
  setSpace,
} from '../../src/core/routine'

export const [DANCERS, FORMATIONS, COUNTS] = [60, 200, 600]

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
export function crowd(crossing: number): Routine {
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
