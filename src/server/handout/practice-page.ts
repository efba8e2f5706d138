import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { pageHtml, practicePage } from '@/core/handout'
import { openRoutine } from '../routines'
import { traceOfSong } from '../traces'
import { askedFor } from './asked'
import { cutLetters } from './cut-letters'

/** The program of practice pages, made at set-up. */
const SHELL = '.made/practice.html'

/** A practice page of a dance, its voice still to be put in. @throws Problem 409 where there is nothing to hand out */
export async function practicePageOf(id: string, query: URLSearchParams, now = new Date()): Promise<string> {
  const { routine, times, contents, book } = await askedFor(id, query)
  const { song } = await openRoutine(id)
  const [shell, sound] = await Promise.all([
    readFile(path.resolve(/* turbopackIgnore: true */ SHELL), 'utf8'),
    // Silence is no song a learner could have a copy of.
    routine.combination ? '' : traceOfSong(song.id),
  ])
  const page = practicePage(id, routine, times, book, contents, sound, nanoid, now)
  const { sound: _, ...words } = page
  return pageHtml(shell, page, await cutLetters(JSON.stringify(words)))
}
