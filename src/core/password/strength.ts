import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'
import type { Score, Strength } from './chosen'

/* How easily a password is guessed. Loads a list of 49,000 passwords that many use: pages load this module only where one is chosen. */

/** What is guessed within a million tries is refused (OWASP ASVS 4.0.3, 2.1.7; NIST SP 800-63B, 5.1.1.2). */
const REFUSED: Score = 1

const WHY: Readonly<Record<string, string>> = {
  common: 'many use it',
  topTen: 'many use it',
  topHundred: 'many use it',
  similarToCommon: 'many use one like it',
  pwned: 'many use it',
  simpleRepeat: 'the same letter again and again',
  extendedRepeat: 'the same few letters again and again',
  straightRow: 'keys that lie in a row',
  keyPattern: 'keys that lie side by side',
  sequences: 'letters that follow one another',
  recentYears: 'a year',
  dates: 'a date',
  associatedYears: 'a year',
  userInputs: 'your own name or address',
  wordByItself: 'one word alone',
  namesByThemselves: 'a name alone',
  commonNames: 'a name alone',
}

let made: ZxcvbnFactory | null = null
function estimator(): ZxcvbnFactory {
  made ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs })
  return made
}

/**
 * How easily a password is guessed.
 * @param own words whoever chooses it is known by: a name, an address
 */
export function strengthOf(password: string, own: readonly string[] = []): Strength {
  const words = own.flatMap((word) => [word, ...word.split(/[^\p{L}\p{N}]+/u)]).filter((w) => w.length > 2)
  const { score, feedback } = estimator().check(password.normalize('NFKC'), ['azalea', ...words])
  return { score, why: (score <= REFUSED + 1 && feedback.warning && WHY[feedback.warning]) || '' }
}

/** Why a password is not taken, in words for people; '' where it is. */
export function refusalOfPassword(password: string, own: readonly string[] = []): string {
  const { score, why } = strengthOf(password, own)
  if (score > REFUSED) return ''
  return `That password is easily guessed${why && `: ${why}`}. Take some words that nobody would look for together.`
}
