/**
 * Letters and marks on them, as a part of a character class, of all that is written below U+10000.
 * The classes of Unicode (`\p{L}\p{N}`) are hundreds of ranges, which every expression that names them takes up anew: each of them
 * takes half a millisecond to make and as long again when it is first used, and eight times as long to use. Here neighbours are taken
 * together, with what is not given to anything between them. Checked against the classes in the tests.
 */
export const LETTERS = [
  String.raw`A-Za-z\u00aa\u00b5\u00ba\u00c0-\u00d6\u00d8-\u00f6\u00f8-\u02c1\u02e0-\u02e4`,
  String.raw`\u0300-\u0374\u0376-\u037d\u037f\u0386\u0388-\u0559\u0560-\u0588`,
  String.raw`\u0591-\u05bd\u05bf\u05c1\u05c2\u05c4\u05c5\u05c7-\u05f2\u0610-\u061a\u0620-\u065f\u066e-\u06d3\u06d5-\u06dd\u06df-\u06e8\u06ea-\u06ef\u06fa-\u06fc\u06ff-\u0963`,
  String.raw`\u0971-\u0e3e\u0e40-\u0e4e\u0e80-\u1fff\u2071\u207f\u2090-\u209c\u2c00-\u2dff`,
  String.raw`\u3005\u3006\u302a-\u302f\u3031-\u3035\u303b\u303c\u3041-\u309a\u309d-\u309f\u30a1-\u30fa\u30fc-\u318f\u31a0-\u31bf`,
  String.raw`\u31f0-\u31ff\u3400-\u4dbf\u4e00-\ud7ff\uf900-\ufd3d\ufd50-\ufdfb\ufe20-\ufe2f\ufe70-\ufefc`,
  String.raw`\uff21-\uff3a\uff41-\uff5a\uff66-\uffdc`,
].join('')

const NUMBERS = String.raw`0-9\u00b2\u00b3\u00b9\u00bc-\u00be\u0660-\u0669\u06f0-\u06f9\u0966-\u096f\u0e50-\u0e59\u2070-\u2079\u2080-\u2089\u2150-\u218b\u3007\u3021-\u3029\u3038-\u303a\uff10-\uff19`

/** What words are made of, likewise: letters and numbers. */
export const WORD_CHARACTERS = LETTERS + NUMBERS

/** Before a word: no letter or number, nor what else is named as a part of a character class. */
export const wordBegins = (others = ''): string => `(?<![${WORD_CHARACTERS}${others}])`

/** After a word, likewise. */
export const wordEnds = (others = ''): string => `(?![${WORD_CHARACTERS}${others}])`

/** Some words, written as an expression, where they stand as whole words. */
export const wholeWords = (words: string, flags = ''): RegExp =>
  new RegExp(`${wordBegins()}(?:${words})${wordEnds()}`, `${flags}u`)
