import * as v from 'valibot'
import { moveBook } from '@/core/choreo'
import { type Contents, nothingIn, usualContents } from '@/core/handout'
import { PASSES, type Routine, repairedBeats } from '@/core/routine'
import { openMoves } from '../moves'
import { Problem } from '../problem'
import { openRoutine } from '../routines'

const tick = v.pipe(v.string(), v.regex(/^-?\d{1,7}$/), v.transform(Number))
const yes = v.pipe(
  v.picklist(['1', '0']),
  v.transform((x) => x === '1'),
)

/** What of a dance is asked for, in an address. */
const Asked = v.object({
  from: v.optional(tick),
  to: v.optional(tick),
  mirrored: v.optional(yes, '0'),
  role: v.optional(v.pipe(v.string(), v.maxLength(200)), ''),
  version: v.optional(v.pipe(v.string(), v.maxLength(24)), 'base'),
  pass: v.optional(v.picklist(PASSES), 'all'),
  tips: v.optional(yes, '1'),
  lyric: v.optional(yes, '1'),
  short: v.optional(yes, '1'),
  plans: v.optional(yes, '1'),
  path: v.optional(yes, '0'),
  size: v.optional(v.picklist(['A4', 'LETTER']), 'A4'),
  across: v.optional(yes, '0'),
  wall: v.optional(yes, '0'),
})

export type Asked = v.InferOutput<typeof Asked>

/** A dance and what of it is handed out. @throws Problem 409 where there is nothing to hand out */
export async function askedFor(id: string, query: URLSearchParams) {
  const asked = v.parse(Asked, Object.fromEntries(query))
  const { routine, heard } = await openRoutine(id)
  const times = repairedBeats(heard?.hearing.beats ?? [], routine.repairs)
  const contents = contentsOf(routine, asked)
  const nothing = nothingIn(routine, times, contents)
  if (nothing) throw new Problem(409, nothing, 'nothing')
  const { moves } = await openMoves()
  return { asked, routine, times, contents, book: moveBook(moves) }
}

function contentsOf(routine: Routine, asked: Asked): Contents {
  const usual = usualContents(routine)
  const from = asked.from ?? usual.stretch.from
  const to = asked.to ?? usual.stretch.to
  if (to <= from) throw new Problem(400, 'A stretch ends after it begins.', 'invalid')
  const { mirrored, role, version, pass, tips, lyric, short, plans, path } = asked
  return { stretch: { from, to }, mirrored, role, version, pass, tips, lyric, short, plans, path }
}
