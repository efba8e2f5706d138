'use client'

import styled from 'styled-components'
import { type Clash, labelIn, phraseAt, placeName, placePhrases } from '@/core/routine'
import { useRoutine } from '../state/routine-store'

const List = styled.ul`
  margin: 6px 0 0;
  padding-left: 18px;
  font-weight: 400;
`
/** More of them are counted. */
const MOST = 6

const said = (what: string) => (what ? `“${what}”` : 'taken away')

/** What two changed, each otherwise, with both of it. */
export function BothChanged({ clashes }: { clashes: readonly Clash[] }) {
  const phrases = useRoutine((s) => s.routine)
  const placed = placePhrases(phrases)
  const where = ({ at, field }: Clash) => {
    const phrase = at === null ? null : phraseAt(placed, at)
    return phrase && at !== null
      ? `${labelIn(phrase, at)} of ${placeName(phrase)}`
      : (FIELD_WORDS[field] ?? field)
  }
  return (
    <List>
      {clashes.slice(0, MOST).map((c, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a list that never changes while it is shown
        <li key={i}>
          {where(c)}: {said(c.mine)} here, {said(c.theirs)} there
        </li>
      ))}
      {clashes.length > MOST && <li>and {clashes.length - MOST} more</li>}
    </List>
  )
}

/** What has no place in the dance. */
const FIELD_WORDS: Partial<Record<Clash['field'], string>> = {
  title: 'The name',
  phrases: 'How the song is counted',
  repairs: 'How the song is counted',
  plans: 'A lesson',
  films: 'A film',
  space: 'The room',
}
