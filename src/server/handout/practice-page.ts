import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { type PracticePage, pageHtml, practicePage } from '@/core/handout'
import { openRoutine } from '../routines'
import { traceOfSong } from '../traces'
import { askedFor } from './asked'
import { cutLetters } from './cut-letters'

/** The programs of practice pages, made at set-up: one that is a file, one that is a page of this server. */
const SHELLS = { file: '.made/practice.html', class: '.made/class.html' }

/**
 * A practice page of a dance, its voice still to be put in.
 * @param kind whether it goes out as a file, or is opened by a class's link
 * @throws Problem 409 where there is nothing to hand out
 */
export async function practicePageOf(
  id: string,
  query: URLSearchParams,
  kind: keyof typeof SHELLS = 'file',
  now = new Date(),
): Promise<{ html: string; page: PracticePage }> {
  const { routine, times, contents, book } = await askedFor(id, query)
  const { song } = await openRoutine(id)
  const [shell, sound] = await Promise.all([
    readFile(path.resolve(/* turbopackIgnore: true */ SHELLS[kind]), 'utf8'),
    // Silence is no song a learner could have a copy of.
    routine.combination ? '' : traceOfSong(song.id),
  ])
  const page = practicePage(id, routine, times, book, contents, sound, nanoid, now)
  const { sound: _, ...words } = page
  return { html: pageHtml(shell, page, await cutLetters(JSON.stringify(words))), page }
}
