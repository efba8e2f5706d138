import * as v from 'valibot'
import { asSeen, callsOf, type MoveBook, MoveListSchema } from '../choreo'
import { leadWordsOf } from '../drill'
import { base64Text } from '../formats/base64'
import {
  type CalledVoice,
  CUE_FIELD_NAMES,
  CUE_FIELDS,
  type Cue,
  calledVoices,
  danced,
  emptyRoutine,
  fieldsWhere,
  type NewId,
  type OnPage,
  ofPass,
  placePhrases,
  type Routine,
  RoutineSchema,
  StretchSchema,
} from '../routine'
import { instant } from '../routine/document/text-schema'
import { common, holds, type Seconds, timeOfTick } from '../time'
import type { Contents } from './contents'
import { cuesFor } from './contents'
import { movesOf } from './routine-file'

export const PRACTICE_PAGE_VERSION = 1

const id = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{1,40}$/))
const second = v.pipe(v.number(), v.finite())

/** What a practice page is made from: the dance as it was chosen and nothing else, with how its song sounds. */
export const PracticePageSchema = v.object({
  azalea: v.literal('practice'),
  version: v.literal(PRACTICE_PAGE_VERSION),
  made: instant,
  /** The routine's id, by which a learner's marks find home. */
  id,
  /** Repeats written out, one version, one role; no lessons, no log, no other counts. */
  routine: RoutineSchema,
  stretch: StretchSchema,
  /** Seen first as in a mirror; the learner may turn it. */
  mirrored: v.boolean(),
  /** "easier · follower": of whom it is, where that was chosen. */
  facts: v.string(),
  moves: MoveListSchema,
  /** When each count falls in the instructor's copy of the song, in seconds. */
  times: v.pipe(v.array(second), v.minLength(2)),
  /** How the song sounds, base64; '' where it was not worked out, and no copy can be laid on it. */
  sound: v.string(),
})
export type PracticePage = v.InferOutput<typeof PracticePageSchema>

/** What is called on a practice page. */
export const PAGE_CALLS = ['words', 'numbers', 'own', 'none'] as const
export type PageCalls = (typeof PAGE_CALLS)[number]

/** What of a cue stands on a page; with tips, what is said of it too. */
const ON_PAGE = CUE_FIELD_NAMES.filter((name) => CUE_FIELDS[name].page !== 'home')
const WITHOUT_TIPS = ON_PAGE.filter((name) => CUE_FIELDS[name].page === 'shown')

/** A cue as it was chosen to be seen: for itself, in no version, with what is said of it only where that was asked for. */
function plain(cue: Cue, n: number, tips: boolean): Cue {
  const seen = (tips ? ON_PAGE : WITHOUT_TIPS).flatMap((name) =>
    cue[name] === undefined || cue[name] === '' ? [] : [[name, cue[name]]],
  )
  // A cue has a side, and a word that may be empty.
  return { side: cue.side, call: cue.call, ...Object.fromEntries(seen), id: `c${n}` } as Cue
}

/** What was chosen for a page, and the seconds of the song it lasts. */
interface Chosen {
  contents: Contents
  from: Seconds
  to: Seconds
  newId: NewId
}

/** How the fields are chosen from that say so of themselves (core/routine/document/fields.ts). */
const CHOSEN: { [K in OnPage<'chosen'>]: (routine: Routine, chosen: Chosen) => Routine[K] } = {
  excerpt: (_, { contents }) => contents.stretch,
  marks: ({ marks }, { contents, from, to }) =>
    contents.lyric ? marks.filter((m) => m.kind === 'lyric' && m.at >= from && m.at < to) : [],
  cues: (routine, { contents: { stretch, role, version, pass, tips } }) =>
    ofPass(asSeen(danced(routine), role, version), pass)
      .filter((c) => holds(stretch, c.at))
      .map((c, i) => plain(c, i, tips)),
  // Letters alone: who they are stays home.
  dancers: ({ dancers }, { contents }) =>
    contents.plans ? dancers.map((d) => ({ ...d, name: d.letters, partner: null })) : [],
  formations: ({ formations }, { contents: { plans, stretch } }) =>
    plans ? formations.filter((f) => f.at < stretch.to) : [],
  positions: ({ positions }, { contents }) => positions.filter((p) => holds(contents.stretch, p.at)),
  voices: (routine, { contents, newId }) =>
    calledVoices(routine).flatMap((x) => {
      const here = common(x.stretch, contents.stretch)
      const pieces = here ? x.pieces.filter((p) => p.at < here.to) : []
      return here && pieces.length
        ? [{ id: newId(), stretch: here, recording: x.recording, exact: x.exact, pieces: [...pieces] }]
        : []
    }),
}

/** The routine of a practice page: what is shown there and what was chosen, written out. Everything else stays home. */
function routineOf(routine: Routine, times: readonly Seconds[], contents: Contents, newId: NewId): Routine {
  const { from, to } = contents.stretch
  const chosen: Chosen = { contents, newId, from: timeOfTick(times, from), to: timeOfTick(times, to) }
  const shown = fieldsWhere(({ page }) => page === 'shown').map((name) => [name, routine[name]])
  const picked = Object.entries(CHOSEN).map(([name, choose]) => [name, choose(routine, chosen)])
  return {
    ...emptyRoutine(routine.title),
    ...(Object.fromEntries([...shown, ...picked]) as Partial<Routine>),
  }
}

/** Everything a practice page holds beside its voice. @param times when each count falls, in seconds of the song */
export function practicePage(
  id: string,
  routine: Routine,
  times: readonly Seconds[],
  book: MoveBook,
  contents: Contents,
  sound: string,
  newId: NewId,
  now = new Date(),
): PracticePage {
  const own = routineOf(routine, times, contents, newId)
  const { role, version } = contents
  return {
    azalea: 'practice',
    version: PRACTICE_PAGE_VERSION,
    made: now.toISOString(),
    id,
    routine: own,
    stretch: contents.stretch,
    mirrored: contents.mirrored,
    facts: [version === 'base' ? '' : version, role].filter(Boolean).join(' · '),
    moves: movesOf(own, book).map((m) => ({ ...m, note: '', mistakes: '' })),
    times: [...times],
    sound,
  }
}

/** What of a page is seen on one of its sides. */
export const pageContents = ({ stretch }: PracticePage, mirrored: boolean): Contents => ({
  ...{
    stretch,
    mirrored,
    role: '',
    version: 'base',
    pass: 'all',
    tips: true,
    lyric: true,
    short: false,
    plans: true,
    path: false,
  },
})

/** What is called: words by place, and the recordings. @param times when each count falls where it is heard */
export function pageCalls(
  page: PracticePage,
  called: PageCalls,
  mirrored: boolean,
  times: readonly Seconds[],
): { words: ReturnType<typeof callsOf>['words']; wordsOnly: boolean; voices: readonly CalledVoice[] } {
  const { routine } = page
  const cues = cuesFor(routine, pageContents(page, mirrored))
  const calledAs = called === 'words' ? 'words' : 'numbers'
  const said = callsOf(
    { called: calledAs, calledAhead: routine.calledAhead },
    ...[cues, routine.marks, times, placePhrases(routine), mirrored],
  )
  return {
    words: said.words,
    wordsOnly: called === 'none' || said.wordsOnly,
    voices: called === 'own' ? routine.voices : [],
  }
}

/** Every word a page may call, on either side, and counting in. */
export function pageWords(page: PracticePage): string[] {
  const both = [false, true].flatMap((mirrored) =>
    [...pageCalls(page, 'words', mirrored, page.times).words.values()].map((c) => c.word),
  )
  // Where a word has no room its first word is called.
  return [
    ...new Set([
      ...leadWordsOf(page.routine.leadWords),
      ...both.flatMap((w) => [w, w.split(/\s+/)[0] ?? '']),
    ]),
  ].filter(Boolean)
}

/** How the voice of a page is kept: one file of sound for all calls, and where each lies in it. */
export const PageVoiceSchema = v.object({
  /** MP3, base64. */
  file: v.string(),
  /** Where in it a click stands, in seconds: decoders begin at different places, so it is looked for. */
  click: second,
  /** Seconds: from, to, and where its stress falls. */
  calls: v.record(v.string(), v.tuple([second, second, second])),
  /** Recordings of the instructor, whole: from, to. */
  recordings: v.record(v.string(), v.tuple([second, second])),
})
export type PageVoice = v.InferOutput<typeof PageVoiceSchema>

/** Letters a page's words need beside its own type: pieces of fonts (WOFF2, base64) in two weights, with the letters in each. */
export const PageLettersSchema = v.array(
  v.object({ letters: v.string(), regular: v.string(), bold: v.string() }),
)
export type PageLetters = v.InferOutput<typeof PageLettersSchema>

/** So many pictures go into a hand-out, each of so many letters of base64. */
const [MOST_STILLS, LARGEST_STILL] = [600, 60_000]

/** Pictures of counts, out of a film: small ones (JPEG, base64) by tick. */
export const PageStillsSchema = v.object({
  /** They are that of a mirror. */
  mirrored: v.boolean(),
  pictures: v.pipe(
    v.record(v.pipe(v.string(), v.regex(/^-?\d{1,7}$/)), base64Text(LARGEST_STILL)),
    v.check((p) => Object.keys(p).length <= MOST_STILLS, 'There are too many pictures.'),
  ),
})
export type PageStills = v.InferOutput<typeof PageStillsSchema>

/** In the shell of a page these stand for what is put in. */
const [TITLE, PAGE, LETTERS, VOICE] = ['<!--title-->', '<!--page-->', '<!--letters-->', '<!--voice-->']
const STILLS = '<!--stills-->'

/** JSON that cannot end the element it stands in. */
const inElement = (data: unknown) =>
  JSON.stringify(data)
    .replaceAll('<', '\\u003c')
    .replaceAll('\u2028', '\\u2028')
    .replaceAll('\u2029', '\\u2029')
const inText = (text: string) =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c)

/** A page as one file. Its voice may be put in later. @param shell the program of the page */
export const pageHtml = (shell: string, page: PracticePage, letters: PageLetters = []): string =>
  shell
    .replace(TITLE, () => inText(page.routine.title))
    .replace(PAGE, () => inElement(page))
    .replace(LETTERS, () => inElement(letters))

/** The same page with its voice. @throws Error where it has one already, or is none */
export function withVoice(html: string, voice: PageVoice): string {
  if (!html.includes(VOICE)) throw new Error('This is no practice page without a voice.')
  return html.replace(VOICE, () => inElement(voice))
}

/** The same page with pictures of its counts. @throws Error where it has some already, or is no page */
export function withStills(html: string, stills: PageStills): string {
  if (!html.includes(STILLS)) throw new Error('This is no practice page without pictures.')
  return html.replace(STILLS, () => inElement(stills))
}
