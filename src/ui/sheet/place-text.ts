'use client'

import { type FocusEvent, useMemo, useState } from 'react'
import { said } from '@/core/formats/said'
import { type Meant, phraseAt, type Routine, readPointing, stretchName } from '@/core/routine'
import type { Stretch, Ticks } from '@/core/time'
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

/**
 * The text of a box that says which counts: its name while nothing is typed, what the typed words mean as they are typed, and
 * the first of that taken when the box is left.
 * @param choose takes what was meant
 */
export function usePlaceText(where: Where, stretch: Stretch | null, choose: (next: Stretch) => void) {
  const name = stretch ? stretchName(where.page.placed, stretch) : ''
  const [typed, setTyped] = useState<string | null>(null)
  const [refused, setRefused] = useState('')
  const { page, routine, here } = where
  const { meant, problem } = useMemo(
    () =>
      typed === null || typed.trim() === name
        ? { meant: [], problem: '' }
        : readPlaces({ page, routine, here }, typed),
    [page, routine, here, typed, name],
  )
  const take = (next: Meant) => {
    setTyped(null)
    setRefused('')
    choose(next.stretch)
  }
  const done = () => {
    const [first] = meant
    if (first) take(first)
    // What means nothing stays to be mended, with the reason.
    else if (problem) setRefused(problem)
    else setTyped(null)
  }
  return {
    text: typed ?? name,
    type: (text: string) => {
      setTyped(text)
      setRefused('')
    },
    meant,
    problem: refused,
    take,
    done,
    /** Leaving for one of the choices is not leaving. */
    left: (e: FocusEvent<HTMLElement>) => {
      if (!e.currentTarget.contains(e.relatedTarget)) done()
    },
  }
}
