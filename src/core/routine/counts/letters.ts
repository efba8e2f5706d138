/** The letter of a number from 0: A to Z, then AA to ZZ, then AAA. Three letters are enough for 18,000 sections. */
export function letterOf(n: number): string {
  const last = String.fromCharCode(65 + (n % 26))
  return n < 26 ? last : letterOf(Math.floor(n / 26) - 1) + last
}

/** The next unused letter. */
export function nextLetter(sections: readonly { letter: string }[]): string {
  const used = new Set(sections.map((s) => s.letter))
  for (let n = 0; ; n++) if (!used.has(letterOf(n))) return letterOf(n)
}
