'use client'

import { useEffect, useState } from 'react'
import styled from 'styled-components'
import {
  fetchNotices,
  keepTold,
  type Notice,
  noticesToTell,
  noticeWords,
  toldUpTo,
  whenNoticed,
} from '../state/account-notices'
import { useMe } from '../state/who'
import { desk } from '../theme/tokens'
import { Button } from './button'
import { LinkWhenMeant } from './link-when-meant'
import { Tools } from './panel'

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
  li { display: flex; flex-wrap: wrap; gap: 2px 12px; font-size: 14px; overflow-wrap: anywhere; }
  time { color: ${desk.quiet}; font-variant-numeric: tabular-nums; min-width: 150px; }
`

const Card = styled.section`
  display: grid;
  gap: 10px;
  background: ${desk.card};
  border: 1px solid ${desk.line};
  &[role='status'] { border: 1.5px solid ${desk.azalea}; }
  border-radius: 12px;
  padding: 14px 16px;
  h2, h3 { font-size: 16px; }
`

interface Known {
  all: readonly Notice[]
  /** What this browser was not told yet. */
  told: readonly Notice[]
  person: string
}

/** What happened with one's account; null until it is known, and on one machine. */
function useNotices(): Known | null {
  const person = useMe()?.id ?? ''
  const [known, setKnown] = useState<Known | null>(null)
  useEffect(() => {
    if (!person) return
    let left = false
    const take = (all: readonly Notice[]) => {
      if (left) return
      const upTo = toldUpTo(person)
      const told = noticesToTell(all, upTo)
      // From now on devices are told here, too.
      if (upTo === null && !told.length) keepTold(person, new Date().toISOString())
      setKnown({ all, told, person })
    }
    // Where it cannot be had now it is told when the page is opened next.
    fetchNotices().then(take, () => {})
    return () => {
      left = true
    }
  }, [person])
  return known
}

const Rows = ({ notices }: { notices: readonly Notice[] }) => (
  <List>
    {notices.map((n) => (
      <li key={n.id}>
        <time dateTime={n.at}>{whenNoticed(n)}</time>
        <span>
          {noticeWords(n)}
          {n.here && ' That is this device.'}
        </span>
      </li>
    ))}
  </List>
)

/** What happened with one's account that this browser was not told yet; nothing where there is none. */
export function NoticesTold() {
  const known = useNotices()
  const [done, setDone] = useState(false)
  if (!known?.told.length || done) return null
  const know = () => {
    keepTold(known.person, known.all[0]?.at ?? '')
    setDone(true)
  }
  return (
    <Card aria-label="About your account" role="status">
      <h2>About your account</h2>
      <Rows notices={known.told} />
      <Tools style={{ alignItems: 'center' }}>
        <Button small onPress={know}>
          I know of that
        </Button>
        <LinkWhenMeant href="/school">I do not: change the password, sign out everywhere</LinkWhenMeant>
      </Tools>
    </Card>
  )
}

/** What happened with one's account, as long as it is kept. */
export function NoticesPart() {
  const known = useNotices()
  if (!known?.all.length) return null
  return (
    <Card>
      <h3>What happened with it</h3>
      <Rows notices={known.all} />
    </Card>
  )
}
