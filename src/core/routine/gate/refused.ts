/** An edit that cannot be made, in words for people: what is in the way. Nothing was changed. */
export class Refused extends RangeError {}

/** An edit with what it had to change or take away beside what was asked, in words. */
export interface Edited<R> {
  routine: R
  said: readonly string[]
}

/** Some names in words, the first three of very many. */
export const namesInWords = (names: readonly string[]): string =>
  names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ')
