/* What is known of a password that is chosen, without the list it is looked up in (strength.ts). */

/** Letters of a password somebody chooses, at least and at most (OWASP ASVS 4.0.3, 2.1.1 and 2.1.2). */
export const SHORTEST_PASSWORD = 12
export const LONGEST_PASSWORD = 128

/** From 0, guessed at once, to 4, very hard to guess (D. L. Wheeler: zxcvbn, USENIX Security 2016). */
export type Score = 0 | 1 | 2 | 3 | 4

export interface Strength {
  score: Score
  /** Why it is guessed soon, after “: ”; '' where it is not, or nothing is to be said. */
  why: string
}
