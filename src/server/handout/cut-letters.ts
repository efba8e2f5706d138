import { spawn } from 'node:child_process'
import path from 'node:path'
import * as v from 'valibot'
import { type PageLetters, PageLettersSchema } from '@/core/handout'
import { foreignLetters, lettersFor } from '@/core/writing'
import { boundedRun, LONGEST_MS } from '../bounded'
import { turns, yielding } from '../turns'

/** Five hundred letters of Han take three seconds of a processor. */
const BOUNDS = { seconds: 60, megabytes: 800 }
/** Cut for the pages that were asked for last: a page is made anew with each change of what is in it. */
const KEPT = 12

const kept = new Map<string, PageLetters>()
const inTurn = turns(1, 50, 'Too many pages are being made just now. Ask again in a moment.')

/**
 * The letters of other scripts that words need, cut in a process of its own. Where that fails the page is made without them, and
 * set with the fonts of the learner's machine.
 * @param script the program that cuts them
 * @throws Problem 503 where too many wait
 */
export async function cutLetters(
  words: string,
  script = path.resolve(/* turbopackIgnore: true */ '.made/letters.mjs'),
): Promise<PageLetters> {
  if (!lettersFor(words).length) return []
  const letters = [...foreignLetters(words)].sort().join('')
  const known = kept.get(letters)
  if (known) return known
  const cut = await inTurn(() => run(letters, script))
  if (!cut) {
    console.warn('Letters of a practice page could not be cut; it is made without them.')
    return []
  }
  kept.set(letters, cut)
  for (const oldest of kept.keys()) {
    if (kept.size <= KEPT) break
    kept.delete(oldest)
  }
  return cut
}

/** What the process answers; null where it ended otherwise than well. */
function run(letters: string, script: string): Promise<PageLetters | null> {
  return new Promise((resolve) => {
    const { command, args, env } = boundedRun(script, [], BOUNDS)
    const child = yielding(
      spawn(command, args, { stdio: ['pipe', 'pipe', 'ignore'], timeout: LONGEST_MS, env }),
    )
    const out: Buffer[] = []
    child.on('error', () => resolve(null))
    child.stdin.on('error', () => {})
    child.stdout.on('data', (chunk: Buffer) => out.push(chunk))
    child.on('close', (code) => {
      const answer = v.safeParse(
        v.pipe(v.string(), v.parseJson(), PageLettersSchema),
        Buffer.concat(out).toString('utf8'),
      )
      resolve(code === 0 && answer.success ? answer.output : null)
    })
    child.stdin.end(letters)
  })
}
