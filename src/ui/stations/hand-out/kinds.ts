/** What leaves the house. */
export const KINDS = [
  'sheet',
  'page',
  'text',
  'captions',
  'table',
  'sound',
  'film',
  'grid',
  'dates',
  'routine',
] as const
export type Kind = (typeof KINDS)[number]

export const KIND_NAMES: Record<Kind, string> = {
  sheet: 'Cue sheet',
  page: 'Practice page',
  text: 'Text to paste',
  captions: 'Captions and lyric',
  table: 'Spreadsheet',
  sound: 'Practice sound',
  film: 'Practice film',
  grid: 'Counts for other programs',
  dates: 'Dates of a course',
  routine: 'The routine itself',
}

export const PEOPLE = ['learners', 'assistants', 'film', 'myself'] as const
export type Person = (typeof PEOPLE)[number]

/** For whom something is made, and what they usually get, the most usual first. */
export const FOR: Record<Person, { name: string; kinds: readonly Kind[] }> = {
  learners: { name: 'Learners', kinds: ['sheet', 'page', 'sound', 'film', 'text', 'captions', 'dates'] },
  assistants: { name: 'Assistants', kinds: ['routine', 'sheet', 'page', 'table', 'sound', 'film', 'dates'] },
  film: { name: 'A film’s description', kinds: ['text', 'captions'] },
  myself: {
    name: 'Myself',
    kinds: ['routine', 'grid', 'table', 'captions', 'sheet', 'page', 'sound', 'film', 'text', 'dates'],
  },
}
