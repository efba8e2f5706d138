import * as v from 'valibot'
import type { Seconds } from '../time'
import { parseJson } from './decode-json'
import { type BroughtGrid, FormatProblem, type TimedText } from './problem'

const Observation = v.object({
  time: v.pipe(v.number(), v.finite()),
  duration: v.optional(v.nullable(v.number()), 0),
  value: v.unknown(),
})
const Dense = v.object({
  time: v.array(v.pipe(v.number(), v.finite())),
  duration: v.array(v.number()),
  value: v.array(v.unknown()),
})
const File = v.object({
  annotations: v.array(v.object({ namespace: v.string(), data: v.union([v.array(Observation), Dense]) })),
})

type Observed = v.InferOutput<typeof Observation>

/**
 * Reads beats and segments of a JAMS file (Humphrey et al., ISMIR 2014, "JAMS: A JSON Annotated Music Specification";
 * namespaces `beat`, `beat_position` and those that begin with `segment`). The first annotation of each is taken.
 * @throws FormatProblem
 */
export function readJams(text: string): BroughtGrid {
  let json: unknown
  try {
    json = parseJson(text)
  } catch (e) {
    throw new FormatProblem(`This is not a JSON file: ${e instanceof Error ? e.message : e}`)
  }
  const file = v.safeParse(File, json)
  if (!file.success) {
    const [issue] = file.issues
    throw new FormatProblem(`${v.getDotPath(issue) ?? 'The file'}: ${issue.message}`)
  }
  const first = (wanted: (namespace: string) => boolean): Observed[] => {
    const found = file.output.annotations.find((a) => wanted(a.namespace))
    if (!found) return []
    const { data } = found
    const list = Array.isArray(data)
      ? data
      : data.time.map((time, i) => ({ time, duration: data.duration[i] ?? 0, value: data.value[i] }))
    return [...list].sort((a, b) => a.time - b.time)
  }
  const marked = first((n) => n === 'beat' || n === 'beat_position')
  const segments = first((n) => n.startsWith('segment'))
  if (!marked.length && !segments.length) throw new FormatProblem('The file has neither beats nor segments.')
  const numbers = marked.map((o) => numberOf(o.value))
  const same = marked.findIndex((o, i) => i > 0 && o.time <= (marked[i - 1] as Observed).time)
  if (same > 0) throw new FormatProblem(`Two beats lie at ${marked[same]?.time} s.`)
  if (marked.length === 1) throw new FormatProblem('The file names fewer than two beats.')
  return {
    beats: marked.map((o) => o.time),
    numbers: numbers.length && numbers.every((n) => n !== null) ? (numbers as number[]) : null,
    sections: segments.map((o) => ({
      start: o.time,
      end: o.duration && o.duration > 0 ? o.time + o.duration : null,
      text: labelOf(o.value),
    })),
  }
}

function numberOf(value: unknown): number | null {
  const n =
    typeof value === 'object' && value !== null && 'position' in value ? Number(value.position) : value
  return typeof n === 'number' && Number.isInteger(n) && n >= 1 && n <= 32 ? n : null
}

function labelOf(value: unknown): string {
  if (typeof value === 'string') return value
  return typeof value === 'object' && value !== null && 'label' in value ? String(value.label) : ''
}

/** What a JAMS file says of the song itself. */
export interface JamsSong {
  title: string
  artist: string
  duration: Seconds
}

/** Prints beats and sections as a JAMS file; times in full, so that reading them gives exactly the same. */
export function printJams(
  song: JamsSong,
  beats: readonly Seconds[],
  numbers: readonly number[],
  sections: readonly TimedText[],
): string {
  const annotation = (namespace: string, data: unknown[]) => ({
    namespace,
    data,
    annotation_metadata: { annotation_tools: 'Azalea', data_source: 'heard, set right by hand' },
    sandbox: {},
    time: 0,
    duration: song.duration,
  })
  const file = {
    annotations: [
      annotation(
        'beat',
        beats.map((time, i) => ({ time, duration: 0, value: numbers[i], confidence: null })),
      ),
      annotation(
        'segment_open',
        sections.map((s) => ({
          time: s.start,
          duration: s.end === null ? 0 : s.end - s.start,
          value: s.text,
          confidence: null,
        })),
      ),
    ],
    file_metadata: {
      title: song.title,
      artist: song.artist,
      release: '',
      duration: song.duration,
      identifiers: {},
      jams_version: '0.3.4',
    },
    sandbox: {},
  }
  return `${JSON.stringify(file, null, 1)}\n`
}
