import type { PageLetters } from '@/core/handout'

const bytesOf = (base64: string) => Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
const rangeOf = (letters: string) => [...letters].map((c) => `U+${c.codePointAt(0)?.toString(16)}`).join(',')

/** Gives the page the letters that came with it. One that a browser cannot read is left to the machine's own fonts. */
export function loadLetters(all: PageLetters): void {
  for (const { letters, regular, bold } of all)
    for (const [weight, font] of [
      ['400', regular],
      ['600 800', bold],
    ] as const) {
      const face = new FontFace('Letters', bytesOf(font), { weight, unicodeRange: rangeOf(letters) })
      document.fonts.add(face)
      face.load().catch(() => document.fonts.delete(face))
    }
}
