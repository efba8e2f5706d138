/* How long a lesson takes to lay out, as a ratio to reading the same routine from its JSON in the same run. */
import { alikes, moveBook, STARTING_MOVES } from '../../src/core/choreo'
import { layLesson } from '../../src/core/lesson'
import {
  type Cue,
  emptyRoutine,
  everyEight,
  layOut,
  placePhrases,
  readRoutine,
  USUAL,
} from '../../src/core/routine'

const WORDS = ['step', 'touch', 'cross', 'kick', 'sway', 'reach', 'turn right 1/2', 'roll', 'snap']
let n = 0
const id = () => `b${n++}`

/** A dance of so many eights, 14 cues each in three layers. */
function dance(eights: number) {
  const counts = 8 * eights
  const cues = Array.from({ length: 14 * eights }, (_, i): Cue => {
    const [eight, k] = [Math.floor(i / 14), i % 14]
    return {
      ...{ id: id(), at: eight * 192 + Math.floor(k / 2) * 24 + (k % 2 ? 12 : 0), length: 12, call: '' },
      layer: (['feet', 'arms', 'body'] as const)[k % 3] ?? 'feet',
      move: WORDS[(eight * 7 + k * k) % WORDS.length] ?? 'step',
      side: k % 2 ? 'left' : 'right',
    }
  })
  const laid = layOut(emptyRoutine('Bench'), { counts, starts: everyEight(0, counts), sections: [] }, id)
  return { ...laid, cues }
}

/** Middle of some runs, in milliseconds; each on a routine nobody has looked at. */
function middle(work: () => void, runs = 9): number {
  const times = Array.from({ length: runs }, () => {
    const from = performance.now()
    work()
    return performance.now() - from
  }).sort((a, b) => a - b)
  return times[runs >> 1] ?? 0
}

for (const [eights, chunk] of [
  [35, 'eight'],
  [35, 'four counts'],
  [35, 'two counts'],
  [35, 'hard'],
  [60, 'four counts'],
] as const) {
  const text = JSON.stringify(dance(eights))
  const times = Array.from({ length: eights * 8 + 1 }, (_, i) => i * 0.5)
  const fresh = () => JSON.parse(text) as ReturnType<typeof dance>
  const read = middle(() => readRoutine(JSON.parse(text)))
  const parse = middle(fresh)
  const plan =
    middle(() =>
      layLesson(fresh(), times, moveBook(STARTING_MOVES), { ...USUAL, chunk, minutes: 90 }, () => 0),
    ) - parse
  console.log(
    `${eights} eights, ${chunk}: ${plan.toFixed(0)} ms, ${(plan / read).toFixed(1)} times reading it (${read.toFixed(0)} ms)`,
  )
}
const large = JSON.stringify(dance(150))
const placed = placePhrases(dance(150))
const found = middle(() => alikes(JSON.parse(large), placed, moveBook(STARTING_MOVES)))
console.log(
  `what is written alike in 150 eights: ${found.toFixed(0)} ms, ${(found / middle(() => readRoutine(JSON.parse(large)))).toFixed(1)} times reading it`,
)
