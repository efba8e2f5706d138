import type { MoveBook } from '@/core/choreo'
import type { Contents } from '@/core/handout'
import type { Routine } from '@/core/routine'
import type { Page } from '../../state/page'

/** What each hand-out is made from. */
export interface OutProps {
  id: string
  page: Page
  routine: Routine
  book: MoveBook
  contents: Contents
}
