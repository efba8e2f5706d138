'use client'

import styled from 'styled-components'
import { AccountLine } from '../../parts/account-line'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { useMe } from '../../state/who'
import { NARROW } from '../../theme/tokens'
import { OwnPart } from './own-part'
import { PeoplePart } from './people-part'

const Page = styled.main`
  max-width: 960px;
  margin: 0 auto;
  padding: 26px 24px 60px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 28px;
  header { display: flex; gap: 16px; align-items: center; }
  h1 { font-size: 28px; }
  h3 { font-size: 16px; }
  ${NARROW} { padding: 18px 14px 40px; }
`

/** One's account, and for whoever keeps the accounts the people of the school. */
export function School() {
  const me = useMe()
  const keeps = me?.role === 'owner'
  return (
    <Page>
      <header>
        <div>
          <LinkWhenMeant href="/">To the shelf</LinkWhenMeant>
          <h1>{keeps ? 'Account and school' : 'Account'}</h1>
        </div>
        <AccountLine here="school" />
      </header>
      {keeps && <PeoplePart />}
      <OwnPart />
    </Page>
  )
}
