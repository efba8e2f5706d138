import type { ReactNode } from 'react'
import type { PracticePage } from '@/core/handout'
import type { Kept } from './kept'

/** What the way back to the instructor is told. */
export interface SendProps {
  page: PracticePage
  kept: Kept
  onKept: (what: Partial<Kept>) => void
}

/** What is more of a page that a class has a link to. */
export interface InClass {
  above: (props: { page: PracticePage }) => ReactNode
  /** Takes the place of the file that learners send themselves. */
  send: (props: SendProps) => ReactNode
}
