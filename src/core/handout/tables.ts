import {
  cueText,
  labelIn,
  mirrorText,
  partAt,
  phraseAt,
  placeName,
  placePhrases,
  type Routine,
} from '../routine'
import { type Seconds, TICKS_PER_COUNT, timeOfTick } from '../time'
import { type Contents, cuesFor, everyCueFor } from './contents'

/** A table for a spreadsheet: the names of its columns, and its rows. */
export interface Table {
  name: string
  columns: readonly string[]
  rows: (string | number)[][]
}

const tenth = (s: Seconds) => Math.round(s * 1000) / 1000

/**
 * A row a cue: where, when, and everything that is said of it.
 * @param every cues of all roles and versions, not what one dancer does
 */
export function cueTable(
  routine: Routine,
  times: readonly Seconds[],
  contents: Contents,
  every = false,
): Table {
  const placed = placePhrases(routine)
  const { mirrored } = contents
  const turned = (text: string) => (mirrored ? mirrorText(text) : text)
  return {
    name: 'Cues',
    columns: [
      ...[
        'Place',
        'Part',
        'Count',
        'Seconds',
        'Counts long',
        'Layer',
        'Move',
        'Called as',
        'Role',
        'Version',
      ],
      ...['Level', 'Quality', 'Look', 'Caution', 'Tip', 'Usual mistake', 'Danced again'],
    ],
    rows: (every ? everyCueFor : cuesFor)(routine, contents).map((c) => {
      const p = phraseAt(placed, c.at)
      return [
        p ? placeName(p) : '',
        partAt(routine.parts, c.at)?.name ?? '',
        p ? labelIn(p, c.at) : '',
        tenth(timeOfTick(times, c.at)),
        Math.round((c.length / TICKS_PER_COUNT) * 1000) / 1000,
        c.layer,
        cueText(c, mirrored),
        turned(c.call),
        c.role ?? '',
        c.option ?? 'base',
        c.level ?? '',
        turned(c.quality ?? ''),
        turned(c.look ?? ''),
        c.caution ?? '',
        turned(c.tip ?? ''),
        turned(c.mistake ?? ''),
        c.link ? 'yes' : '',
      ]
    }),
  }
}

/** A row a count: its place, its time, and what each layer does on it. */
export function countTable(routine: Routine, times: readonly Seconds[], contents: Contents): Table {
  const placed = placePhrases(routine)
  const cues = cuesFor(routine, contents)
  const layers = [...new Set(cues.map((c) => c.layer))]
  const countOf = (tick: number) => Math.floor(tick / TICKS_PER_COUNT) * TICKS_PER_COUNT
  const on = new Map<number, typeof cues>()
  for (const c of cues) {
    const count = countOf(c.at)
    const here = on.get(count)
    if (here) here.push(c)
    else on.set(count, [c])
  }
  const rows: (string | number)[][] = []
  const { from, to } = contents.stretch
  for (let t = countOf(from); t < to; t += TICKS_PER_COUNT) {
    const p = phraseAt(placed, t)
    if (!p) continue
    const here = on.get(t) ?? []
    rows.push([
      placeName(p),
      partAt(routine.parts, t)?.name ?? '',
      labelIn(p, t),
      tenth(timeOfTick(times, t)),
      ...layers.map((layer) =>
        here
          .filter((c) => c.layer === layer)
          .map(
            (c) => `${c.at % TICKS_PER_COUNT ? `${labelIn(p, c.at)} ` : ''}${cueText(c, contents.mirrored)}`,
          )
          .join('; '),
      ),
    ])
  }
  return { name: 'Counts', columns: ['Place', 'Part', 'Count', 'Seconds', ...layers], rows }
}
