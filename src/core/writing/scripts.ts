/* In which scripts a text is written, and whose letters it is therefore set with. The app's own type is Latin. */

/** A face of letters that ships with the app: `@fontsource-variable/<name>`. */
export interface Letters {
  name: string
  /** Its family in style sheets. */
  family: string
}

const letters = <N extends string>(name: N, family: string) => ({ name, family: `${family} Variable` })

/** Faces by the scripts they have. Chinese characters (Han) stand in four of them, drawn as each country writes them. */
export const LETTERS = {
  wide: letters('noto-sans', 'Noto Sans'),
  // Its letters carry their dots: where they stand apart, what sets paper loses them.
  arabic: letters('vazirmatn', 'Vazirmatn'),
  hebrew: letters('noto-sans-hebrew', 'Noto Sans Hebrew'),
  thai: letters('noto-sans-thai', 'Noto Sans Thai'),
  korean: letters('noto-sans-kr', 'Noto Sans KR'),
  japanese: letters('noto-sans-jp', 'Noto Sans JP'),
  simplified: letters('noto-sans-sc', 'Noto Sans SC'),
  traditional: letters('noto-sans-tc', 'Noto Sans TC'),
} as const satisfies Record<string, Letters>

type Face = keyof typeof LETTERS

const FACES: readonly [Face, RegExp][] = [
  [
    'wide',
    /(?![\p{ASCII}\u0080-\u00ff])[\p{Script=Latin}\p{Script=Cyrillic}\p{Script=Greek}\p{Script=Devanagari}]/u,
  ],
  ['arabic', /\p{Script=Arabic}/u],
  ['hebrew', /\p{Script=Hebrew}/u],
  ['thai', /\p{Script=Thai}/u],
]
const HANGUL = /\p{Script=Hangul}/u
const KANA = /[\p{Script=Hiragana}\p{Script=Katakana}]/u
/** Han, and the points and wide letters that stand among it. */
const HAN = /[\p{Script=Han}\u3000-\u303f\uff00-\uffef]/u

/*
 * Frequent characters that are written differently on the mainland (first) and elsewhere, in the same order (the table of the
 * reform of 1964, from memory).
 */
const REFORMED = '这个们来说时会为国对没开点过还爱梦风见听话让与无乐泪长后头边谁远给红'
const KEPT = '這個們來說時會為國對沒開點過還愛夢風見聽話讓與無樂淚長後頭邊誰遠給紅'

const timesIn = (text: string, characters: string) => [...text].filter((c) => characters.includes(c)).length

/** Chinese faces that have the Han of a text, the likelier first: Korean songs write it as it was everywhere before the reform. */
const chineseFaces = (text: string): Face[] =>
  HANGUL.test(text) || timesIn(text, KEPT) > timesIn(text, REFORMED)
    ? ['traditional', 'simplified']
    : ['simplified', 'traditional']

/**
 * The faces a text is set with beside the app's own type, in the order in which a letter is looked for. A text that has none
 * of these scripts needs none; scripts that are not listed are left to the machine.
 * @param text everything that is seen together: one song is written in one language
 */
export function lettersFor(text: string): Letters[] {
  const faces = FACES.filter(([, script]) => script.test(text)).map(([face]) => face)
  // Kana tells Japanese, hangul Korean: their own Han stands before that of China.
  const east: Face[] = [
    ...(KANA.test(text) ? (['japanese'] as const) : []),
    ...(HANGUL.test(text) ? (['korean'] as const) : []),
    ...(HAN.test(text) ? chineseFaces(text) : []),
  ]
  return [...new Set([...faces, ...east])].map((face) => LETTERS[face])
}

/** What is not ASCII and no letter of western Europe. Looked for by the engine: texts have megabytes where a page comes with its data. */
const BEYOND = /[^\p{ASCII}\u0080-\u00ff]/gu

/** The letters of a text that the app's own type may not have: each once. */
export const foreignLetters = (text: string): string => [...new Set(text.match(BEYOND) ?? [])].join('')

/** True where a code point lies in ranges as style sheets write them: "U+0-FF,U+131". */
export function inRanges(code: number, ranges: string): boolean {
  return ranges.split(',').some((range) => {
    const [from = '', to = from] = range.trim().slice(2).split('-')
    return code >= Number.parseInt(from, 16) && code <= Number.parseInt(to, 16)
  })
}
