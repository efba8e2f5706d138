import { spawn } from 'node:child_process'
import path from 'node:path'
import * as v from 'valibot'
import type { SheetRow } from '@/core/handout'
import { Problem } from '../problem'
import { yielding } from '../turns'
import type { Paper, SheetHead } from './sheet-pdf'

/** Longer than this no sheet takes; a dense one of sixty eights takes fifteen seconds on a slow machine. */
const MOST_MS = 180_000
const Told = v.object({ missing: v.array(v.string()) })

/** One sheet at a time: each takes a whole processor. */
let last: Promise<unknown> = Promise.resolve()

/**
 * Sets a sheet in a process of its own, so that everything else is answered meanwhile.
 * @param signal ends it where nobody waits for it any more
 */
export function setSheet(
  rows: readonly SheetRow[],
  head: SheetHead,
  paper: Paper,
  signal: AbortSignal,
): Promise<{ pdf: Buffer; missing: string[] }> {
  const mine = last.then(() => run(JSON.stringify({ rows, head, paper }), signal))
  last = mine.catch(() => {})
  return mine
}

/** A line of JSON and the PDF; null for anything else: what is thrown here would end the server. */
export function answerIn(all: Buffer): { pdf: Buffer; missing: string[] } | null {
  const line = all.indexOf(10)
  if (line < 0) return null
  try {
    const { missing } = v.parse(Told, JSON.parse(all.subarray(0, line).toString('utf8')))
    const pdf = all.subarray(line + 1)
    return pdf.subarray(0, 5).toString('latin1') === '%PDF-' ? { pdf, missing } : null
  } catch {
    return null
  }
}

function run(asked: string, signal: AbortSignal): Promise<{ pdf: Buffer; missing: string[] }> {
  return new Promise((resolve, reject) => {
    const failed = () =>
      reject(new Problem(500, 'The sheet could not be set. Nothing was changed; try again.', 'failed'))
    if (signal.aborted) return failed()
    const script = path.resolve(/* turbopackIgnore: true */ '.made/sheet.mjs')
    const child = yielding(
      spawn(process.execPath, ['--no-warnings', script], {
        stdio: ['pipe', 'pipe', 'ignore'],
        timeout: MOST_MS,
        signal,
      }),
    )
    const out: Buffer[] = []
    child.on('error', failed)
    child.stdin.on('error', () => {})
    child.stdout.on('data', (chunk: Buffer) => out.push(chunk))
    child.on('close', (code) => {
      const answer = code === 0 ? answerIn(Buffer.concat(out)) : null
      if (answer) resolve(answer)
      else failed()
    })
    child.stdin.end(asked)
  })
}
