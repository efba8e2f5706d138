/** A text of at most so many units (UTF-16), cut between the characters people see (Unicode Standard Annex #29). */
export function cutText(text: string, most: number): string {
  if (text.length <= most) return text
  // Made where it is needed: hardly any text is that long.
  const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' })
  let out = ''
  for (const { segment } of graphemes.segment(text.slice(0, most + 64))) {
    if (out.length + segment.length > most) break
    out += segment
  }
  return out
}
