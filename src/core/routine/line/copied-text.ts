import { TICKS_PER_COUNT } from '../../time'
import { LAYERS, type Layer } from '../document/layers'
import type { Copied } from '../edits/cue-edits'
import { Refused } from '../gate/refused'
import { type LinePhrase, LineProblem } from './line'
import { lineCue, printLine } from './line-print'
import { parseLine } from './shorthand'

/** What was copied is written as eights of its own: its first count is 1. */
const EIGHT: LinePhrase = { length: 8, feel: 'straight', first: 1 }
const SPAN = EIGHT.length * TICKS_PER_COUNT
/** A line's layer, before its cues. */
const PREFIX = new RegExp(`^(${LAYERS.join('|')})\\s*:\\s*`, 'i')

/** What was copied as a text for any editor: a line a layer, an empty line between two eights. */
export function printCopied({ cues, length }: Copied): string {
  const blocks: string[] = []
  for (let from = 0; from < Math.max(1, length); from += SPAN) {
    const lines = LAYERS.flatMap((layer) => {
      const own = cues.filter((c) => c.layer === layer && c.at >= from && c.at < from + SPAN)
      return own.length
        ? [
            `${layer}: ${printLine(
              own.map((c) => lineCue({ ...c, id: '-' }, from)),
              EIGHT,
            )}`,
          ]
        : []
    })
    blocks.push(lines.join('\n') || '-')
  }
  return blocks.join('\n\n')
}

/**
 * Reads such a text back, or lines somebody typed elsewhere. What a line cannot say (a tip, a level) is not in it.
 * @param layer of lines that name none
 * @throws Refused naming the line that cannot be read
 */
export function readCopied(text: string, layer: Layer): Copied {
  const cues: Copied['cues'][number][] = []
  const blocks = text.trim().split(/\r?\n\s*\r?\n/)
  blocks.forEach((block, i) => {
    for (const raw of block.split(/\r?\n/)) {
      const line = raw.trim()
      if (!line || line === '-') continue
      const named = PREFIX.exec(line)
      const own = (named?.[1]?.toLowerCase() as Layer | undefined) ?? layer
      try {
        for (const { role, option, ...c } of parseLine(line.slice(named?.[0].length ?? 0), EIGHT))
          cues.push({
            ...c,
            at: c.at + i * SPAN,
            layer: own,
            ...(role ? { role } : {}),
            ...(option ? { option } : {}),
          })
      } catch (error) {
        if (!(error instanceof LineProblem)) throw error
        throw new Refused(`“${line.slice(0, 60)}” is no line of cues. ${error.message}`)
      }
    }
  })
  if (!cues.length) throw new Refused('There are no cues in what was copied.')
  return { length: blocks.length * SPAN, cues }
}
