import type { Seconds } from '../time'
import { type BroughtGrid, FormatProblem, linesOf, type TimedText } from './problem'

/**
 * Reads beats as text: one time a line in seconds, after it, if wanted, the number of the beat, separated by blanks, tabs
 * a semicolon or a comma. In a file without any point, a comma between digits is the decimal one (`0,5`). Lines that begin
 * with # are remarks.
 * @throws FormatProblem naming the line
 */
export function readBeats(text: string): BroughtGrid {
  const beats: Seconds[] = []
  const numbers: number[] = []
  const lines = linesOf(text)
  const commas = !lines.some((l) => !l.trim().startsWith('#') && l.includes('.'))
  lines.forEach((raw, i) => {
    const line = raw.trim()
    if (!line || line.startsWith('#')) return
    const fail = (why: string) => new FormatProblem(why, i + 1)
    const plain = commas ? line.replace(/^([+-]?\d+),(\d+)/, '$1.$2') : line
    const [time = '', number, ...more] = plain.split(/[\s,;]+/)
    if (!NUMBER.test(time)) throw fail(`“${time.slice(0, 30)}” is not a time in seconds`)
    if (more.length) throw fail('more than a time and a number')
    const t = Number(time)
    if (beats.length && t <= (beats.at(-1) as number)) throw fail(`${time} is not later than the beat before`)
    if (number !== undefined) {
      if (!/^\d{1,2}(?:\.0*)?$/.test(number) || Number(number) < 1)
        throw fail(`“${number.slice(0, 30)}” is not the number of a beat`)
      numbers.push(Number(number))
    }
    beats.push(t)
    if (numbers.length && numbers.length !== beats.length)
      throw fail('some beats have a number and some have none')
  })
  if (beats.length < 2) throw new FormatProblem('The file names fewer than two beats.')
  return { beats, numbers: numbers.length ? numbers : null, sections: [] }
}

const NUMBER = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?$/i

/** Prints beats with their numbers; times in full, so that reading them gives exactly the same. */
export function printBeats(beats: readonly Seconds[], numbers: readonly number[]): string {
  return beats.map((t, i) => `${t}\t${numbers[i]}\n`).join('')
}

/**
 * Reads a label file: start, end and text a line, separated by tabs; a line of two numbers and a text without tabs is
 * read too. A start alone with a text is a label without length.
 * @throws FormatProblem naming the line
 */
export function readLabels(text: string): TimedText[] {
  const out: TimedText[] = []
  const timeOf = (cell: string) => cell.replace(/^([+-]?\d+),(\d+)$/, '$1.$2')
  linesOf(text).forEach((raw, i) => {
    // A backslash begins the line of frequencies that some programs add below a label.
    if (!raw.trim() || raw.startsWith('#') || raw.startsWith('\\')) return
    const fail = (why: string) => new FormatProblem(why, i + 1)
    const cells = raw.includes('\t') ? raw.split('\t') : raw.trim().split(/\s+/)
    const [start = '', second = ''] = cells.slice(0, 2).map((c) => timeOf(c.trim()))
    if (!NUMBER.test(start)) throw fail(`“${start.slice(0, 30)}” is not a time in seconds`)
    const has = NUMBER.test(second) && (cells.length > 2 || raw.includes('\t'))
    const words = cells
      .slice(has ? 2 : 1)
      .join(raw.includes('\t') ? '\t' : ' ')
      .trim()
    const [a, b] = [Number(start), has ? Number(second) : Number(start)]
    if (b < a) throw fail('the end lies before the start')
    out.push({ start: a, end: has && b > a ? b : null, text: words })
  })
  if (!out.length) throw new FormatProblem('The file holds no labels.')
  return out.sort((a, b) => a.start - b.start)
}

/** Prints a label file: start, end and text, separated by tabs. */
export function printLabels(list: readonly TimedText[]): string {
  return list.map((t) => `${t.start}\t${t.end ?? t.start}\t${t.text.replace(/[\t\r\n]/g, ' ')}\n`).join('')
}
