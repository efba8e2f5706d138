'use client'

import { type FocusEvent, useMemo, useState } from 'react'
import { said } from '@/core/formats/said'
import { type Meant, phraseAt, pieceOf, type Routine, readPointing, stretchName } from '@/core/routine'
import { type Stretch, sameStretch, type Ticks } from '@/core/time'
import type { Page } from '../state/page'

/** What is pointed at in a box: the page, and where one is. */
interface Where {
  page: Pick<Page, 'placed' | 'times'>
  routine: Routine
  /** The place that is meant where none is named. */
  here: Ticks
}

/** What typed words may mean, the likeliest first; or why they mean nothing. */
export function readPlaces(
  { page, routine, here }: Where,
  text: string,
): { meant: Meant[]; problem: string } {
  if (!text.trim()) return { meant: [], problem: '' }
  const { placed, times } = page
  try {
    return {
      meant: readPointing({ routine, placed, times, here: phraseAt(placed, here) }, text),
      problem: '',
    }
  } catch (error) {
    return { meant: [], problem: said(error) }
  }
}

/** Whole phrases are meant as they are danced first, with their pick-up and the 1 they land on; then as they are counted. */
function withPieces({ placed }: Pick<Page, 'placed'>, { meant, problem }: ReturnType<typeof readPlaces>) {
  const all = meant.flatMap((one) => {
    const { from, to } = one.stretch
    const whole = placed.some((p) => p.start === from) && placed.some((p) => p.end === to)
    const piece = whole ? pieceOf(placed, one.stretch) : one.stretch
    return sameStretch(piece, one.stretch)
      ? [one]
      : [{ stretch: piece, name: stretchName(placed, piece) }, one]
  })
  return { meant: all, problem }
}

/**
 * The text of a box that says which counts: its name while nothing is typed, and what the typed words mean as they are typed.
 * Enter takes the first of that; leaving the box takes what can only be meant so. Where other counts are chosen meanwhile, what
 * was typed is gone.
 * @param choose takes what was meant
 */
export function usePlaceText(where: Where, stretch: Stretch | null, choose: (next: Stretch) => void) {
  const name = stretch ? stretchName(where.page.placed, stretch) : ''
  const [work, setWork] = useState({ of: name, typed: null as string | null, refused: '' })
  const { typed, refused } = work.of === name ? work : { typed: null, refused: '' }
  const write = (next: { typed: string | null; refused?: string }) =>
    setWork({ of: name, refused: '', ...next })
  const { page, routine, here } = where
  const { meant, problem } = useMemo(
    () =>
      typed === null || typed.trim() === name
        ? { meant: [], problem: '' }
        : withPieces(page, readPlaces({ page, routine, here }, typed)),
    [page, routine, here, typed, name],
  )
  const take = (next: Meant) => {
    write({ typed: null })
    choose(next.stretch)
  }
  const done = () => {
    const [first] = meant
    if (first) take(first)
    // What means nothing stays to be mended, with the reason.
    else if (problem) write({ typed, refused: problem })
    else write({ typed: null })
  }
  return {
    text: typed ?? name,
    type: (text: string) => write({ typed: text }),
    meant,
    problem: refused,
    take,
    done,
    /** Leaving for one of the choices is not leaving. */
    left: (e: FocusEvent<HTMLElement>) => {
      if (!e.currentTarget.contains(e.relatedTarget) && meant.length < 2) done()
    },
  }
}
