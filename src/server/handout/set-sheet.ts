import { spawn } from 'node:child_process'
import path from 'node:path'
import * as v from 'valibot'
import type { SheetRow } from '@/core/handout'
import { boundedRun, LONGEST_MS } from '../bounded'
import { Problem } from '../problem'
import { yielding } from '../turns'
import type { Paper, SheetHead } from './sheet-pdf'

/** No sheet uses more: a dense one of sixty eights takes fifteen seconds of a processor. */
const BOUNDS = { seconds: 240, megabytes: 1500 }
/** What is written in a sheet's rows: so much is set in these seconds, and nobody reads more. A dense eight has some twenty. */
const MOST_PIECES = 4000
/** So many take a processor for long: only one of them is set at a time, and short ones beside it. */
const HEAVY = 300
const AT_ONCE = 2
const Told = v.object({ missing: v.array(v.string()) })

interface Waiting {
  pieces: number
  go: () => void
}
let waiting: Waiting[] = []
let running: number[] = []

/** Lets the next ones go: the shortest first, and of heavy ones one at a time. */
function next(): void {
  const heavy = (n: number) => n > HEAVY
  for (;;) {
    if (running.length >= AT_ONCE) return
    const free = waiting.filter((w) => !(heavy(w.pieces) && running.some(heavy)))
    const first = free.reduce<Waiting | null>((a, b) => (a && a.pieces <= b.pieces ? a : b), null)
    if (!first) return
    waiting = waiting.filter((w) => w !== first)
    running.push(first.pieces)
    first.go()
  }
}

async function inTurn<T>(pieces: number, work: () => Promise<T>): Promise<T> {
  await new Promise<void>((go) => {
    waiting.push({ pieces, go })
    next()
  })
  try {
    return await work()
  } finally {
    running = running.toSpliced(running.indexOf(pieces), 1)
    next()
  }
}

/** How much is written in some rows. */
const piecesOf = (rows: readonly SheetRow[]) =>
  rows.reduce(
    (sum, r) => sum + 1 + r.notes.length + r.lanes.reduce((n, l) => n + l.lines.flat().length, 0),
    0,
  )

/** @throws Problem 413 where it is more than can be set */
export function refuseTooMuch(rows: readonly SheetRow[]): void {
  const pieces = piecesOf(rows)
  if (pieces > MOST_PIECES)
    throw new Problem(
      413,
      `This sheet would hold ${pieces.toLocaleString('en')} rows, cues and notes; ${MOST_PIECES.toLocaleString('en')} are set at most. Choose a part of the dance, or leave the tips out.`,
    )
}

/** A sheet that was set, with letters no font has. */
export interface SheetMade {
  pdf: Buffer
  missing: string[]
}

/**
 * Sets a sheet in a process of its own, so that everything else is answered meanwhile.
 * @param signal ends it where nobody waits for it any more
 * @param script the program that sets it
 * @throws Problem 413 where it is more than can be set
 */
export async function setSheet(
  rows: readonly SheetRow[],
  head: SheetHead,
  paper: Paper,
  signal: AbortSignal,
  script = path.resolve(/* turbopackIgnore: true */ '.made/sheet.mjs'),
): Promise<SheetMade> {
  refuseTooMuch(rows)
  return inTurn(piecesOf(rows), () => run(JSON.stringify({ rows, head, paper }), signal, script))
}

/** A line of JSON and the PDF; null for anything else: what is thrown here would end the server. */
export function answerIn(all: Buffer): SheetMade | null {
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

function run(asked: string, signal: AbortSignal, script: string): Promise<SheetMade> {
  return new Promise((resolve, reject) => {
    const failed = () =>
      reject(
        new Problem(
          500,
          'The sheet could not be set: the program that sets it ended unexpectedly. Nothing was changed.',
          'failed',
        ),
      )
    const over = () =>
      reject(
        new Problem(
          413,
          'This sheet takes more time or memory than any does. Choose a part of the dance, or leave the tips out.',
        ),
      )
    if (signal.aborted) return failed()
    const { command, args, env } = boundedRun(script, [], BOUNDS)
    const child = yielding(
      spawn(command, args, { stdio: ['pipe', 'pipe', 'ignore'], timeout: LONGEST_MS, signal, env }),
    )
    const out: Buffer[] = []
    child.on('error', failed)
    child.stdin.on('error', () => {})
    child.stdout.on('data', (chunk: Buffer) => out.push(chunk))
    child.on('close', (code, ended) => {
      const answer = code === 0 ? answerIn(Buffer.concat(out)) : null
      if (answer) resolve(answer)
      else if (ended === 'SIGXCPU') over()
      else failed()
    })
    child.stdin.end(asked)
  })
}
